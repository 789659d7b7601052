import { inQuotes } from '../brief';
import type { ColumnProfile, FieldsProfile } from '../table';
import type { Report } from './report';

const TARGET = /\b(?:target|plan|planned|budget|goal|quota|forecast)\b/i;
const MONEY = /\b(?:net|gross|sales|revenue|turnover|amount|umsatz|betrag|value|income)\b/i;
const IDENTIFIER = /(?:^|[\s_-])(?:id|no|nr|number|code|zip|year|month)$/i;

/**
 * A first brief for data nobody has described yet: the likeliest amount by a field with few members, against a target
 * where there is one, else against last year where the rows reach back so far. Null when there is nothing to add up.
 */
export function firstBrief(report: Report, profile: FieldsProfile): string | null {
  const measures = report.measures.map(({ name }) => name);
  const likely = measures.filter((name) => !TARGET.test(name) && !IDENTIFIER.test(name));
  const measure = likely.find((name) => MONEY.test(name)) ?? likely[0] ?? measures[0];
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

/** The text column whose number of members is easiest to read: at least two, near eight. */
function fieldFor(columns: readonly ColumnProfile[]): string | null {
  const fields = columns.filter(({ type, members }) => type === 'text' && members >= 2 && members <= 60);
  return fields.sort((a, b) => Math.abs(a.members - 8) - Math.abs(b.members - 8))[0]?.name ?? null;
}
