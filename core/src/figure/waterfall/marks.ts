import { writeNumber, type Writing } from '../../format';
import { AHEAD, BEHIND, encodeRow, INK, LEVEL, QUIET } from '../../highlight';
import { total as sumOf } from '../../number';
import type { Cells } from '../../query';
import type { LinearRuler } from '../../ruler';
import { PAPER, textWidth, type Box, type Mark, type Paint, type Role } from '../../scene';
import type { FigureRequest } from '../form';
import type { LegendEntry } from '../legend';
import { barPaint, lineMark, NO_ROW, rectMark, type Belonging } from '../shapes';
import { pathMark } from '../path';
import { highlightEntries, sampleRect } from '../rows/legend';
import { axesFor, nullIfBlank, type Axes } from '../rows/parts';
import type { DrawnStep } from './steps';

/** Everything both orientations lay out. */
export interface WaterfallPlan {
  readonly request: FigureRequest;
  readonly writing: Writing;
  readonly steps: readonly DrawnStep[];
  readonly names: readonly string[];
  readonly texts: readonly string[];
  readonly legend: readonly LegendEntry[];
  readonly values: readonly number[];
  readonly zoomed: boolean;
}

/** How a step is painted: totals in ink; steps by their sign and the aim, or as the brief's highlight says. */
export function stepPaint(
  { cells, highlight }: FigureRequest,
  step: DrawnStep,
): { paint: Paint; ink: string; rule: string | null } {
  if (step.kind === 'total') return { paint: { fill: INK }, ink: INK, rule: null };
  if (step.kind === 'subtotal') return { paint: { fill: QUIET }, ink: QUIET, rule: null };
  if (cells.brief.lit !== null && step.row !== null) {
    const encoding = encodeRow(highlight, cells, step.row);
    return { paint: barPaint(encoding), ink: encoding.text, rule: encoding.rule };
  }
  const ink = inkOf(cells, step.value);
  return { paint: { fill: ink }, ink, rule: null };
}

function inkOf(cells: Cells, value: number): string {
  if (!cells.benchmarks) return value < 0 ? BEHIND : LEVEL;
  const { aim } = cells.measure;
  if (aim === 'hold' || value === 0) return LEVEL;
  return value > 0 === (aim === 'raise') ? AHEAD : BEHIND;
}

const ROLES: Record<DrawnStep['kind'], (step: DrawnStep) => Role> = {
  total: () => 'total',
  subtotal: () => 'subtotal',
  step: ({ value, isRest }) => (isRest ? 'rest' : value < 0 ? 'fall' : 'rise'),
};

/** The bar of a step between its ends, and on a ruler of its own the sign that a total is broken. */
export function stepMarks(
  marks: Mark[],
  plan: WaterfallPlan,
  step: DrawnStep,
  axes: Axes,
  centre: number,
  thickness: number,
): void {
  const { paint, rule } = stepPaint(plan.request, step);
  const value = step.kind === 'total' ? step.end : nullIfBlank(step.value);
  const box = axes.rect(step.start, step.end, centre, thickness);
  // A step stands where it ends, which is not its value.
  marks.push({
    ...rectMark(ROLES[step.kind](step), step.of, visible(box, axes.along), value, paint, rule),
    at: step.end,
  });
  if (plan.zoomed && step.kind === 'total') marks.push(...breakMarks(axes, step.of, centre, thickness));
}

/** A step of nothing is still seen: a hairline where it stands. */
function visible(box: Box, along: 'x' | 'y'): Box {
  return along === 'x' ? { ...box, width: Math.max(box.width, 0) } : { ...box, height: Math.max(box.height, 0) };
}

/** Two slanted cuts of paper through the stub of a total that does not begin at zero. */
function breakMarks(axes: Axes, of: Belonging, centre: number, thickness: number): Mark[] {
  const base = axes.at(axes.zero);
  const forward = axes.backward ? -1 : 1;
  return [8, 14].flatMap((deep) => {
    const at = base + forward * deep;
    const half = thickness / 2 + 2;
    const ends = [
      [at - 2.5, centre - half],
      [at + 2.5, centre + half],
    ] as const;
    const mark = pathMark(
      'break',
      of,
      ends.map(([a, c]) => (axes.along === 'x' ? ([a, c] as const) : ([c, a] as const))),
      { stroke: PAPER, strokeWidth: 2.5 },
    );
    return mark ? [mark] : [];
  });
}

/** From the end of a step to the start of the next, at the same value. */
export function connectorMark(axes: Axes, of: Belonging, value: number, from: number, to: number): Mark {
  const at = axes.at(value);
  const ends = axes.along === 'x' ? { x1: at, y1: from, x2: at, y2: to } : { x1: from, y1: at, x2: to, y2: at };
  return lineMark('connector', of, ends, value, { stroke: QUIET, strokeWidth: 0.75 });
}

export function axesOf(ruler: LinearRuler, along: 'x' | 'y'): Axes {
  return axesFor(ruler, along);
}

/** What the inks of steps mean, and how they add up. */
export function legendOf(
  request: FigureRequest,
  writing: Writing,
  steps: readonly DrawnStep[],
  zoomed: boolean,
): LegendEntry[] {
  const { cells } = request;
  const parts = steps.filter(({ kind }) => kind === 'step');
  const entries: LegendEntry[] =
    cells.brief.lit !== null
      ? highlightEntries(request, writing)
      : [true, false].flatMap((up) => {
          const found = parts.find(({ value }) => (up ? value > 0 : value < 0));
          if (!found) return [];
          const what = cells.benchmarks ? (up ? 'adds' : 'takes away') : up ? 'adds' : 'takes away';
          return [{ words: what, sample: (x: number, y: number) => [sampleRect(x, y, 9, inkOf(cells, found.value))] }];
        });
  if (zoomed) entries.push({ words: 'broken: the ruler does not begin at zero', sample: brokenSample });
  return [...entries, { words: tieOut(steps, writing), wide: 0, sample: () => [] }];
}

/** A piece of a total with its two cuts. */
function brokenSample(x: number, y: number): Mark[] {
  const cut = (at: number) =>
    pathMark(
      'legend',
      NO_ROW,
      [
        [at - 1.5, y + 6],
        [at + 1.5, y - 6],
      ],
      { stroke: PAPER, strokeWidth: 2 },
    );
  return [sampleRect(x, y, 9, INK), ...[5, 9].flatMap((at) => cut(x + at) ?? [])];
}

/** The sum in words, and what rounding leaves where the numbers shown do not add up. */
function tieOut(steps: readonly DrawnStep[], writing: Writing): string {
  const write = (value: number, signed = false) => writeNumber(value, writing, signed);
  const parts = steps.filter(({ kind, value }) => kind === 'step' && !Number.isNaN(value));
  const [first] = steps;
  const last = steps[steps.length - 1]!;
  const begins = first?.kind === 'total' && first !== last ? first : null;
  const from = begins?.value ?? 0;
  const words = `${begins ? `${begins.name} ${write(from)} ` : ''}${write(last.value - from, begins !== null)} in ${parts.length} ${parts.length === 1 ? 'step' : 'steps'} = ${last.name} ${write(last.value)}`;
  const unit = writing.divisor / 10 ** writing.decimals;
  const rounded = (value: number) => Math.round(value / unit);
  const shown = sumOf([rounded(from), ...parts.map(({ value }) => rounded(value))], 0);
  const off = rounded(last.value) - shown;
  return off === 0 ? words : `${words}; the rounded numbers add up to ${write(shown * unit)}`;
}

/** Width of a value, for room beyond the ends. */
export const valueWidth = (texts: readonly string[], size: number) =>
  texts.reduce((wide, text) => Math.max(wide, textWidth(text, size, 600)), 0);
