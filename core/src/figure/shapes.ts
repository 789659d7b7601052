import { INK, type Encoding } from '../highlight';
import { PAPER, rounded, type Box, type Mark, type Paint, type Part, type Weight } from '../scene';

/** What a mark belongs to: a row, or nothing. */
export interface Belonging {
  readonly key: Mark['key'];
  readonly step: string | null;
  readonly part?: Part | undefined;
}

/** For marks of the frame, which belong to no row. */
export const NO_ROW: Belonging = { key: {}, step: null };

interface TextMore {
  readonly anchor?: 'start' | 'middle' | 'end';
  readonly weight?: Weight;
  readonly paint?: Paint;
  readonly rule?: string | null;
  readonly row?: Belonging;
  readonly value?: number | null;
}

const INKED: Paint = { fill: INK };

// Marks are made by the thousand: their objects are written out whole, all of one shape.

/** A text mark. `y` is its baseline. */
export function textMark(
  role: Mark['role'],
  text: string,
  x: number,
  y: number,
  size: number,
  more: TextMore = {},
): Mark {
  const { anchor = 'start', weight = 400, paint = INKED, rule = null, row = NO_ROW, value = null } = more;
  const { key, step, part } = row;
  return { shape: 'text', role, key, step, value, text, x, y, size, anchor, weight, paint, rule, part };
}

export function rectMark(
  role: Mark['role'],
  row: Belonging,
  { x, y, width, height }: Box,
  value: number | null,
  paint: Paint,
  rule: string | null = null,
): Mark {
  // Where there is no room, there is nothing of it.
  const size = { width: Math.max(0, width), height: Math.max(0, height) };
  return { shape: 'rect', role, key: row.key, step: row.step, value, x, y, ...size, paint, rule };
}

export interface Ends {
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
}

export function lineMark(
  role: Mark['role'],
  row: Belonging,
  { x1, y1, x2, y2 }: Ends,
  value: number | null,
  paint: Paint,
): Mark {
  return { shape: 'line', role, key: row.key, step: row.step, value, x1, y1, x2, y2, paint, rule: null };
}

/** How a bar of that encoding is painted. */
export function barPaint({ ink, edge, pattern, faded }: Encoding): Paint {
  const [line, width] = edge === null && pattern ? [ink, 1] : [edge, 1.5];
  return {
    fill: ink,
    ...(pattern ? { pattern } : {}),
    ...(line === null ? {} : { stroke: line, strokeWidth: width }),
    ...(faded ? { opacity: FADED } : {}),
  };
}

/** What is left of a row that steps back. */
const FADED = 0.35;

/** Baseline that centres the digits of a size on a line. */
export function centred(y: number, size: number): number {
  return y + size * 0.345;
}

const UP = outline([
  [-4, 4.5],
  [-4, -0.5],
  [0, -4.5],
  [4, -0.5],
  [4, 4.5],
]);
const BADGES = {
  up: UP,
  level: outline([
    [-4.5, -1.75],
    [4.5, -1.75],
    [4.5, 1.75],
    [-4.5, 1.75],
  ]),
  down: outline(UP.corners.map(([x, y]) => [x, -y] as const)),
};

/** A closed outline around a centre: its corners, and how the path goes on from the first of them. */
function outline(corners: readonly (readonly [number, number])[]) {
  const rest = corners
    .slice(1)
    .map(([x, y], i) => `l${rounded(x - corners[i]![0])} ${rounded(y - corners[i]![1])}`)
    .join('');
  return { corners, rest: `${rest}Z` };
}

/** The badge of a standing, centred: a tag that points up, a bar, a tag that points down. Each has its own outline, so that colour is not needed. */
export function badgeMark(
  badge: 'up' | 'level' | 'down',
  x: number,
  y: number,
  ink: string,
  rule: string | null = null,
  row: Belonging = NO_ROW,
): Mark {
  const { corners, rest } = BADGES[badge];
  const points: [number, number][] = [];
  for (const [px, py] of corners) points.push([x + px, y + py]);
  const d = `M${rounded(points[0]![0])} ${rounded(points[0]![1])}${rest}`;
  const paint: Paint = badge === 'down' ? { fill: PAPER, stroke: ink, strokeWidth: 1.75 } : { fill: ink };
  return { shape: 'path', role: 'badge', key: row.key, step: row.step, value: null, d, points, paint, rule };
}
