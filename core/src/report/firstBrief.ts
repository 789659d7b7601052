import { inQuotes } from '../brief';
import { isoDay } from '../calendar';
import type { FactsOf, TableFacts } from '../table';
import type { Report } from './report';
import { isIdentifier, isTarget, MONEY } from './words';

/**
 * A first brief for data nobody has described yet: the likeliest amount by a field with few members, against a target
 * where there is one, else against last year where the rows reach back so far. Null when there is nothing to add up.
 */
export function firstBrief(report: Report, facts: FactsOf): string | null {
  const measure = likelyMeasure(report.measures.map(({ name }) => name));
  const table = facts(report.measures.find(({ name }) => name === measure)?.table ?? '');
  if (measure === undefined || !table) return null;
  const target =
    report.benchmarks.find(({ name, kind }) => kind === 'table' && isTarget(name)) ??
    report.benchmarks.find(({ kind }) => kind === 'table') ??
    report.benchmarks.find(({ name }) => isTarget(name) && name !== measure);
  const targets = target?.kind === 'table' ? facts(target.table) : undefined;
  // Members that the targets do not tell apart have none of their own.
  const match = target?.kind === 'table' ? (target.match ?? {}) : {};
  const isIn = (name: string) =>
    !targets || targets.columns.get(Object.hasOwn(match, name) ? match[name]! : name) === 'text';
  const field = fieldFor(table, isIn);
  const by = field ? ` by ${inQuotes(field)}` : '';
  const form = field ? 'bullet' : 'headline';
  if (target) {
    const during = targets && needsPeriod(table, targets) ? ' during year to date' : '';
    return `${inQuotes(measure)}${by}${during} against ${inQuotes(target.name)} as ${form}`;
  }
  const { span } = table;
  const years = span ? Number(isoDay(span.to).slice(0, 4)) - Number(isoDay(span.from).slice(0, 4)) : 0;
  if (years >= 1) return `${inQuotes(measure)}${by} during year to date against "last year" as ${form}`;
  return `${inQuotes(measure)}${by} as ${form}`;
}

/** Whether rows and targets are of other times, so that all of one against all of the other says nothing. */
function needsPeriod(rows: TableFacts, targets: TableFacts): boolean {
  if (!rows.span || !targets.span) return false;
  return targets.span.to > rows.span.to || targets.span.from > rows.span.from;
}

/** Of some numbers the one that is likely to be what is sold, not what names a row or what is aimed at. */
export function likelyMeasure(names: readonly string[]): string | undefined {
  const likely = names.filter((name) => !isTarget(name) && !isIdentifier(name));
  return likely.find((name) => MONEY.test(name)) ?? likely[0] ?? names[0];
}

/** The field whose number of members is easiest to read: at least two, near eight. */
function fieldFor(table: TableFacts, isIn: (name: string) => boolean): string | null {
  const fields = [...table.columns].flatMap(([name, kind]) => {
    if (kind !== 'text' || isIdentifier(name) || !isIn(name)) return [];
    const members = table.members.get(name)?.length ?? 0;
    return members >= 2 && members <= 60 ? [{ name, members }] : [];
  });
  return fields.sort((a, b) => Math.abs(a.members - 8) - Math.abs(b.members - 8))[0]?.name ?? null;
}
