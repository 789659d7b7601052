import { INK } from '../highlight';
import { PAPER, rounded, type Mark, type Paint } from '../scene';
import type { Belonging } from './shapes';

export type Point = readonly [x: number, y: number];

/** A line through points; null breaks it. A point between two breaks is no line: `loneMarks` shows it. */
export function pathMark(
  role: Mark['role'],
  of: Belonging,
  points: readonly (Point | null)[],
  paint: Paint,
  rule: string | null = null,
): Mark | null {
  const kept: Point[] = [];
  let d = '';
  let broken = true;
  for (const point of points) {
    if (!point) {
      broken = true;
      continue;
    }
    d += `${broken ? 'M' : 'L'}${rounded(point[0])} ${rounded(point[1])}`;
    broken = false;
    kept.push(point);
  }
  return kept.length === 0 ? null : { shape: 'path', role, ...of, value: null, d, points: kept, paint, rule };
}

/**
 * Dots for points of a line that have none beside them, of the line's ink: without a dot nobody would see them.
 * @param runs whether the step of a point still runs; its dot is a ring
 */
export function loneMarks(
  role: Mark['role'],
  of: Belonging,
  points: readonly (Point | null)[],
  { stroke: ink = INK, strokeWidth = 1, opacity }: Paint,
  { rule = null, runs }: { readonly rule?: string | null; readonly runs?: (i: number) => boolean } = {},
): Mark[] {
  const seen = opacity === undefined ? {} : { opacity };
  const paints = { dot: { fill: ink, ...seen }, ring: { fill: PAPER, stroke: ink, strokeWidth: 1, ...seen } };
  return points.flatMap((point, i) =>
    point && !points[i - 1] && !points[i + 1]
      ? [dotMark(role, of, point, strokeWidth + BEYOND, null, runs?.(i) ? paints.ring : paints.dot, rule)]
      : [],
  );
}

/** Pixels by which a dot reaches beyond the line on either side. */
const BEYOND = 0.75;

/** A closed shape between an upper and a lower line, point by point; where one of them is blank there is none. */
export function areaMark(
  role: Mark['role'],
  of: Belonging,
  upper: readonly (Point | null)[],
  lower: readonly (Point | null)[],
  paint: Paint,
): Mark | null {
  const kept: Point[] = [];
  let d = '';
  for (let from = 0; from < upper.length;) {
    let to = from;
    while (to < upper.length && upper[to] && lower[to]) to++;
    if (to > from) {
      const ring = [...upper.slice(from, to), ...lower.slice(from, to).reverse()] as Point[];
      d += `${ring.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${rounded(x)} ${rounded(y)}`).join('')}Z`;
      kept.push(...ring);
    }
    from = Math.max(to, from + 1);
  }
  return kept.length === 0 ? null : { shape: 'path', role, ...of, value: null, d, points: kept, paint, rule: null };
}

/** A dot at a value. */
export function dotMark(
  role: Mark['role'],
  of: Belonging,
  [cx, cy]: Point,
  r: number,
  value: number | null,
  paint: Paint,
  rule: string | null = null,
): Mark {
  return { shape: 'circle', role, key: of.key, step: of.step, value, cx, cy, r, paint, rule };
}

/** Adds what is there. */
export function add(marks: Mark[], ...more: readonly (Mark | null)[]): void {
  for (const mark of more) if (mark) marks.push(mark);
}
