import { HAIRLINE, INK, QUIET } from '../../highlight';
import { PAPER, type Box, type Mark, type Paint } from '../../scene';
import { lineMark, rectMark, type Belonging } from '../shapes';
import { add, dotMark, loneMarks, pathMark, type Point } from '../path';
import { along, type CellScale } from './scale';

const COLUMN = '#A79F8F';

/** A step of a row: what it belongs to, and the ink a highlight gives it. */
export interface SparkStep {
  readonly of: Belonging;
  readonly value: number;
  /** The step is not over. */
  readonly runs: boolean;
  readonly lit: { readonly ink: string; readonly rule: string | null } | null;
}

/** The first highest and the first lowest of some values; none where there are fewer than two different ones. */
export function extremesOf(values: readonly number[]): { highest: number; lowest: number } | null {
  let highest = -1;
  let lowest = -1;
  values.forEach((value, i) => {
    if (Number.isNaN(value)) return;
    if (highest < 0 || value > values[highest]!) highest = i;
    if (lowest < 0 || value < values[lowest]!) lowest = i;
  });
  return highest < 0 || values[highest] === values[lowest] ? null : { highest, lowest };
}

/** What a small column tells beside its height: what it is lit by, an end of its row, or that its step still runs. */
export type SparkTells = 'lit' | 'highest' | 'lowest' | 'running' | 'plain';

/** What each of a row's small columns tells. */
export function tellsOf(steps: readonly Pick<SparkStep, 'value' | 'lit' | 'runs'>[]): SparkTells[] {
  const ends = extremesOf(steps.map(({ value, runs }) => (runs ? NaN : value)));
  return steps.map(({ lit, runs }, i) =>
    lit ? 'lit' : ends?.highest === i ? 'highest' : ends?.lowest === i ? 'lowest' : runs ? 'running' : 'plain',
  );
}

/** How small columns that no rule paints are painted. */
export const SPARK_PAINTS: Readonly<Record<SparkTells, Paint>> = {
  lit: { fill: INK },
  highest: { fill: INK },
  lowest: { fill: PAPER, stroke: INK, strokeWidth: 1 },
  running: { fill: COLUMN, pattern: 'hatch' },
  plain: { fill: COLUMN },
};

/** Steps as small columns: the highest in ink, the lowest as an outline, a line at zero where there are both signs. */
export function sparkColumns(
  marks: Mark[],
  { x, y, width, height }: Box,
  steps: readonly SparkStep[],
  scale: CellScale,
  of: Belonging,
): void {
  const [top, bottom] = [y + 4, y + height - 4];
  const at = (value: number) => along(scale, value, bottom, top);
  const zero = at(0);
  const step = width / Math.max(1, steps.length);
  const wide = Math.max(0.5, step - Math.min(1.5, step * 0.25));
  const told = tellsOf(steps);
  steps.forEach(({ of: belongs, value, lit }, i) => {
    if (Number.isNaN(value)) return;
    const end = at(value);
    const box = { x: x + i * step, y: Math.min(zero, end), width: wide, height: Math.max(Math.abs(end - zero), 0) };
    const paint = lit ? { fill: lit.ink } : SPARK_PAINTS[told[i]!];
    // An outline is drawn on its middle: inside its column it stays within.
    const drawn = told[i] === 'lowest' ? inset(box) : box;
    marks.push(rectMark('path', belongs, drawn, value, paint, lit?.rule ?? null));
  });
  if (scale.low < 0)
    marks.push(
      lineMark('zero', of, { x1: x, y1: zero, x2: x + width, y2: zero }, 0, { stroke: INK, strokeWidth: 0.75 }),
    );
}

function inset({ x, y, width, height }: Box): Box {
  return { x: x + 0.5, y: y + 0.5, width: Math.max(0, width - 1), height: Math.max(0, height - 0.5) };
}

/** Steps as a small line, its highest and lowest as dots, its last as a ring. */
export function sparkLine(
  marks: Mark[],
  { x, y, width, height }: Box,
  steps: readonly SparkStep[],
  scale: CellScale,
  of: Belonging,
): void {
  const [top, bottom] = [y + 5, y + height - 5];
  const at = (value: number) => along(scale, value, bottom, top);
  const px = (i: number) => x + 3 + ((width - 6) * i) / Math.max(1, steps.length - 1);
  const points = steps.map(({ value }, i): Point | null => (Number.isNaN(value) ? null : [px(i), at(value)]));
  const zero = at(0);
  marks.push(
    lineMark('zero', of, { x1: x, y1: zero, x2: x + width, y2: zero }, 0, { stroke: HAIRLINE, strokeWidth: 0.75 }),
  );
  const paint = { stroke: QUIET, strokeWidth: 1.5 };
  add(marks, pathMark('path', of, points, paint), ...loneMarks('path', of, points, paint));
  const ends = extremesOf(steps.map(({ value, runs }) => (runs ? NaN : value)));
  if (!ends) return;
  for (const [i, paint] of [
    [ends.highest, { fill: INK }],
    [ends.lowest, { fill: PAPER, stroke: INK, strokeWidth: 1.25 }],
  ] as const)
    marks.push(dotMark('emphasis', steps[i]!.of, points[i]!, 2.5, steps[i]!.value, paint));
}
