import { inQuotes } from '../brief';
import { isoDay } from '../calendar';
import { columnsOf, readExpression } from '../measure';
import { isProblem } from '../problem';
import { spreadOf, type FactsOf, type Table, type TableFacts } from '../table';
import type { Report } from './report';
import { isIdentifier, isTarget, likelyMeasure } from './words';

/**
 * A first brief for data nobody has described yet: the likeliest amount by the field of few members that differ most in it, against a
 * target where there is one, else against last year where the rows reach back so far; of rows of several years it is the current one's.
 * Null when there is nothing to add up.
 * @param tableOf the rows of a table, where they are at hand
 */
export function firstBrief(report: Report, facts: FactsOf, tableOf: (id: string) => Table | undefined): string | null {
  const measure = likelyMeasure(report.measures.map(({ name }) => name));
  const of = report.measures.find(({ name }) => name === measure);
  const table = of && facts(of.table);
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
  const rows = tableOf(table.id);
  const [amount] = columnsIn(of.expression);
  const field = fieldFor(table, isIn, (name) => (rows && amount !== undefined ? spreadOf(rows, name, amount) : 0));
  const by = field ? ` by ${inQuotes(field)}` : '';
  const form = field ? 'bullet' : 'headline';
  if (target) {
    const during = targets && (isOfYears(table) || needsPeriod(table, targets)) ? ' during year to date' : '';
    return `${inQuotes(measure)}${by}${during} against ${inQuotes(target.name)} as ${form}`;
  }
  if (isOfYears(table)) return `${inQuotes(measure)}${by} during year to date against "last year" as ${form}`;
  return `${inQuotes(measure)}${by} as ${form}`;
}

/** Whether the rows are of more than one year. */
const isOfYears = ({ span }: TableFacts): boolean =>
  span !== null && isoDay(span.to).slice(0, 4) > isoDay(span.from).slice(0, 4);

/** What an expression reads; nothing where it cannot be read. */
function columnsIn(expression: string): readonly string[] {
  try {
    return columnsOf(readExpression(expression));
  } catch (error) {
    if (!isProblem(error)) throw error;
    return [];
  }
}

/** Whether rows and targets are of other times, so that all of one against all of the other says nothing. */
function needsPeriod(rows: TableFacts, targets: TableFacts): boolean {
  if (!rows.span || !targets.span) return false;
  return targets.span.to > rows.span.to || targets.span.from > rows.span.from;
}

/** Members that are easily read at once. */
const READABLE = { least: 3, most: 20 };

/**
 * The field whose members differ most, of those with 3 to 20; else the one with the number of members that is easiest to read. A field
 * that names rows one by one, or their currency, is none.
 */
function fieldFor(
  { columns, members, currencies = [], rows }: TableFacts,
  isIn: (name: string) => boolean,
  spread: (name: string) => number,
): string | null {
  const fields = [...columns].flatMap(([name, kind]) => {
    if (kind !== 'text' || isIdentifier(name) || currencies.includes(name) || !isIn(name)) return [];
    const count = members.get(name)?.length ?? 0;
    const namesRows = rows > READABLE.most && count * 2 > rows;
    return count >= 2 && count <= 60 && !namesRows ? [{ name, count }] : [];
  });
  const ranked = fields.map(({ name, count }) => {
    const isReadable = count >= READABLE.least && count <= READABLE.most;
    return { name, isReadable, spread: isReadable ? spread(name) : 0, far: Math.abs(count - 8) };
  });
  ranked.sort((a, b) => Number(b.isReadable) - Number(a.isReadable) || b.spread - a.spread || a.far - b.far);
  return ranked[0]?.name ?? null;
}
