import { writeNumber, type Writing } from '../../format';
import { encodeRow, INK, QUIET } from '../../highlight';
import { isFitted, judgedBy, rowSource, trendsOf, type Cells } from '../../query';
import type { Look } from '../../report';
import { movingMean } from '../../series';
import { PAPER, textWidth, type Mark, type Paint } from '../../scene';
import { bandsAt, rowBands, type ResolvedBands } from '../bullet/bands';
import type { FigureRequest } from '../form';
import { barPaint, lineMark, rectMark, textMark, type Belonging } from '../shapes';
import { rowKey } from '../names';
import { add, areaMark, dotMark, loneMarks, pathMark, type Point } from '../path';
import { cellMark } from '../rows/parts';
import { around, type PlotArea } from '../time/plot';
import { isRunning } from '../time/running';
import type { Series } from '../time/series';
import { trendBands } from './trendBands';

const LABEL = 12;
/** More steps than this bear no dots. */
export const MOST_DOTS = 60;
const REFERENCE = '#B1A999';

export interface SeriesLook {
  /** It has the plot for itself. */
  readonly alone: boolean;
  readonly strong: boolean;
  /** Highest, lowest and last are named. */
  readonly marked: boolean;
}

/** The last step that has a value. */
export function lastRow(cells: Cells, { rows }: Series): number | null {
  return rows.findLast((row) => !Number.isNaN(cells.actual[row]!)) ?? null;
}

/** The smoothed values of a series. */
function smoothedOf(cells: Cells, { rows }: Series, { smooth, window }: Look): number[] {
  return movingMean(
    rows.map((row) => (isFitted(cells, row) ? cells.actual[row]! : NaN)),
    smooth!,
    window ?? 'trailing',
    null,
  );
}

/** All marks of a series in its plot; gives how many labels found no place. */
export function seriesMarks(
  marks: Mark[],
  cellMarks: (Mark | undefined)[],
  request: FigureRequest,
  writing: Writing,
  plot: PlotArea,
  series: Series,
  { alone, strong, marked }: SeriesLook,
): number {
  const { cells, look, highlight } = request;
  const { rows, key } = series;
  const of: Belonging = { key, step: null };
  const drawn = look.draw ?? 'line';
  const at = (values: (row: number) => number) =>
    rows.map((row, i): Point | null => (Number.isNaN(values(row)) ? null : [plot.x(i), plot.y(values(row))]));
  const actual = at((row) => cells.actual[row]!);
  const bands = alone ? trendBands(cells, look) : null;
  if (bands) bandMarks(marks, cells, bands, plot, rows);
  const { low, high, benchmarks } = cells;
  if (alone && low && high)
    add(
      marks,
      areaMark(
        'interval',
        of,
        at((row) => high[row]!),
        at((row) => low[row]!),
        { fill: QUIET, opacity: 0.18 },
      ),
    );
  const bars = drawn !== 'line';
  if (bars && alone) barMarks(marks, request, plot, rows, drawn === 'pairs');
  if (benchmarks && alone && drawn !== 'pairs') benchmarkMarks(marks, cells, plot, rows, of);
  const smooth = look.smooth !== undefined;
  if (!bars || drawn === 'both' || !alone) {
    const encoded = cells.brief.lit === null ? null : encodeRow(highlight, cells, lastRow(cells, series) ?? rows[0]!);
    const ink = encoded?.rule ? encoded.ink : strong ? INK : QUIET;
    const paint: Paint = {
      stroke: ink,
      strokeWidth: smooth ? 1 : strong ? (alone ? 2 : 1.75) : 1,
      ...(smooth || !strong ? { opacity: 0.6 } : {}),
    };
    // The way into a step that still runs is not the way it went.
    const whole = actual.findLastIndex((point) => point !== null);
    const runs = whole > 0 && isRunning(cells, rows[whole]!);
    add(marks, pathMark('path', of, runs ? actual.slice(0, whole) : actual, paint, encoded?.rule ?? null));
    if (runs && drawn === 'line')
      add(marks, pathMark('path', of, actual.slice(whole - 1, whole + 1), { ...paint, dash: [2.5, 2.5] }));
    const dotted = rows.length <= MOST_DOTS && alone && !smooth;
    if (!dotted)
      add(
        marks,
        ...loneMarks('path', of, actual, paint, {
          rule: encoded?.rule ?? null,
          runs: (i) => isRunning(cells, rows[i]!),
        }),
      );
    else
      rows.forEach((row, i) => {
        if (!actual[i]) return;
        const { ink: fill, rule } = encodeRow(highlight, cells, row);
        const paint: Paint = isRunning(cells, row) ? { fill: PAPER, stroke: fill, strokeWidth: 1.5 } : { fill };
        marks.push(dotMark('node', rowKey(cells, row), actual[i], 3.25, cells.actual[row]!, paint, rule));
      });
  }
  if (smooth) {
    const means = smoothedOf(cells, series, look);
    const points = means.map((value, i): Point | null => (Number.isNaN(value) ? null : [plot.x(i), plot.y(value)]));
    const paint: Paint = { stroke: strong ? INK : QUIET, strokeWidth: 2.25 };
    add(marks, pathMark('smoothed', of, points, paint), ...loneMarks('smoothed', of, points, paint));
  }
  if (look.trend) trendLine(marks, cells, plot, series, of);
  rows.forEach((row, i) => {
    const { top, bottom, band, x } = plot;
    const point = actual[i];
    const box = alone
      ? { x: x(i) - band / 2, y: top, width: band, height: bottom - top }
      : around(plot, x(i), point ? point[1] : bottom, 16);
    cellMarks[row] = cellMark(cells, row, rowKey(cells, row), box);
  });
  const ruled = alone && drawn !== 'pairs' && cells.benchmark?.kind !== 'forecast' && plot.band >= RULED;
  const ruleAt = (i: number): number => (ruled && benchmarks ? plot.y(benchmarks[rows[i]!]!) : NaN);
  return alone && marked ? extremes(marks, cells, writing, plot, rows, actual, bars, ruleAt) : 0;
}

/** Steps that are narrower have their benchmark as a line, not as a rule each. */
export const RULED = 7;

/** Bands behind each step, around what it is held against. */
function bandMarks(marks: Mark[], cells: Cells, bands: ResolvedBands, plot: PlotArea, rows: readonly number[]): void {
  rows.forEach((row, i) => {
    const here = bandsAt(bands, cells, row);
    const { aim } = rowSource(cells, row)[0].measure;
    const of = rowKey(cells, row);
    for (const { from, to, tint } of here ? rowBands(here, judgedBy(cells, row), aim, plot.ruler.domain) : []) {
      const [y0, y1] = [plot.y(to), plot.y(from)];
      marks.push(
        rectMark('band', of, { x: plot.x(i) - plot.band / 2, y: y0, width: plot.band, height: y1 - y0 }, to, {
          fill: tint,
        }),
      );
    }
  });
}

/** Bars from zero; beside each, where they go in pairs, its benchmark. */
function barMarks(
  marks: Mark[],
  { cells, highlight }: FigureRequest,
  plot: PlotArea,
  rows: readonly number[],
  pairs: boolean,
): void {
  const width = plot.band * 0.66;
  const zero = plot.y(0);
  rows.forEach((row, i) => {
    const of = rowKey(cells, row);
    const bar = (value: number, x: number, w: number) => {
      const y = plot.y(value);
      return { x, y: Math.min(y, zero), width: w, height: Math.abs(y - zero) };
    };
    const left = plot.x(i) - width / 2;
    const gap = pairs ? Math.min(1, width / 8) : 0;
    const half = pairs ? (width - gap) / 2 : width;
    const value = cells.actual[row]!;
    const lit = encodeRow(highlight, cells, row);
    const encoding = isRunning(cells, row) && !lit.pattern ? { ...lit, pattern: 'hatch' as const } : lit;
    if (!Number.isNaN(value))
      marks.push(rectMark('actual', of, bar(value, left, half), value, barPaint(encoding), encoding.rule));
    const benchmark = cells.benchmarks?.[row] ?? NaN;
    if (pairs && !Number.isNaN(benchmark))
      marks.push(rectMark('benchmark', of, bar(benchmark, left + half + gap, half), benchmark, { fill: REFERENCE }));
  });
}

/** What each step is held against: a bold rule over the step, or a line where steps are narrow; a forecast goes on hatched where actuals end. */
function benchmarkMarks(marks: Mark[], cells: Cells, plot: PlotArea, rows: readonly number[], of: Belonging): void {
  const { benchmarks, benchmark } = cells;
  const point = (row: number, i: number): Point | null =>
    Number.isNaN(benchmarks![row]!) ? null : [plot.x(i), plot.y(benchmarks![row]!)];
  if (benchmark!.kind === 'forecast') {
    const until = rows.findLastIndex((row) => !Number.isNaN(cells.actual[row]!));
    const points = rows.map(point);
    add(
      marks,
      pathMark('benchmark', of, points.slice(0, until + 1), { stroke: QUIET, strokeWidth: 1 }),
      ...loneMarks('benchmark', of, points, { stroke: QUIET, strokeWidth: 1 }),
      pathMark('forecast', of, points.slice(Math.max(0, until)), { stroke: INK, strokeWidth: 1.75, dash: [5, 3.5] }),
    );
    return;
  }
  if (plot.band < RULED) {
    const paint: Paint = { stroke: QUIET, strokeWidth: 1.75 };
    add(
      marks,
      pathMark('benchmark', of, rows.map(point), paint),
      ...loneMarks('benchmark', of, rows.map(point), paint),
    );
    return;
  }
  const half = Math.min(plot.band * 0.38, 22);
  rows.forEach((row, i) => {
    const value = benchmarks![row]!;
    if (Number.isNaN(value)) return;
    const [x, y] = [plot.x(i), plot.y(value)];
    marks.push(
      lineMark('benchmark', rowKey(cells, row), { x1: x - half, y1: y, x2: x + half, y2: y }, value, {
        stroke: INK,
        strokeWidth: 2.5,
      }),
    );
  });
}

/** The straight line through the steps, from the first to the last that has a value. */
function trendLine(marks: Mark[], cells: Cells, plot: PlotArea, series: Series, of: Belonging): void {
  const line = trendsOf(cells).find(({ key }) =>
    Object.entries(key).every(([field, member]) => (series.key[field] ?? '') === member),
  );
  if (!line) return;
  const { rows } = series;
  const first = rows.findIndex((row) => isFitted(cells, row));
  const last = rows.findLastIndex((row) => isFitted(cells, row));
  marks.push(
    lineMark(
      'trend',
      of,
      { x1: plot.x(first), y1: plot.y(line.first), x2: plot.x(last), y2: plot.y(line.last) },
      line.slope,
      {
        stroke: QUIET,
        strokeWidth: 1.5,
        dash: [7, 4],
      },
    ),
  );
}

/** Names the highest, the lowest and the last value, as far as there is room. */
function extremes(
  marks: Mark[],
  cells: Cells,
  writing: Writing,
  plot: PlotArea,
  rows: readonly number[],
  points: readonly (Point | null)[],
  bars: boolean,
  /** How high the benchmark's rule of a step lies; NaN where there is none. */
  ruleAt: (i: number) => number,
): number {
  const there = rows.flatMap((_, i) => (points[i] ? [i] : []));
  if (there.length < 2) return 0;
  const value = (i: number) => cells.actual[rows[i]!]!;
  // A step that still runs is neither the highest nor the lowest.
  const whole = there.filter((i) => isFitted(cells, rows[i]!));
  const among = whole.length > 0 ? whole : there;
  const highest = among.reduce((best, i) => (value(i) > value(best) ? i : best));
  const lowest = among.reduce((best, i) => (value(i) < value(best) ? i : best));
  const last = there[there.length - 1]!;
  const taken: { x0: number; x1: number; y0: number; y1: number }[] = [];
  let dropped = 0;
  for (const [i, above] of [
    [last, null],
    [highest, true],
    [lowest, false],
  ] as const) {
    if (above !== null && i === last) continue;
    const [x, y] = points[i]!;
    const text = writeNumber(value(i), writing);
    const wide = textWidth(text, LABEL, 600);
    // A label stands clear of the rule of its step: beyond it, where it would cross it.
    const rule = ruleAt(i);
    const crosses = (base: number) => rule > base - 12 && rule < base + 4;
    const upper = { x: x - wide / 2, y: crosses(y - 8) ? rule - 6 : y - 8 };
    const lower = { x: x - wide / 2, y: crosses(y + 17) ? rule + 15 : y + 17 };
    const right = { x: x + 8, y: y + 4 };
    const before = there[there.length - 2]!;
    // The last one stands where its line did not come from.
    const beside = value(before) > value(last) ? [lower, upper] : [upper, lower];
    const places = bars
      ? [value(i) < 0 ? lower : upper]
      : above === false
        ? [lower]
        : above
          ? [upper]
          : x + 8 + wide <= plot.right
            ? [right, ...beside]
            : beside;
    const found = places
      .map((place) => ({ ...place, x: Math.min(Math.max(place.x, plot.left + 2), plot.right - wide - 2) }))
      .find(({ x: left, y: base }) => {
        const box = { x0: left - 3, x1: left + wide + 3, y0: base - 11, y1: base + 3 };
        const clear = taken.every(
          (one) => one.x0 >= box.x1 || box.x0 >= one.x1 || one.y0 >= box.y1 || box.y0 >= one.y1,
        );
        return clear && box.y0 >= plot.top - 20 && box.y1 <= plot.bottom;
      });
    if (!found) {
      dropped++;
      continue;
    }
    taken.push({ x0: found.x - 3, x1: found.x + wide + 3, y0: found.y - 11, y1: found.y + 3 });
    const of = rowKey(cells, rows[i]!);
    if (above !== null && !bars)
      marks.push(dotMark('emphasis', of, points[i]!, 4.5, value(i), { stroke: INK, strokeWidth: 1.5 }));
    marks.push(textMark('value', text, found.x, found.y, LABEL, { weight: 600, row: of, value: value(i) }));
  }
  return dropped;
}
