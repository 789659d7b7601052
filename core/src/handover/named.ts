import { readBrief } from '../brief';
import { columnsOf, readExpression } from '../measure';
import { isProblem, type Problem } from '../problem';
import type { Workspace } from '../query';
import { benchmarksOf, figureOf, type Measure } from '../report';

/** Names that figures and readers of a page use and that its tables may not hold: what they say stays readable. */
export interface CarriedNames {
  readonly fields: readonly string[];
  readonly numbers: readonly string[];
  /** All members of a field. */
  readonly members: Readonly<Record<string, readonly string[]>>;
}

/** What figures name, whether it could be asked for or not: columns by table, and why a brief cannot be read. */
export interface NamedByFigures {
  readonly columns: ReadonlyMap<string, ReadonlySet<string>>;
  readonly unread: ReadonlyMap<string, Problem>;
  readonly fields: ReadonlySet<string>;
}

/** What some figures name: fields, measures, benchmarks and what those are made of. */
export function namedBy({ report, source, vocabulary }: Workspace, figures: Iterable<string>): NamedByFigures {
  const columns = new Map<string, Set<string>>();
  const unread = new Map<string, Problem>();
  const all = new Set<string>();
  const benchmarks = benchmarksOf(report);
  const add = (table: string, names: readonly string[]) => {
    const facts = source.facts(table);
    if (!facts) return;
    const known = columns.get(table) ?? new Set();
    for (const name of names) {
      const own = facts.aliases?.get(name) ?? name;
      if (facts.columns.has(own)) known.add(own);
    }
    columns.set(table, known);
  };
  /** Names in an expression; none where it cannot be read, which is said where it is asked for. */
  const inExpression = (expression: string): string[] => {
    try {
      return columnsOf(readExpression(expression));
    } catch (error) {
      if (!isProblem(error)) throw error;
      return [];
    }
  };
  const inCurrency = ({ currency }: Pick<Measure, 'currency'>): string[] =>
    currency ? [currency.column, ...(currency.amounts ?? [])] : [];
  const addBenchmark = (name: string, measured: string, fields: readonly string[], seen: readonly string[] = []) => {
    const benchmark = benchmarks.find((one) => one.name === name);
    if (!benchmark || seen.includes(name)) return;
    const { kind } = benchmark;
    if (kind === 'scaled') addBenchmark(benchmark.of, measured, fields, [...seen, name]);
    if (kind === 'fixed') add(measured, benchmark.per);
    if (kind !== 'table' && kind !== 'expression') return;
    const own = kind === 'table' ? [...Object.values(benchmark.match ?? {}), ...inCurrency(benchmark)] : [];
    add(benchmark.table ?? measured, [...inExpression(benchmark.expression), ...fields, ...own]);
  };
  for (const id of figures) {
    const figure = figureOf(report, id);
    if (!figure) continue;
    try {
      const { views, by, only, against } = readBrief(figure.brief, vocabulary);
      const fields = [...by, ...only.map(({ field }) => field)];
      for (const field of fields) all.add(field);
      for (const { measure } of views) {
        const found = report.measures.find(({ name }) => name === measure);
        if (!found) continue;
        add(found.table, [...inExpression(found.expression), ...inCurrency(found), ...fields]);
        if (against !== null) addBenchmark(against, found.table, fields);
      }
    } catch (error) {
      if (!isProblem(error)) throw error;
      unread.set(id, error);
    }
  }
  return { columns, unread, fields: all };
}
