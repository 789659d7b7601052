import { inQuotes } from '../brief';
import type { FieldsProfile } from '../table';
import { REPORT_VERSION, type Benchmark, type Measure, type NumberFormat, type Report } from './report';

/** A table for which a report is to be made: its id, its file's name, what is known of it. */
export interface KnownTable {
  readonly id: string;
  readonly file: string;
  /** The sheet of the file, where it has several. */
  readonly sheet?: string;
  readonly profile: FieldsProfile;
}

/**
 * A report for data without one. Each number column c of the first table gives a measure `c` = sum(c) and can be held
 * against as `c`; each number column of a further table gives a target of its name (of `table column` when the name is taken).
 */
export function reportFor(name: string, [main, ...targets]: readonly KnownTable[]): Report {
  const numbers = (table: KnownTable | undefined) =>
    table?.profile.columns.filter(({ type }) => type === 'number').map((c) => c.name) ?? [];
  const units = new Map(main?.profile.columns.map(({ name: column, unit }) => [column, unit]));
  const measures = numbers(main).map((column) => measureOf(main!.id, column, units.get(column)));
  const benchmarks: Benchmark[] = [];
  for (const target of targets) benchmarks.push(...targetsFrom(target.id, numbers(target), benchmarks));
  for (const column of numbers(main)) {
    if (isFree(column, benchmarks))
      benchmarks.push({ name: column, kind: 'expression', expression: `sum(${inQuotes(column)})` });
  }
  return {
    boldRuler: REPORT_VERSION,
    name,
    calendar: { fiscalYearStart: 1, fiscalYearNamed: 'end', weekStart: 'monday', asOf: 'auto' },
    tables: [main!, ...targets].map(({ id, file, sheet }) => ({ id, source: { file, ...(sheet ? { sheet } : {}) } })),
    measures,
    benchmarks,
    rulers: [],
    highlights: [],
    figures: [],
    pages: [],
  };
}

function measureOf(table: string, column: string, unit: string | undefined): Measure {
  return {
    name: column,
    table,
    expression: `sum(${inQuotes(column)})`,
    aim: 'raise',
    tolerance: 0,
    format: formatFor(unit),
  };
}

/** What a table's columns are and were. */
export interface ColumnsChanged {
  /** Columns that are gone, or are no numbers any more. */
  readonly lost: readonly string[];
  readonly newNumbers: readonly { readonly name: string; readonly unit?: string }[];
}

/**
 * A report whose table has other columns now: what only added up a column that is gone, and stands in no figure, goes with
 * it; new number columns give what `reportFor` would have given for them.
 */
export function withColumns(report: Report, table: string, { lost, newNumbers }: ColumnsChanged): Report {
  const briefs = report.figures.map(({ brief }) => brief.toLowerCase()).join('\n');
  const sums = new Set(lost.map((column) => `sum(${inQuotes(column)})`));
  const goes = (name: string, expression: string) => sums.has(expression) && !briefs.includes(name.toLowerCase());
  const isMeasured = report.measures.some((measure) => measure.table === table);
  const measures = report.measures.filter((one) => one.table !== table || !goes(one.name, one.expression));
  const benchmarks = report.benchmarks.filter(
    (one) =>
      !(
        (one.kind === 'table' && one.table === table && goes(one.name, one.expression)) ||
        (one.kind === 'expression' && isMeasured && goes(one.name, one.expression))
      ),
  );
  if (!isMeasured) {
    const names = newNumbers.map(({ name }) => name);
    return { ...report, benchmarks: [...benchmarks, ...targetsFrom(table, names, benchmarks)] };
  }
  for (const { name, unit } of newNumbers) {
    if (!measures.some((one) => one.name.toLowerCase() === name.toLowerCase()))
      measures.push(measureOf(table, name, unit));
    if (isFree(name, benchmarks)) benchmarks.push({ name, kind: 'expression', expression: `sum(${inQuotes(name)})` });
  }
  return { ...report, measures, benchmarks };
}

/** The format that what stood beside the numbers suggests. */
function formatFor(unit: string | undefined): NumberFormat {
  if (unit === '%') return { style: 'percent', decimals: 1 };
  return unit === undefined ? { style: 'number', scale: 'auto' } : { style: 'currency', currency: unit, scale: 'auto' };
}

/**
 * A benchmark for each number column of a table of targets, called like the column, or `table column` where that name is
 * taken; one that is the table's only number can also be called by the table.
 */
export function targetsFrom(table: string, columns: readonly string[], known: readonly Benchmark[]): Benchmark[] {
  const found: Benchmark[] = [];
  const add = (name: string, column: string) => {
    if (!isFree(name, [...known, ...found])) return false;
    found.push({ name, kind: 'table', table, expression: `sum(${inQuotes(column)})`, spread: 'even', split: 'none' });
    return true;
  };
  for (const column of columns) if (!add(column, column)) add(`${table} ${column}`, column);
  if (columns.length === 1) add(table, columns[0]!);
  return found;
}

function isFree(name: string, benchmarks: readonly Benchmark[]): boolean {
  return !benchmarks.some((known) => known.name.toLowerCase() === name.toLowerCase());
}
