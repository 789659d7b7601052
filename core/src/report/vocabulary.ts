import type { Vocabulary } from '../brief';
import { declaredOrder, inOrder, type FactsOf } from '../table';
import type { Benchmark, Report } from './report';

/** Benchmarks that are there without being defined; a definition with the same name wins. */
export const BUILT_IN_BENCHMARKS: readonly Benchmark[] = [
  { name: 'previous period', kind: 'period', back: { periods: 1 } },
  { name: 'previous day', kind: 'period', back: { periods: 1 } },
  { name: 'last year', kind: 'period', back: { years: 1 } },
  { name: 'average', kind: 'peers', statistic: 'mean' },
];

/** All benchmarks of a report, the built-in ones last. */
export function benchmarksOf(report: Report): readonly Benchmark[] {
  const defined = new Set(report.benchmarks.map(({ name }) => name.toLowerCase()));
  return [...report.benchmarks, ...BUILT_IN_BENCHMARKS.filter(({ name }) => !defined.has(name))];
}

/** The highlight every report has: standing by ink and badge. */
export const STANDING_HIGHLIGHT = 'standing';

/**
 * The names briefs of a report may use. Fields are the text and yes/no columns of the tables that measures read, and behind them those
 * of whole numbers; all numbers may stand in conditions.
 */
export function vocabularyOf(report: Report, facts: FactsOf): Vocabulary {
  const measured = new Set(report.measures.map(({ table }) => table));
  const read = report.tables.flatMap(({ id }) => (measured.has(id) ? (facts(id) ?? []) : []));
  const columns = read.flatMap((table) => [...table.columns].map(([name, kind]) => ({ table, name, kind })));
  const fields = columns.filter(({ kind }) => kind === 'text' || kind === 'yesno').map(({ name }) => name);
  const numbers = columns.filter(({ kind }) => kind === 'number');
  const whole = numbers.filter(({ table, name }) => table.decimals.get(name) === 0).map(({ name }) => name);
  const aliases = new Map(read.flatMap((table) => [...(table.aliases ?? [])]));
  const highlights = new Set([STANDING_HIGHLIGHT, ...report.highlights.map(({ name }) => name)]);
  const members = new Map<string, readonly string[]>();
  return {
    measures: report.measures.map(({ name }) => name),
    fields: [...new Set([...fields, ...whole])],
    numbers: [...new Set(numbers.map(({ name }) => name))],
    ...(aliases.size > 0 ? { aliases } : {}),
    benchmarks: benchmarksOf(report).map(({ name }) => name),
    highlights: [...highlights],
    rulers: report.rulers.map(({ id }) => id),
    members(field) {
      let known = members.get(field);
      if (!known) {
        const named = read.flatMap((table) => table.members.get(field) ?? []);
        // Numbers are written as they are, not chosen from a list.
        if (!read.some((table) => table.members.get(field))) return null;
        const declared = read
          .map(({ orders }) => declaredOrder({ orders }, field))
          .find((order) => order !== undefined);
        known = inOrder([...new Set(named)], declared, report.calendar);
        members.set(field, known);
      }
      return known;
    },
  };
}
