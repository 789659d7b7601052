import { rounded, textWidth, type Mark, type Paint } from '../../scene';
import { badgeMark, centred, textMark, type Belonging } from '../shapes';
import type { Point } from '../path';
import { spread, withRoom } from '../time/endLabels';
import type { Series } from '../time/series';

export const NAME_SIZE = 12;
export const PITCH = { few: 34, many: 17, least: 13 } as const;
/** Members of one rank in one step lie this far beside one another. */
const TIED = 5;

export function lastOfAll(series: readonly Series[], last: (one: Series) => number): number {
  return Math.max(0, ...series.map(last));
}

/** Members of one rank in one step stand beside one another, in their order. */
export function tiesOf(series: readonly Series[], rank: Float64Array): ReadonlyMap<number, number> {
  const offsets = new Map<number, number>();
  const length = series[0]?.rows.length ?? 0;
  for (let i = 0; i < length; i++) {
    const byRank = new Map<number, number[]>();
    for (const { rows } of series) {
      const at = rank[rows[i]!]!;
      if (!Number.isNaN(at)) byRank.set(at, [...(byRank.get(at) ?? []), rows[i]!]);
    }
    for (const rows of byRank.values())
      if (rows.length > 1)
        rows.forEach((row, k) => offsets.set(row, (k - (rows.length - 1) / 2) * Math.min(TIED, 20 / rows.length)));
  }
  return offsets;
}

/** A curve that is level at each node; a member without a rank breaks it. */
export function linkMark(
  role: Mark['role'],
  of: Belonging,
  points: readonly (Point | null)[],
  paint: Paint,
  rule: string | null,
): Mark | null {
  const kept: Point[] = [];
  let d = '';
  let before: Point | null = null;
  for (const point of points) {
    if (point) {
      const at = `${rounded(point[0])} ${rounded(point[1])}`;
      if (before) {
        const middle = rounded((before[0] + point[0]) / 2);
        d += `C${middle} ${rounded(before[1])} ${middle} ${rounded(point[1])} ${at}`;
      } else d += `M${at}`;
      kept.push(point);
    }
    before = point;
  }
  return kept.length === 0 ? null : { shape: 'path', role, ...of, value: null, d, points: kept, paint, rule };
}

interface Side {
  /** The rank a name stands at; NaN for none. */
  at(one: Series): number;
  y(rank: number): number;
  readonly x: number;
  readonly anchor: 'start' | 'end';
  readonly range: readonly [number, number];
  strong(one: Series): boolean;
  ink(one: Series): string;
  /** Places won since the first step; null where no change is told. */
  readonly change: ((one: Series) => number | null) | null;
}

/** Names at one end of the lines, apart from one another. */
export function sideLabels(marks: Mark[], series: readonly Series[], names: readonly string[], side: Side): number {
  const there = series
    .map((one, i) => ({ one, name: names[i]!, at: side.at(one) }))
    .filter(({ at }) => !Number.isNaN(at));
  const shown = withRoom(there, ({ one }) => side.strong(one), PITCH.least, side.range);
  const heights = spread(
    shown.map(({ at }) => ({ y: side.y(at) })),
    PITCH.least,
    side.range,
  );
  let dropped = there.length - shown.length;
  shown.forEach(({ one, name }, i) => {
    const height = heights[i];
    if (height === null || height === undefined) {
      dropped++;
      return;
    }
    const fill = side.ink(one);
    const of: Belonging = { key: one.key, step: null };
    marks.push(
      textMark('label', name, side.x, centred(height, NAME_SIZE), NAME_SIZE, {
        anchor: side.anchor,
        weight: side.strong(one) ? 600 : 400,
        paint: { fill },
        row: of,
      }),
    );
    const change = side.change?.(one) ?? null;
    if (change === null) return;
    const from = side.x + textWidth(name, NAME_SIZE, 600) + 11;
    if (change !== 0) marks.push(badgeMark(change > 0 ? 'up' : 'down', from, height, fill, null, of));
    else marks.push(badgeMark('level', from, height, fill, null, of));
    if (change !== 0)
      marks.push(
        textMark('value', String(Math.abs(change)), from + 8, centred(height, NAME_SIZE), 11, {
          paint: { fill },
          row: of,
          value: change,
        }),
      );
  });
  return dropped;
}
