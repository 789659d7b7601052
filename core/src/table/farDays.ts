import { NO_DAY, type Day, type Span } from '../calendar';
import { type DateColumn, type Table } from './column';
import { dayCounts } from './dayCounts';

/** Days of a table that lie so far from all others that they are more likely written by mistake. */
export interface FarDays {
  /** The first rows (from 0) that have one, at most `FAR_KEPT`. */
  readonly rows: readonly number[];
  readonly count: number;
  readonly from: Day;
  readonly to: Day;
  /** The days of all other rows. */
  readonly others: Span;
}

const FAR_KEPT = 100;

/** Days are counted in stretches of this many. */
const STRETCH = 64;
/** So many stretches without a row, three years and a little, are far. */
const FAR = 18;
/** At most one row in so many may lie there. */
const FEW = 20;
/** Beyond so many days nothing is sold. */
const LONGEST = 1 << 22;

const known = new WeakMap<DateColumn, FarDays | null>();

/**
 * Rows whose day is further from all others than three years and than the others' own length, where they are at most a
 * twentieth of all: 9999-12-31 among two years, 2205 for 2025. Null where there are none.
 */
export function farDays(table: Pick<Table, 'columns' | 'date'>): FarDays | null {
  const date = table.date === null ? undefined : table.columns.find(({ name }) => name === table.date);
  if (date?.kind !== 'date') return null;
  let found = known.get(date);
  if (found === undefined) known.set(date, (found = findFar(date)));
  return found;
}

interface Segment {
  /** Stretches. */
  readonly from: number;
  readonly to: number;
  readonly count: number;
}

function findFar(date: DateColumn): FarDays | null {
  const { span } = dayCounts(date);
  if (!span || span.to - span.from < STRETCH * FAR) return null;
  const { days } = date;
  const first = span.from;
  const segments = segmentsOf(date, span);
  // Most tables are of one piece.
  if (segments.length === 1) return null;
  const all = segments.reduce((sum, { count }) => sum + count, 0);
  const main = segments.reduce((best, one, i) => (one.count > segments[best]!.count ? i : best), 0);
  const kept = { from: segments[main]!.from, to: segments[main]!.to };
  const isNear = (gap: number, beyond: readonly Segment[]) =>
    gap <= Math.max(FAR, kept.to - kept.from + 1) || beyond.reduce((sum, { count }) => sum + count, 0) * FEW > all;
  for (let i = main - 1; i >= 0; i--) {
    if (!isNear(kept.from - segments[i]!.to - 1, segments.slice(0, i + 1))) break;
    kept.from = segments[i]!.from;
  }
  for (let i = main + 1; i < segments.length; i++) {
    if (!isNear(segments[i]!.from - kept.to - 1, segments.slice(i))) break;
    kept.to = segments[i]!.to;
  }
  const stretchOf = (day: Day) => Math.min(Math.floor((day - first) / STRETCH), LONGEST / STRETCH);
  const others = { from: Infinity, to: -Infinity };
  const far = { from: Infinity, to: -Infinity };
  const rows: number[] = [];
  let count = 0;
  for (let row = 0; row < days.length; row++) {
    const day = days[row]!;
    if (day === NO_DAY) continue;
    const stretch = stretchOf(day);
    const isFar = stretch < kept.from || stretch > kept.to;
    const span = isFar ? far : others;
    if (day < span.from) span.from = day;
    if (day > span.to) span.to = day;
    if (!isFar) continue;
    count++;
    if (rows.length < FAR_KEPT) rows.push(row);
  }
  return count === 0 ? null : { rows, count, ...far, others };
}

/** Stretches with rows that follow one another without a far gap. */
function segmentsOf(date: DateColumn, { from: first, to: last }: Span): Segment[] {
  const counts = new Uint32Array(Math.min(Math.floor((last - first) / STRETCH), LONGEST / STRETCH) + 1);
  const single = dayCounts(date).counts;
  if (single) single.forEach((count, day) => (counts[Math.floor(day / STRETCH)]! += count));
  else
    for (const day of date.days)
      if (day !== NO_DAY) counts[Math.min(Math.floor((day - first) / STRETCH), counts.length - 1)]!++;
  const segments: Segment[] = [];
  let current: { from: number; to: number; count: number } | null = null;
  for (let s = 0; s < counts.length; s++) {
    if (counts[s] === 0) continue;
    if (current && s - current.to - 1 < FAR) {
      current.to = s;
      current.count += counts[s]!;
    } else {
      current = { from: s, to: s, count: counts[s]! };
      segments.push(current);
    }
  }
  return segments;
}
