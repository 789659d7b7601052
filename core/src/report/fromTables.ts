import type { FieldsProfile } from '../table';
import { REPORT_VERSION, type Benchmark, type Measure, type Report } from './report';

/** A table for which a report is to be made: its id, its file's name, what is known of it. */
export interface KnownTable {
  readonly id: string;
  readonly file: string;
  readonly profile: FieldsProfile;
}

/**
 * A report for data without one. Each number column c of the first table gives a measure `c` = sum(c) and can be held
 * against as `c`; each number column of a further table gives a target of its name (of `table column` when the name is taken).
 */
export function reportFor(name: string, [main, ...targets]: readonly KnownTable[]): Report {
  const numbers = (table: KnownTable | undefined) =>
    table?.profile.columns.filter(({ type }) => type === 'number').map((c) => c.name) ?? [];
  const measures: Measure[] = numbers(main).map((column) => ({
    name: column,
    table: main!.id,
    expression: `sum(${inQuotes(column)})`,
    aim: 'raise',
    tolerance: 0,
    format: { style: 'number', scale: 'auto' },
  }));
  const benchmarks: Benchmark[] = [];
  const add = (benchmark: Benchmark) => {
    if (!benchmarks.some((known) => known.name.toLowerCase() === benchmark.name.toLowerCase()))
      benchmarks.push(benchmark);
  };
  for (const target of targets) {
    const columns = numbers(target);
    for (const column of columns) {
      const taken = benchmarks.some((known) => known.name === column);
      const of = {
        kind: 'table',
        table: target.id,
        expression: `sum(${inQuotes(column)})`,
        spread: 'even',
        split: 'none',
      } as const;
      add({ name: taken ? `${target.id} ${column}` : column, ...of });
      if (columns.length === 1) add({ name: target.id, ...of });
    }
  }
  for (const column of numbers(main)) add({ name: column, kind: 'expression', expression: `sum(${inQuotes(column)})` });
  return {
    boldRuler: REPORT_VERSION,
    name,
    calendar: { fiscalYearStart: 1, fiscalYearNamed: 'end', weekStart: 'monday', asOf: 'auto' },
    tables: [main!, ...targets].map(({ id, file }) => ({ id, source: { file } })),
    measures,
    benchmarks,
    rulers: [],
    highlights: [],
    figures: [],
    pages: [],
  };
}

function inQuotes(column: string): string {
  return `"${column.replaceAll('"', '""')}"`;
}
