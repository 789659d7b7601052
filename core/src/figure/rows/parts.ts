import { writeNumber, type Writing } from '../../format';
import { INK } from '../../highlight';
import { decimalsOf, tidy } from '../../number';
import { fitRuler, place, type LinearRuler, type TickStep } from '../../ruler';
import { rounded, textWidth, type Mark, type Paint, type Scene } from '../../scene';
import type { FigureRequest } from '../form';
import { lineMark, NO_ROW, rectMark, type Belonging, type Box, type Ends, type LegendEntry } from '../frame';
import type { Cells } from '../../query';
import { rowWords, spoken } from '../names';
import type { RowPlace } from './actualBar';

export const LABEL_SIZE = 13;
export const VALUE_SIZE = 13;
export const GAP_SIZE = 12;
export const TICK_SIZE = 11;
/** Height of the strip the ruler lies on, and the least room between its labels. */
export const STRIP = 26;
export const NATURAL = { few: 34, many: 26 } as const;
export const OUTER = 0.18;

/** What a form of rows draws: its texts, what its ruler must show, and the marks of a row. Both orientations lay it out. */
export interface Plan {
  readonly request: FigureRequest;
  readonly writing: Writing;
  readonly width: number;
  readonly names: readonly string[];
  readonly values: readonly string[];
  readonly gaps: readonly string[];
  /** What the form is called at the beginning of its description. */
  readonly called: string;
  /** Every value the ruler must show. */
  readonly shown: readonly number[];
  readonly legend: readonly LegendEntry[];
  /** Room between rows, as a share of a row. */
  readonly inner: number;
  /** Values stand in a column of their own, or beside the marks. */
  readonly valuesStand: 'in a column' | 'beside';
  /** Pixels that labels beside the marks need behind the ruler's ends. */
  readonly room: readonly [before: number, after: number];
  paint(marks: Mark[], place: RowPlace): void;
  /** Labels beside a row's marks, within two ends; how many found no place. */
  beside?(
    marks: Mark[],
    axes: Axes,
    row: number,
    of: Belonging,
    centre: number,
    ends: readonly [number, number],
    size: number,
    thickness: number,
  ): number;
}

/** The figure's ruler along its value axis, and how its ticks are labelled. */
export function fitted(
  { request, writing, shown }: Plan,
  range: readonly [number, number],
  along: 'x' | 'y',
): { ruler: LinearRuler; label: (value: number) => string } {
  const { ruler } = request;
  const values = [...shown, ...(ruler?.values ?? [])];
  // Zero is zero in every unit, and the heading names the unit.
  const written = (value: number, decimals: number) =>
    value === 0 ? '0' : writeNumber(value, { ...writing, decimals, unit: '' });
  // Decimals a step needs once its values are divided by the figure's scale.
  const shift = Math.round(Math.log10(writing.divisor));
  const decimals = ({ mantissa, exponent }: TickStep) => Math.max(0, shift - exponent + (mantissa === 2.5 ? 1 : 0));
  const fit = ruler?.entry.fit ?? 'zero';
  const fittedRuler = fitRuler({
    values: fit === 'tight' ? [0, ...values] : values,
    range,
    fit: fit === 'tight' ? 'zero' : fit,
    ...(ruler?.entry.domain ? { domain: ruler.entry.domain } : {}),
    extent: (value, step) => (along === 'x' ? textWidth(written(value, decimals(step)), TICK_SIZE) : TICK_SIZE),
    clearance: along === 'x' ? 22 : 18,
  });
  const needed = Math.max(0, ...fittedRuler.ticks.map((tick) => decimalsOf(tidy(tick / writing.divisor)) ?? 4));
  return { ruler: fittedRuler, label: (value) => written(value, needed) };
}

/** Positions along the value axis and across it, turned into x and y. */
export interface Axes {
  readonly along: 'x' | 'y';
  readonly ruler: LinearRuler;
  /** Where bars begin: 0, or the ruler's end next to it. */
  readonly zero: number;
  /** The pixel of a value; of one beyond the ruler the pixel of its end. */
  readonly at: (value: number) => number;
  /** The value lies on the ruler. */
  readonly shows: (value: number) => boolean;
  readonly rect: (
    v0: number,
    v1: number,
    centre: number,
    thickness: number,
  ) => { x: number; y: number; width: number; height: number };
  /** A rule across a row at a value. */
  readonly across: (
    value: number,
    centre: number,
    length: number,
  ) => { x1: number; y1: number; x2: number; y2: number };
}

export function axesFor(ruler: LinearRuler, along: 'x' | 'y'): Axes {
  // On a ruler with fixed ends a value may lie beyond; it is drawn to the end, with a sign that it goes on.
  const at = (value: number) => place(ruler, Math.min(ruler.domain[1], Math.max(ruler.domain[0], value)));
  return {
    along,
    at,
    shows: (value) => value >= ruler.domain[0] && value <= ruler.domain[1],
    ruler,
    zero: Math.min(Math.max(0, ruler.domain[0]), ruler.domain[1]),
    rect(v0, v1, centre, thickness) {
      const [a, b] = [Math.min(at(v0), at(v1)), Math.max(at(v0), at(v1))];
      const half = thickness / 2;
      return along === 'x'
        ? { x: a, y: centre - half, width: b - a, height: thickness }
        : { x: centre - half, y: a, width: thickness, height: b - a };
    },
    across(value, centre, length) {
      const p = at(value);
      const [c0, c1] = [centre - length / 2, centre + length / 2];
      return along === 'x' ? { x1: p, y1: c0, x2: p, y2: c1 } : { x1: c0, y1: p, x2: c1, y2: p };
    },
  };
}

export const FINE: Paint = { stroke: INK, strokeWidth: 1 };

export function widest(texts: readonly string[], size: number, weight: 400 | 600 = 400): number {
  return texts.reduce((most, text) => Math.max(most, textWidth(text, size, weight)), 0);
}

export function nullIfBlank(value: number): number | null {
  return Number.isNaN(value) ? null : value;
}

/** The place of a row that answers to the pointer, with the row in words. */
export function cellMark(cells: Cells, writing: Writing, row: number, of: Belonging, box: Box): Mark {
  return {
    ...rectMark('cell', of, box, nullIfBlank(cells.actual[row]!), {}),
    words: rowWords(cells, row, writing),
  };
}

/** A chevron at the ruler's end for a bar that goes on beyond it. */
export function beyondMark(
  axes: Axes,
  of: Belonging,
  value: number,
  centre: number,
  thickness: number,
  ink: string,
): Mark | null {
  const [low, high] = axes.ruler.domain;
  if (axes.shows(value)) return null;
  const end = place(axes.ruler, value > high ? high : low);
  const forward = Math.sign(axes.ruler.range[1] - axes.ruler.range[0]) * (value > high ? 1 : -1);
  const [deep, half] = [5, Math.min(6, thickness / 2)];
  const points = (
    [
      [end, -half],
      [end + forward * deep, 0],
      [end, half],
    ] as const
  ).map(([p, c]) => (axes.along === 'x' ? ([p, centre + c] as const) : ([centre + c, p] as const)));
  const d = `${points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${rounded(x)} ${rounded(y)}`).join('')}Z`;
  return {
    shape: 'path',
    role: 'break',
    key: of.key,
    step: of.step,
    value,
    d,
    points,
    paint: { fill: ink },
    rule: null,
  };
}

export function zeroLine(ruler: LinearRuler, line: (at: number) => Ends): Mark[] {
  if (ruler.domain[0] > 0 || ruler.domain[1] < 0) return [];
  return [lineMark('zero', NO_ROW, line(place(ruler, 0)), 0, FINE)];
}

export function sceneOf(
  { request, called }: Plan,
  title: string,
  { width, height }: { width: number; height: number },
  marks: Mark[],
  dropped: number,
  ruler: LinearRuler,
  axis: 'x' | 'y',
  strip: { x: number; y: number; width: number; height: number },
): Scene {
  const { cells } = request;
  const description = spoken(called, cells);
  const id = request.ruler?.entry.id ?? 'own';
  return {
    width,
    height,
    title,
    description,
    rulers: [{ id, axis, kind: 'linear', domain: ruler.domain, range: ruler.range, ticks: ruler.ticks, strip }],
    marks,
    dropped,
  };
}
