import { inQuotes } from '../brief';
import { isoDay } from '../calendar';
import type { ColumnProfile, FactsOf, FieldsProfile } from '../table';
import type { Report } from './report';

const TARGET = /\b(?:target|plan|planned|budget|goal|quota|forecast)\b/i;
const MONEY = /\b(?:net|gross|sales|revenue|turnover|amount|umsatz|betrag|value|income)\b/i;
/** What a column is called that names things one by one. */
const IDENTIFIER =
  /(?:^|[\s_.-])(?:id|ids|no|nr|num|number|code|sku|key|ref|zip|postcode|phone|year|month)\.?$|^(?:id|nr|no|year|month)\b|[a-z](?:Id|ID|No|Nr|Code|Number)$/;
const isIdentifier = (name: string) => IDENTIFIER.test(name) || IDENTIFIER.test(name.toLowerCase());

/** What is looked at of a table: its columns, and its first and last day. */
type Looked = Pick<FieldsProfile, 'from' | 'to'> & {
  readonly columns: readonly Pick<ColumnProfile, 'name' | 'type' | 'members'>[];
};

/**
 * A first brief for data nobody has described yet: the likeliest amount by a field with few members, against a target
 * where there is one, else against last year where the rows reach back so far. Null when there is nothing to add up.
 */
export function firstBrief(report: Report, profile: Looked): string | null {
  const measure = likelyMeasure(report.measures.map(({ name }) => name));
  if (measure === undefined) return null;
  const field = fieldFor(profile.columns);
  const target =
    report.benchmarks.find(({ name }) => TARGET.test(name) && name !== measure) ??
    report.benchmarks.find(({ kind }) => kind === 'table');
  const years = profile.from && profile.to ? Number(profile.to.slice(0, 4)) - Number(profile.from.slice(0, 4)) : 0;
  const by = field ? ` by ${inQuotes(field)}` : '';
  if (target) return `${inQuotes(measure)}${by} against ${inQuotes(target.name)} as bullet`;
  if (years >= 1) return `${inQuotes(measure)}${by} during year to date against "last year" as bullet`;
  return `${inQuotes(measure)}${by} as bullet`;
}

/** The same for a report whose tables are known, as a new figure begins. */
export function firstBriefOver(report: Report, facts: FactsOf): string | null {
  const name = likelyMeasure(report.measures.map((one) => one.name));
  const table = facts(report.measures.find((one) => one.name === name)?.table ?? '');
  if (!table) return null;
  const { span } = table;
  const columns = [...table.columns].map(([column, type]) => ({
    name: column,
    type,
    members: table.members.get(column)?.length ?? 0,
  }));
  return firstBrief(report, { columns, from: span && isoDay(span.from), to: span && isoDay(span.to) });
}

/** Of some numbers the one that is likely to be what is sold, not what names a row or what is aimed at. */
export function likelyMeasure(names: readonly string[]): string | undefined {
  const likely = names.filter((name) => !TARGET.test(name) && !isIdentifier(name));
  return likely.find((name) => MONEY.test(name)) ?? likely[0] ?? names[0];
}

/** The text column whose number of members is easiest to read: at least two, near eight. */
function fieldFor(columns: Looked['columns']): string | null {
  const fields = columns.filter(
    ({ name, type, members }) => type === 'text' && members >= 2 && members <= 60 && !isIdentifier(name),
  );
  return fields.sort((a, b) => Math.abs(a.members - 8) - Math.abs(b.members - 8))[0]?.name ?? null;
}
