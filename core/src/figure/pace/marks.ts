import { counted } from '../../problem';
import { writtenDay } from '../../calendar';
import { writeNumber, writingOf, type Writing } from '../../format';
import { encodeRow, INK, judgesGaps, QUIET } from '../../highlight';
import type { Cells, Landing } from '../../query';
import { PAPER, textWidth, type Mark, type Paint } from '../../scene';
import type { FigureRequest } from '../form';
import type { LegendEntry } from '../legend';
import { lineMark, NO_ROW, rectMark, textMark, type Belonging } from '../shapes';
import { rowKey } from '../names';
import { add, areaMark, dotMark, loneMarks, pathMark, type Point } from '../path';
import { gapEntries, highlightEntries } from '../rows/legend';
import type { End } from '../time/ends';
import type { PlotArea } from '../time/plot';
import type { Series } from '../time/series';
import { sampleLine } from '../trend/legend';
import type { Within } from './within';

const BENCHMARK: Paint = { stroke: QUIET, strokeWidth: 1.75 };
const AHEAD_OF_US: Paint = { stroke: QUIET, strokeWidth: 1.5, dash: [5, 4] };
const LANDING: Paint = { stroke: INK, strokeWidth: 1.25, dash: [1.5, 3] };
/** The place of the last step that has an actual. */
export function lastStepOf(cells: Cells, { rows }: Series): number[] {
  const last = rows.findLastIndex((row) => !Number.isNaN(cells.actual[row]!));
  return last < 0 ? [] : [last];
}

/** What is written beside a line's ends: where it is, what it is held against, where it will land. */
export function endsOf(
  { cells }: FigureRequest,
  writing: Writing,
  { name, key, rows }: Series,
  landing: Landing | undefined,
  single: boolean,
): (End & { step: number })[] {
  const of: Belonging = { key, step: null };
  const last = rows.findLastIndex((row) => !Number.isNaN(cells.actual[row]!));
  const ends: (End & { step: number })[] = [];
  const end = (called: string, step: number, value: number, strong: boolean, ink?: string) => {
    if (!Number.isNaN(value))
      ends.push({
        x: 0,
        y: 0,
        name: called,
        text: writeNumber(value, writing),
        of,
        strong,
        value,
        step,
        ...(ink ? { ink } : {}),
      });
  };
  if (!single) {
    if (last >= 0) end(name, last, cells.actual[rows[last]!]!, true);
    return ends;
  }
  const final = rows.length - 1;
  const benchmark = cells.benchmarks?.[rows[final]!] ?? NaN;
  if (landing && landing.daysLeft > 0) end('landing', final, landing.landing, true);
  if (cells.benchmark) end(cells.benchmark.name, final, benchmark, false);
  if (last === final) end('actual', final, cells.actual[rows[final]!]!, true);
  return ends;
}

/** The two lines: the actual up to its last step with a dot, the benchmark to the end, what is still to come of it broken. */
export function lineMarks(
  marks: Mark[],
  request: FigureRequest,
  writing: Writing,
  plot: PlotArea,
  { key, rows }: Series,
  alone: boolean,
  strong: boolean,
): void {
  const { cells, highlight } = request;
  const of: Belonging = { key, step: null };
  const point = (values: ArrayLike<number>) =>
    rows.map((row, i): Point | null => (Number.isNaN(values[row]!) ? null : [plot.x(i), plot.y(values[row]!)]));
  const actual = point(cells.actual);
  const last = actual.findLastIndex((at) => at !== null);
  const { benchmarks } = cells;
  if (benchmarks && alone) {
    const held = point(benchmarks);
    const until = Math.max(0, last);
    add(
      marks,
      pathMark('benchmark', of, held.slice(0, until + 1), BENCHMARK),
      pathMark('forecast', of, held.slice(until), AHEAD_OF_US),
      ...loneMarks('benchmark', of, held, BENCHMARK),
    );
  }
  const paint: Paint = {
    stroke: strong ? INK : QUIET,
    strokeWidth: alone ? 2.5 : strong ? 2 : 1,
    ...(strong ? {} : { opacity: 0.7 }),
  };
  add(marks, pathMark('path', of, actual, paint), ...loneMarks('path', of, actual, paint));
  if (last < 0) return;
  const row = rows[last]!;
  const { ink, rule } = encodeRow(highlight, cells, row);
  marks.push(
    dotMark(
      'node',
      rowKey(cells, row),
      actual[last]!,
      alone ? 4.5 : 3.5,
      cells.actual[row]!,
      { fill: strong ? ink : QUIET },
      rule,
    ),
  );
  if (!alone) return;
  // The value where the actual ends, on the side where no line goes on.
  const text = writeNumber(cells.actual[row]!, writing);
  const [x, y] = actual[last]!;
  const wide = textWidth(text, 12.5, 600);
  const isBelow = (benchmarks?.[row] ?? -Infinity) > cells.actual[row]! && y + 22 < plot.bottom;
  const left = isBelow ? Math.min(x + 2, plot.right - wide) : Math.max(plot.left + 2, x - wide - 6);
  marks.push(
    textMark('value', text, left, isBelow ? y + 19 : Math.max(plot.top + 4, y - 8), 12.5, {
      weight: 600,
      row: rowKey(cells, row),
      value: cells.actual[row]!,
    }),
  );
}

/** From where it is to where it will land, with the range of where that is. */
export function landingMarks(
  marks: Mark[],
  plot: PlotArea,
  cells: Cells,
  { key, rows }: Series,
  landing: Landing | undefined,
  within: Within | null,
): void {
  if (!landing || landing.daysLeft === 0 || Number.isNaN(landing.landing)) return;
  const of: Belonging = { key, step: null };
  const last = rows.findLastIndex((row) => !Number.isNaN(cells.actual[row]!));
  if (last < 0) return;
  const final = rows.length - 1;
  const from: Point = [plot.x(last), plot.y(landing.toDate)];
  const held = (i: number) => cells.benchmarks![rows[i]!]!;
  // The way to the landing has the benchmark's own shape.
  const way = rows.slice(last).map((_, k): Point => {
    const i = last + k;
    const share = (held(i) - held(last)) / (held(final) - held(last));
    const value =
      landing.toDate +
      (landing.landing - landing.toDate) * (Number.isFinite(share) ? share : k / Math.max(1, final - last));
    return [plot.x(i), plot.y(value)];
  });
  if (within) {
    const cone = (edge: number) =>
      way.map(([x, y], k): Point => [
        x,
        y + ((plot.y(edge) - plot.y(landing.landing)) * k) / Math.max(1, way.length - 1),
      ]);
    add(marks, areaMark('interval', of, cone(within.high), cone(within.low), { fill: QUIET, opacity: 0.16 }));
  }
  add(marks, pathMark('forecast', of, [from, ...way.slice(1)], LANDING));
  marks.push(
    dotMark('node', of, way[way.length - 1]!, 4, landing.landing, { fill: PAPER, stroke: INK, strokeWidth: 1.75 }),
  );
}

/** What each day that is left must bring, or each workday where the report says which these are; empty where that cannot be told. */
function neededWords({ daysLeft, neededPerDay, workdaysLeft, neededPerWorkday }: Landing, cells: Cells): string {
  const { name } = cells.benchmark!;
  if (Number.isNaN(neededPerDay)) return '';
  if (neededPerDay <= 0) return `${name} is reached already`;
  if (workdaysLeft !== undefined && workdaysLeft > 0)
    return `${perDay(neededPerWorkday!, cells)} a workday for ${counted(workdaysLeft, 'workday')} reaches ${name}`;
  return `${perDay(neededPerDay, cells)} a day for ${counted(daysLeft, 'day')} reaches ${name}`;
}

/** A landing in words. */
export function landingWords(of: Landing, cells: Cells, writing: Writing): string {
  const { key, landing, daysLeft } = of;
  if (daysLeft === 0 || Number.isNaN(landing)) return '';
  const who = Object.values(key).join(' · ');
  const words = neededWords(of, cells);
  const needed = words === '' ? '' : `; ${words}`;
  return `${who ? `${who} ` : ''}lands at ${writeNumber(landing, writing)}${needed}.`;
}

export function legend(
  request: FigureRequest,
  writing: Writing,
  landings: readonly Landing[],
  within: readonly (Within | null)[],
  single: boolean,
  ends: readonly number[],
): LegendEntry[] {
  const { cells, look } = request;
  const name = cells.benchmark?.name ?? '';
  const entries: LegendEntry[] = [
    sampleLine(`${cells.measure.name}, up to ${writtenDay(cells.asOf)}`, { stroke: INK, strokeWidth: 2.5 }),
  ];
  if (cells.benchmarks && (single || request.look.panels)) {
    entries.push(sampleLine(name, BENCHMARK));
    if (cells.period.partial) entries.push(sampleLine(`${name} to come`, AHEAD_OF_US));
  }
  const [landing] = landings;
  const lands = landings.some((one) => one.daysLeft > 0 && !Number.isNaN(one.landing));
  if ((single || look.panels) && lands)
    entries.push(sampleLine(look.landing === 'as planned' ? 'the rest as planned' : 'at the pace so far', LANDING));
  if (within.some((one) => one))
    entries.push({
      words: 'range if steps vary as before, each on its own',
      sample: (x, y) => [
        rectMark('legend', NO_ROW, { x, y: y - 6, width: 16, height: 12 }, null, { fill: QUIET, opacity: 0.16 }),
      ],
    });
  if (single && landing && landing.daysLeft > 0 && !Number.isNaN(landing.neededPerDay)) {
    entries.push(sampleSlope(neededWords(landing, cells)));
  }
  // Gaps have their strip where a line stands alone; else rules paint the end of each line, and nothing more.
  const hasStrip = cells.benchmarks !== null && (single || look.panels !== undefined);
  if (hasStrip && judgesGaps(request.highlight)) return [...entries, ...highlightEntries(request, writing)];
  const lit = cells.benchmarks || cells.brief.lit !== null ? highlightEntries(request, writing, 'dots', ends) : [];
  return [...entries, ...lit, ...(hasStrip ? gapEntries(request, writing) : [])];
}

/** What is needed a day, as a rise. */
function sampleSlope(words: string): LegendEntry {
  const paint = { stroke: INK, strokeWidth: 1.25 };
  return {
    words,
    sample: (x, y) => [lineMark('legend', NO_ROW, { x1: x + 2, y1: y + 4, x2: x + 14, y2: y - 4 }, null, paint)],
  };
}

/** An amount a day, in its own scale. */
function perDay(value: number, cells: Cells): string {
  return writeNumber(value, writingOf({ ...cells, actual: Float64Array.of(value), benchmarks: null, decimals: null }));
}
