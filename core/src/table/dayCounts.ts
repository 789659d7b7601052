import { NO_DAY, type Day, type Span } from '../calendar';
import type { DateColumn } from './column';

/** Days further apart than this are not counted one by one. */
const LONGEST = 1 << 22;

/** The days of a column, and how many rows each has. */
export interface DayCounts {
  /** First and last day; null where no row has one. */
  readonly span: Span | null;
  /** Rows of each day from the first on; null where first and last are too far apart. */
  readonly counts: Uint32Array | null;
}

const known = new WeakMap<Int32Array, DayCounts>();

/** Counted once for each column. */
export function dayCounts({ days }: Pick<DateColumn, 'days'>): DayCounts {
  let found = known.get(days);
  if (!found) known.set(days, (found = count(days)));
  return found;
}

function count(days: Int32Array): DayCounts {
  let first = 2_147_483_647;
  let last = -2_147_483_648;
  for (let row = 0; row < days.length; row++) {
    const day = days[row]!;
    if (day === NO_DAY) continue;
    if (day < first) first = day;
    if (day > last) last = day;
  }
  if (first > last) return { span: null, counts: null };
  const span = { from: first, to: last };
  if (last - first >= LONGEST) return { span, counts: null };
  const counts = new Uint32Array(last - first + 1);
  for (let row = 0; row < days.length; row++) if (days[row] !== NO_DAY) counts[days[row]! - first]!++;
  return { span, counts };
}

/** First and last day with rows within a span; null without any. Of days too far apart for counting, all are looked at. */
export function daysWithin(date: Pick<DateColumn, 'days'>, within: Span): Span | null {
  const { span, counts } = dayCounts(date);
  if (!span || within.from > span.to || within.to < span.from) return null;
  let from: Day = Math.max(span.from, within.from);
  let to: Day = Math.min(span.to, within.to);
  if (counts) {
    while (from <= to && counts[from - span.from] === 0) from++;
    while (to > from && counts[to - span.from] === 0) to--;
    return from <= to ? { from, to } : null;
  }
  const found = { from: Infinity, to: -Infinity };
  for (const day of date.days) {
    if (day === NO_DAY || day < from || day > to) continue;
    if (day < found.from) found.from = day;
    if (day > found.to) found.to = day;
  }
  return found.from <= found.to ? found : null;
}
