import { briefOrNull } from '../brief';
import { columnsOf, readExpression } from '../measure';
import { namesIn } from '../form';
import type { CurrencyConversion, Report } from '../report';
import { aliasesOf } from './columns';
import type { Names } from './edit';

/** What an expression reads; one that cannot be read reads nothing. */
function columnsIn(expression: string): readonly string[] {
  try {
    return columnsOf(readExpression(expression));
  } catch {
    return [];
  }
}

/** Everything that would miss a column of a table, as a sentence names it. */
export function usersOfColumn(report: Report, table: string, column: string, names: Names): string[] {
  const { vocabulary, facts } = names;
  const aliases = new Set(aliasesOf(names, table, column).map((alias) => alias.toLowerCase()));
  const same = (name: string | null | undefined) => name?.toLowerCase() === column.toLowerCase();
  const reads = (expression: string | undefined) =>
    expression !== undefined && columnsIn(expression).some((name) => same(name) || aliases.has(name.toLowerCase()));
  const entry = report.tables.find(({ id }) => id === table);
  const measured = new Set(report.measures.filter((one) => one.table === table).map(({ name }) => name));
  const isMeasured = measured.size > 0;
  const users: string[] = [];
  for (const one of entry?.derived ?? [])
    if (!same(one.name) && reads(one.expression)) users.push(`the column ${one.name}`);
  if (same(entry?.date)) users.push('the rows’ date');
  if (same(entry?.rates?.currency) || same(entry?.rates?.rate)) users.push('the rates of currencies');
  const isOfCurrency = (one: { readonly currency?: CurrencyConversion }) =>
    same(one.currency?.column) || one.currency?.amounts?.some(same) === true;
  for (const { columns, to } of entry?.joins ?? []) if (columns.some(same)) users.push(`the lookup in ${to}`);
  for (const one of entry?.columns ?? [])
    if (!same(one.name) && same(one.orderBy)) users.push(`the order of ${one.name}`);
  for (const one of report.measures)
    if (one.table === table && (reads(one.expression) || isOfCurrency(one))) users.push(`the measure ${one.name}`);
  for (const one of report.benchmarks) {
    const isRead =
      (one.kind === 'table' &&
        one.table === table &&
        (reads(one.expression) || isOfCurrency(one) || Object.values(one.match ?? {}).some(same))) ||
      (one.kind === 'table' && isMeasured && Object.keys(one.match ?? {}).some(same)) ||
      (one.kind === 'expression' && (one.table ?? table) === table && isMeasured && reads(one.expression)) ||
      (one.kind === 'fixed' && isMeasured && one.per.some(same));
    if (isRead) users.push(`the benchmark ${one.name}`);
  }
  if (isMeasured)
    for (const { name, expression } of report.highlights) if (reads(expression)) users.push(`the highlight ${name}`);
  for (const figure of report.figures) {
    const brief = briefOrNull(figure.brief, vocabulary);
    if (!brief || !brief.views.some(({ measure }) => measured.has(measure))) continue;
    const isRead =
      brief.by.some(same) ||
      brief.only.some(({ field }) => same(field)) ||
      namesIn(figure.look).some(
        ({ name, of }) => (of === 'field' && same(name)) || (of === 'expression' && reads(name)),
      );
    if (isRead) users.push(`the figure “${figure.brief}”`);
  }
  if (isMeasured)
    for (const { title, filters } of report.pages)
      if (filters.some(({ field }) => same(field))) users.push(`a filter of the page ${title}`);
  if (isMeasured)
    for (const levels of report.hierarchies ?? [])
      if (levels.some(same)) users.push(`the levels ${levels.join(' › ')}`);
  // Who looks the column up uses it as well.
  for (const other of report.tables) {
    for (const { to, on, since } of other.joins ?? [])
      if (to === table && (on.some(same) || same(since))) users.push(`the lookup of ${other.id}`);
    for (const { to, names: brought } of facts(other.id)?.joined ?? [])
      if (to === table)
        for (const { name, of } of brought)
          if (of === column) users.push(...usersOfColumn(report, other.id, name, names));
  }
  return [...new Set(users)];
}
