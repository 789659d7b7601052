import { writeNumber, writingFor, type Writing } from '../../format';
import { INK } from '../../highlight';
import { decimalsOf, tidy } from '../../number';
import { fitRuler, place, type Fit, type LinearRuler, type TickStep } from '../../ruler';
import { rounded, textWidth, wrapWhole, type Box, type Mark, type Paint, type Scene } from '../../scene';
import type { FigureRequest, Scale } from '../form';
import type { LegendEntry } from '../legend';
import { centred, textMark, lineMark, NO_ROW, type Belonging, type Ends } from '../shapes';
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

/** Whether names stand whole, each in two lines at most. */
export const namesFit = (names: readonly string[], width: number, size: number): boolean =>
  names.every((name) => wrapWhole(name, width, size) !== null);

/** What a form of rows draws: its texts, what its ruler must show, and the marks of a row. Both orientations lay it out. */
export interface Plan {
  readonly request: FigureRequest;
  readonly writing: Writing;
  readonly width: number;
  readonly names: readonly string[];
  readonly values: readonly string[];
  readonly gaps: readonly string[];
  /** Groups of rows that stand apart, each under its name; one without a name where they stand together. */
  readonly panels: readonly { readonly name: string | null; readonly rows: readonly number[] }[];
  /** What the form is called at the beginning of its description. */
  readonly called: string;
  /** Every value of a row that the ruler must show. */
  valuesAt(row: number): readonly number[];
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

/** The figure's ruler along its value axis, and how its ticks are labelled. Bars always stand on a ruler that holds 0. */
export function fitted(
  { request, writing, valuesAt }: Plan,
  range: readonly [number, number],
  along: 'x' | 'y',
): { ruler: LinearRuler; label: (value: number) => string } {
  const { scale, cells } = request;
  return valueRuler(request, writing, [...onScale(cells, scale, valuesAt), 0], range, along, 'zero');
}

/**
 * A ruler over values: the shared one's way of fitting with everything that hangs on it, or the figure's own; and how its ticks
 * are labelled, with as many decimals as their step needs.
 */
export function valueRuler(
  { ruler, scale }: Pick<FigureRequest, 'ruler' | 'scale'>,
  writing: Writing,
  own: readonly number[],
  range: readonly [number, number],
  along: 'x' | 'y',
  fit: Fit,
): { ruler: LinearRuler; label: (value: number) => string } {
  const ticked = scale === 'value' ? writing : IN_PERCENT;
  // Zero is zero in every unit, and the heading names the unit.
  const written = (value: number, decimals: number) =>
    value === 0 ? '0' : writeNumber(value, { ...ticked, decimals, unit: '' });
  // Decimals a step needs once its values are divided by the figure's scale.
  const shift = Math.round(Math.log10(ticked.divisor));
  const decimals = ({ mantissa, exponent }: TickStep) => Math.max(0, shift - exponent + (mantissa === 2.5 ? 1 : 0));
  const fittedRuler = fitRuler({
    values: [...own, ...(ruler?.values ?? [])],
    range,
    fit: ruler?.entry.fit ?? fit,
    ...(ruler?.entry.domain ? { domain: ruler.entry.domain } : {}),
    extent: (value, step) => (along === 'x' ? textWidth(written(value, decimals(step)), TICK_SIZE) : TICK_SIZE),
    clearance: along === 'x' ? 22 : 18,
  });
  const needed = Math.max(0, ...fittedRuler.ticks.map((tick) => decimalsOf(tidy(tick / ticked.divisor)) ?? 4));
  return { ruler: fittedRuler, label: (value) => written(value, needed) };
}

/** Where a row's value lies on the ruler, if that is not its value. */
export function placeOnScale(cells: Cells, scale: Scale, row: number): number | null {
  return scale === 'value' ? null : nullIfBlank(cells.actual[row]! / unitAt(cells, scale, row));
}

/** What a row compares: value, benchmark, what is due and where it will land; blanks among them. */
export function comparedAt({ actual, benchmarks, due, landing }: Cells, row: number): number[] {
  return [actual[row]!, benchmarks?.[row] ?? NaN, due?.[row] ?? NaN, landing?.[row] ?? NaN];
}

const IN_PERCENT = writingFor({ style: 'percent', decimals: 0 }, 1);

/** What stands at 1 on the ruler for a row: a unit of its value, or its benchmark; NaN where there is none above 0. */
export function unitAt({ benchmarks }: Cells, scale: Scale, row: number): number {
  if (scale === 'value') return 1;
  const benchmark = benchmarks?.[row] ?? NaN;
  return benchmark > 0 ? benchmark : NaN;
}

/** Everything the rows show, as it lies on the ruler; blanks are left away. */
export function onScale(cells: Cells, scale: Scale, valuesAt: Plan['valuesAt']): number[] {
  const list: number[] = scale === 'value' ? [] : [1];
  for (let row = 0; row < cells.count; row++) {
    const unit = unitAt(cells, scale, row);
    for (const value of valuesAt(row)) if (!Number.isNaN(value / unit)) list.push(value / unit);
  }
  return list;
}

/** Positions along the value axis and across it, turned into x and y. */
export interface Axes {
  readonly along: 'x' | 'y';
  /** The ends of the ruler, in the row's values. */
  readonly domain: readonly [number, number];
  /** Where bars begin: 0, or the ruler's end next to it. */
  readonly zero: number;
  /** Values grow against the pixels. */
  readonly backward: boolean;
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

/** @param unit what stands at 1 on the ruler, in the row's values. */
export function axesFor({ domain: ends, range }: LinearRuler, along: 'x' | 'y', unit = 1): Axes {
  const domain: readonly [number, number] = unit === 1 ? ends : [ends[0] * unit, ends[1] * unit];
  const ruler = { domain, range };
  // On a ruler with fixed ends a value may lie beyond; it is drawn to the end, with a sign that it goes on.
  const at = (value: number) => place(ruler, Math.min(domain[1], Math.max(domain[0], value)));
  return {
    along,
    at,
    shows: (value) => value >= domain[0] && value <= domain[1],
    domain,
    backward: range[1] < range[0],
    zero: Math.min(Math.max(0, domain[0]), domain[1]),
    rect(v0, v1, centre, thickness) {
      const p0 = at(v0);
      const p1 = at(v1);
      const a = Math.min(p0, p1);
      const b = Math.max(p0, p1);
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

const UNPAINTED: Paint = {};

/** The place of a row that answers to the pointer, with the row in words. */
export function cellMark(cells: Cells, row: number, of: Belonging, box: Box, at: number | null = null): Mark {
  return cellBox(of, nullIfBlank(cells.actual[row]!), rowWords(cells, row), at, box);
}

/** A place that answers to the pointer: what it says, and where on the ruler it stands, if that is not its value. */
export function cellBox(
  { key, step }: Belonging,
  value: number | null,
  words: string,
  at: number | null,
  { x, y, ...box }: Box,
): Mark {
  const paint = UNPAINTED;
  const [width, height] = [Math.max(0, box.width), Math.max(0, box.height)];
  return at === null
    ? { shape: 'rect', role: 'cell', key, step, value, x, y, width, height, paint, rule: null, words }
    : { shape: 'rect', role: 'cell', key, step, value, x, y, width, height, paint, rule: null, words, at };
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
  const [, high] = axes.domain;
  if (axes.shows(value)) return null;
  const end = axes.at(value);
  const forward = (axes.backward ? -1 : 1) * (value > high ? 1 : -1);
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

/** Ticks of a ruler that lies across, upon its baseline; labels that would touch, or reach over `end`, give way. Gives how many did. */
export function ticksAcross(
  marks: Mark[],
  ruler: LinearRuler,
  label: (value: number) => string,
  baseline: number,
  end = Infinity,
): number {
  let dropped = 0;
  let labelled = -Infinity;
  for (const tick of ruler.ticks) {
    const x = place(ruler, tick);
    marks.push(lineMark('tick', NO_ROW, { x1: x, y1: baseline - 6, x2: x, y2: baseline }, tick, FINE));
    // On a ruler too short for two labels the later one gives way; its tick stays.
    const half = textWidth(label(tick), TICK_SIZE) / 2;
    if (x - half < labelled + 4 || x + half > end) {
      dropped++;
      continue;
    }
    labelled = x + half;
    marks.push(textMark('ticklabel', label(tick), x, baseline - 10, TICK_SIZE, { anchor: 'middle', value: tick }));
  }
  return dropped;
}

/** Ticks of a ruler that stands upright, at the right end of its strip. */
export function ticksUpright(marks: Mark[], ruler: LinearRuler, label: (value: number) => string, end: number): void {
  let labelled = Infinity;
  for (const tick of ruler.ticks) {
    const y = place(ruler, tick);
    marks.push(lineMark('tick', NO_ROW, { x1: end - 6, y1: y, x2: end, y2: y }, tick, FINE));
    // On a ruler too short for two labels the later one gives way; its tick stays.
    if (Math.abs(labelled - y) < TICK_SIZE + 1) continue;
    labelled = y;
    marks.push(
      textMark('ticklabel', label(tick), end - 10, centred(y, TICK_SIZE), TICK_SIZE, { anchor: 'end', value: tick }),
    );
  }
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
  axis: 'x' | 'y',
  lain: readonly { readonly ruler: LinearRuler; readonly strip: Box }[],
): Scene {
  const { cells } = request;
  const description = spoken(called, cells);
  const id = request.ruler?.entry.id ?? 'own';
  return {
    width,
    height,
    title,
    description,
    rulers: lain.map(({ ruler: { domain, range, ticks }, strip }) => ({
      id,
      axis,
      kind: request.scale === 'value' ? 'linear' : request.scale,
      domain,
      range,
      ticks,
      strip,
    })),
    marks,
    dropped,
  };
}
