import { withNames } from '../form';
import { columnAsWritten, readExpression, withColumnNamed } from '../measure';
import { isProblem } from '../problem';
import type { ReportDraft } from './edit';

const alike = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();

/** Follows a table's new name to every place that uses it, also before the names of columns that are looked up in it. */
export function followTable(draft: ReportDraft, from: string, to: string): void {
  const isBehind = (name: string) => name.length > from.length + 1 && alike(name.slice(0, from.length + 1), `${from}.`);
  const next = (name: string) => (isBehind(name) ? `${to}.${name.slice(from.length + 1)}` : name);
  const table = (id: string) => (alike(id, from) ? to : id);
  const keyed = <T>(of: Readonly<Record<string, T>>): Record<string, T> =>
    Object.fromEntries(Object.entries(of).map(([name, value]) => [next(name), value]));
  const written = (text: string): string => {
    try {
      const named = (name: string) => `${columnAsWritten(to)}.${columnAsWritten(name.slice(from.length + 1))}`;
      return withColumnNamed(text, readExpression(text), isBehind, named);
    } catch (error) {
      if (!isProblem(error)) throw error;
      return text;
    }
  };
  /** Names stand in a brief in quotes, with quotes in them twice; one with a dot always does. */
  const inBrief = (text: string) =>
    text.replace(/"(?:[^"]|"")*"/g, (quoted) => {
      const name = quoted.slice(1, -1).replaceAll('""', '"');
      return isBehind(name) ? `"${next(name).replaceAll('"', '""')}"` : quoted;
    });

  for (const entry of draft.tables) {
    entry.id = table(entry.id);
    for (const one of entry.derived ?? []) one.expression = written(one.expression);
    for (const column of entry.columns ?? []) {
      column.name = next(column.name);
      if (column.orderBy !== undefined) column.orderBy = next(column.orderBy);
    }
    for (const join of entry.joins ?? []) {
      join.to = table(join.to);
      join.columns = join.columns.map(next);
    }
    if (entry.rates) entry.rates = { currency: next(entry.rates.currency), rate: next(entry.rates.rate) };
    if (entry.same) entry.same = keyed(entry.same);
    if (entry.repeats && entry.repeats.by !== 'row') entry.repeats.by = entry.repeats.by.map(next);
  }
  const converted = <C extends { column: string; rates: string; amounts?: string[] }>(currency: C): C => ({
    ...currency,
    column: next(currency.column),
    rates: table(currency.rates),
    ...(currency.amounts ? { amounts: currency.amounts.map(next) } : {}),
  });
  for (const one of draft.measures) {
    if (one.currency) one.currency = converted(one.currency);
    one.table = table(one.table);
    one.expression = written(one.expression);
  }
  for (const one of draft.benchmarks) {
    if (one.kind === 'table') one.table = table(one.table);
    if (one.kind === 'table' && one.currency) one.currency = converted(one.currency);
    if (one.kind === 'expression' && one.table !== undefined) one.table = table(one.table);
    if (one.kind === 'table' || one.kind === 'expression') one.expression = written(one.expression);
    if (one.kind === 'table' && one.match)
      one.match = Object.fromEntries(Object.entries(one.match).map(([field, column]) => [next(field), next(column)]));
    if (one.kind === 'fixed') one.per = one.per.map(next);
  }
  for (const one of draft.highlights) if (one.expression !== undefined) one.expression = written(one.expression);
  for (const figure of draft.figures) {
    figure.brief = inBrief(figure.brief);
    const look = withNames(figure.look, (name, of) =>
      of === 'field' ? next(name) : of === 'expression' ? written(name) : name,
    );
    if (look !== figure.look) figure.look = look;
  }
  for (const page of draft.pages) for (const filter of page.filters) filter.field = next(filter.field);
  if (draft.hierarchies) draft.hierarchies = draft.hierarchies.map((levels) => levels.map(next));
  for (const one of draft.accepted ?? []) if (one.about === 'table') one.id = table(one.id);
}
