import { namesOfRow, type Cells } from '../../query';
import { Problem } from '../../problem';
import type { Look } from '../../report';
import { NO_ROW, type Belonging } from '../shapes';

/** The steps of one member, in their order. */
export interface Series {
  readonly name: string;
  readonly key: Belonging['key'];
  /** The row of each step. */
  readonly rows: readonly number[];
}

/** The members of a figure over time, each with all its steps. Throws a `Problem` where the brief has no steps. */
export function seriesOf(cells: Cells, without: string | null = null): Series[] {
  const { steps, grain, count, members, fields, brief } = cells;
  if (!steps || !grain)
    throw new Problem(
      'needs-steps',
      `a figure drawn as ${brief.form ?? 'trend'} goes over time, and the brief has no steps`,
      { in: 'brief' },
      'add a grain, such as “each month”',
    );
  const series: Series[] = [];
  for (let from = 0; from < count;) {
    let to = from + 1;
    while (to < count && steps[to]! > steps[to - 1]!) to++;
    const first = from;
    series.push({
      name: namesOfRow(cells, first, without).join(' · ') || cells.measure.name,
      key:
        fields.length === 0
          ? NO_ROW.key
          : Object.fromEntries(fields.map((field, f) => [field, members[f]![first] || null])),
      rows: Array.from({ length: to - from }, (_, i) => first + i),
    });
    from = to;
  }
  return series;
}

/** With more lines than this a few stand out by themselves, as nobody could follow all. */
const MANY = 12;
const FEW = 3;

/** Names of the members that stand out: those a look names, as far as they are there; all of a few; of many the best by what they end with. */
export function standingOut(
  series: readonly Series[],
  { emphasis }: Look,
  last: (one: Series) => number,
): ReadonlySet<string> {
  const named = new Set(emphasis);
  if (series.some(({ name }) => named.has(name))) return named;
  if (series.length <= MANY) return new Set(series.map(({ name }) => name));
  const ended = series.filter((one) => !Number.isNaN(last(one))).sort((a, b) => last(b) - last(a));
  return new Set(ended.slice(0, FEW).map(({ name }) => name));
}

/** The last value of a series; blank where it has none. */
export function lastValue(values: ArrayLike<number>, { rows }: Series): number {
  const row = rows.findLast((one) => !Number.isNaN(values[one]!));
  return row === undefined ? NaN : values[row]!;
}
