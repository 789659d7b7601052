import { inQuotes } from '../brief';
import { columnsRead, fieldsNamedAlike, type Table } from '../table';
import {
  REPORT_VERSION,
  type Benchmark,
  type Measure,
  type NumberFormat,
  type Report,
  type TableEntry,
} from './report';
import { ratesBeside } from './ratesBeside';
import { proposedUse, useOf } from './uses';
import { isRate } from './words';

/** A table for which a report is to be made: what its entry says, and its rows. */
export interface KnownTable {
  readonly entry: TableEntry;
  readonly table: Table;
}

/** The columns of numbers of a table, with what stands beside them. */
const numbersOf = ({ table }: KnownTable): NumberOf[] =>
  columnsRead(table).flatMap((column) =>
    column.kind === 'number' ? [{ name: column.name, ...(column.unit ? { unit: column.unit } : {}) }] : [],
  );

interface NumberOf {
  readonly name: string;
  readonly unit?: string;
}

/**
 * A report for data without one. Each number column c of the first table gives a measure `c` = sum(c), or avg(c) for rates, and can
 * be held against as `c`. Of further tables, those that say more of what stands in the first are looked up in; each number column of
 * targets gives a benchmark of its name (of `table column` when the name is taken), of other facts a measure. Rates of currencies are
 * said to be rates.
 */
export function reportFor(name: string, [main, ...further]: readonly KnownTable[]): Report {
  const measures = main ? numbersOf(main).map((column) => measureOf(main.entry.id, column)) : [];
  const benchmarks: Benchmark[] = [];
  const entries = new Map([main!, ...further].map(({ entry }) => [entry.id, entry]));
  const left: KnownTable[] = [];
  const lookups: KnownTable[] = [];
  const lookUp = (from: KnownTable, to: KnownTable, { join } = proposedUse(from.table, to.table)): boolean => {
    if (!join) return false;
    const entry = entries.get(from.entry.id)!;
    entries.set(entry.id, { ...entry, joins: [...(entry.joins ?? []), join] });
    lookups.push(to);
    return true;
  };
  for (const other of further) {
    const rates = ratesBeside(main!.table, other.table);
    if (rates) {
      entries.set(other.entry.id, { ...other.entry, rates });
      continue;
    }
    const proposed = proposedUse(main!.table, other.table);
    if (proposed.use === 'targets')
      benchmarks.push(
        ...targetsFrom(
          other.entry.id,
          numbersOf(other).map((one) => one.name),
          benchmarks,
          fieldsNamedAlike(main!.table, other.table),
        ),
      );
    else if (!lookUp(main!, other, proposed)) left.push(other);
  }
  // What says more of a lookup is looked up from there.
  const others = left.filter((other) => !lookups.some((lookup) => lookup !== other && lookUp(lookup, other)));
  for (const other of others)
    for (const column of numbersOf(other))
      if (!measures.some((known) => known.name.toLowerCase() === column.name.toLowerCase()))
        measures.push(measureOf(other.entry.id, column));
  for (const column of main ? numbersOf(main) : []) {
    if (isFree(column.name, benchmarks))
      benchmarks.push({ name: column.name, kind: 'expression', expression: aggregateOf(column) });
  }
  return {
    boldRuler: REPORT_VERSION,
    name,
    calendar: { fiscalYearStart: 1, fiscalYearNamed: 'end', weekStart: 'monday', asOf: 'auto' },
    tables: [...entries.values()],
    measures,
    benchmarks,
    rulers: [],
    highlights: [],
    figures: [],
    pages: [],
  };
}

/** Amounts are added up; of rates, prices and scores the mean is taken. */
const aggregateOf = ({ name, unit }: NumberOf) => `${isRate(name, unit) ? 'avg' : 'sum'}(${inQuotes(name)})`;

/** The measure that a column of numbers gives. */
export function measureOf(table: string, column: NumberOf): Measure {
  return {
    name: column.name,
    table,
    expression: aggregateOf(column),
    aim: 'raise',
    tolerance: 0,
    format: formatFor(column.unit),
  };
}

/** What a table's columns are and were. */
export interface ColumnsChanged {
  /** Columns that are gone, or are no numbers any more. */
  readonly lost: readonly string[];
  readonly newNumbers: readonly NumberOf[];
}

/**
 * A report whose table has other columns now: what only added up a column that is gone, and stands in no figure, goes with
 * it; new number columns give what `reportFor` would have given for them.
 */
export function withColumns(report: Report, table: string, { lost, newNumbers }: ColumnsChanged): Report {
  const briefs = report.figures.map(({ brief }) => brief.toLowerCase()).join('\n');
  const sums = new Set(lost.flatMap((column) => ['sum', 'avg'].map((of) => `${of}(${inQuotes(column)})`)));
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
    // What is looked up in, or is for nothing yet, gives no targets by itself.
    if (useOf(report, table) !== 'targets') return { ...report, measures, benchmarks };
    const names = newNumbers.map(({ name }) => name);
    return { ...report, benchmarks: [...benchmarks, ...targetsFrom(table, names, benchmarks)] };
  }
  for (const column of newNumbers) {
    const { name } = column;
    if (!measures.some((one) => one.name.toLowerCase() === name.toLowerCase())) measures.push(measureOf(table, column));
    if (isFree(name, benchmarks)) benchmarks.push({ name, kind: 'expression', expression: aggregateOf(column) });
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
 * @param match the columns of fields that are called otherwise there
 */
export function targetsFrom(
  table: string,
  columns: readonly string[],
  known: readonly Benchmark[],
  match: Readonly<Record<string, string>> = {},
): Benchmark[] {
  const matched = Object.keys(match).length > 0 ? { match } : {};
  const found: Benchmark[] = [];
  const add = (name: string, column: string) => {
    if (!isFree(name, [...known, ...found])) return false;
    const expression = aggregateOf({ name: column });
    found.push({ name, kind: 'table', table, expression, spread: 'even', split: 'none', ...matched });
    return true;
  };
  for (const column of columns) if (!add(column, column)) add(`${table} ${column}`, column);
  if (columns.length === 1) add(table, columns[0]!);
  return found;
}

function isFree(name: string, benchmarks: readonly Benchmark[]): boolean {
  return !benchmarks.some((known) => known.name.toLowerCase() === name.toLowerCase());
}
