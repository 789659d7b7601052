import { stepName, writtenDay, writtenSpan } from '../../calendar';
import { gapWritingOf, writeNumber, writePercent, type Writing } from '../../format';
import { encodeGap, encodeRow, HAIRLINE, INK, QUIET } from '../../highlight';
import { judgementAt, type Cells } from '../../query';
import { place } from '../../ruler';
import { PAPER, shorten, textWidth, type Mark, type Paint } from '../../scene';
import type { FigureRequest } from '../form';
import { add, dotMark, loneMarks, pathMark, type Point } from '../path';
import { badgeMark, lineMark, rectMark, textMark, type Belonging } from '../shapes';

const CHANGE_SIZE = 13;
export const BAR = 14;

/** The bar from zero to the value, and the reference as a rule across it. */
export function barMarks(
  marks: Mark[],
  { cells, highlight }: FigureRequest,
  row: number,
  of: Belonging,
  bar: Parameters<typeof place>[0],
  x: number,
  y: number,
): void {
  const at = (value: number) => x + place(bar, value);
  marks.push(
    rectMark('band', of, { x, y, width: bar.range[1] - bar.range[0], height: BAR }, null, {
      fill: HAIRLINE,
      opacity: 0.5,
    }),
  );
  const actual = cells.actual[row]!;
  const { ink, rule } = encodeRow(highlight, cells, row);
  if (!Number.isNaN(actual)) {
    const [a, b] = [Math.min(at(0), at(actual)), Math.max(at(0), at(actual))];
    marks.push(
      rectMark('actual', of, { x: a, y: y + BAR / 4, width: b - a, height: BAR / 2 }, actual, { fill: ink }, rule),
    );
  }
  const benchmark = cells.benchmarks?.[row] ?? NaN;
  if (Number.isNaN(benchmark)) return;
  const p = at(benchmark);
  marks.push(
    lineMark('benchmark', of, { x1: p, y1: y, x2: p, y2: y + BAR }, benchmark, { stroke: INK, strokeWidth: 3 }),
  );
}

/** One change: its badge, how much, and against what on which days. */
export function changeMarks(
  marks: Mark[],
  request: FigureRequest,
  reference: Cells,
  row: number,
  of: Belonging,
  x: number,
  y: number,
  room: number,
  writing: Writing,
  dates: string,
): number {
  const { look } = request;
  const name = reference.benchmark!.name;
  if (row < 0 || Number.isNaN(reference.benchmarks?.[row] ?? NaN)) {
    marks.push(
      textMark('gap', shorten(`no ${name}`, room, CHANGE_SIZE), x, y, CHANGE_SIZE, { paint: { fill: QUIET }, row: of }),
    );
    return 0;
  }
  const judged = judgementAt(reference, row);
  const { ink, badge, rule } = encodeGap(request, reference, row);
  const percent = Number.isNaN(judged.gapPercent)
    ? ''
    : writePercent(judged.gapPercent, 1, true, reference.measure.format);
  const absolute = writeNumber(judged.gap, gapWritingOf(reference, writing), true);
  const amount =
    look.change === 'absolute' || percent === ''
      ? absolute
      : look.change === 'percent'
        ? percent
        : `${percent} (${absolute})`;
  if (badge) marks.push(badgeMark(badge, x + 5, y - 4.5, ink, rule, of));
  const start = x + (badge ? 16 : 0);
  marks.push(
    textMark('gap', amount, start, y, CHANGE_SIZE, {
      weight: 600,
      paint: { fill: ink },
      rule,
      row: of,
      value: judged.gap,
    }),
  );
  const after = start + textWidth(amount, CHANGE_SIZE, 600) + 7;
  const isDue = judged.against === 'due';
  const held = writeNumber(isDue ? reference.due![row]! : reference.benchmarks![row]!, writing);
  const to = `to ${isDue ? `the ${name} due by now` : name}`;
  // What has no room is left away whole: first the days, then what it was.
  const shown = [`${to} ${held}${dates}`, `${to} ${held}`, to].find(
    (words) => textWidth(words, CHANGE_SIZE) <= x + room - after,
  );
  if (shown === undefined) return 1;
  marks.push(
    textMark('label', shown, after, y, CHANGE_SIZE, {
      paint: { fill: QUIET },
      row: of,
      value: reference.benchmarks![row]!,
    }),
  );
  return 0;
}

/** The days of a reference that is another period; those of the brief's own stand in the heading. */
export function datesOf({ benchmarkPeriod }: Cells): string {
  return benchmarkPeriod ? `, ${writtenSpan(benchmarkPeriod)}` : '';
}

/**
 * The course of the number, on a scale of its own, its last value marked. The way to a step of which only a part is counted, as it still
 * runs or the period cuts it, is dashed: that it is less says nothing.
 */
export function sparkMarks(
  marks: Mark[],
  steps: Cells,
  cells: Cells,
  row: number,
  of: Belonging,
  box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
): void {
  const mine: number[] = [];
  for (let i = 0; i < steps.count; i++)
    if (cells.members.every((names, f) => steps.members[f]?.[i] === names[row])) mine.push(i);
  const filled = mine.map((i) => steps.actual[i]!).filter((value) => !Number.isNaN(value));
  if (filled.length < 2 || !steps.steps || !steps.grain) return;
  const [low, high] = [Math.min(0, ...filled), Math.max(...filled, 0)];
  const ruler = { domain: [low, high], range: [box.y + box.height - 3, box.y + 4] } as const;
  const x = (s: number) => box.x + 2 + ((box.width - 60) * s) / Math.max(1, mine.length - 1);
  const points = mine.map((i, s): Point | null =>
    Number.isNaN(steps.actual[i]!) ? null : [x(s), place(ruler, steps.actual[i]!)],
  );
  const zero = place(ruler, 0);
  marks.push(
    lineMark('zero', of, { x1: box.x, y1: zero, x2: box.x + box.width - 56, y2: zero }, 0, {
      stroke: HAIRLINE,
      strokeWidth: 1,
    }),
  );
  const [begin, end] = [points.findIndex((point) => point !== null), points.findLastIndex((point) => point !== null)];
  const isPart = (s: number) => steps.isPart?.[mine[s]!] === 1;
  const whole = points.slice(isPart(begin) ? begin + 1 : begin, isPart(end) ? end : end + 1);
  const paint: Paint = { stroke: INK, strokeWidth: 1.75 };
  add(marks, pathMark('path', of, whole, paint), ...loneMarks('path', of, points, paint));
  const dashed: Paint = { ...paint, dash: [2.5, 2.5] };
  if (isPart(begin)) add(marks, pathMark('path', of, points.slice(begin, begin + 2), dashed));
  if (isPart(end) && end > begin + (isPart(begin) ? 1 : 0))
    add(marks, pathMark('path', of, points.slice(end - 1, end + 1), dashed));
  const [px, py] = points[end]!;
  const last = mine[end]!;
  const dot: Paint = isPart(end) ? { fill: PAPER, stroke: INK, strokeWidth: 1.5 } : { fill: INK };
  marks.push(dotMark('node', of, [px, py], 3, steps.actual[last]!, dot));
  const until = Math.min(steps.period.to, steps.asOf);
  const name = isPart(end)
    ? `to ${writtenDay(until).replace(/ \d+$/, '')}`
    : stepName(steps.grain, steps.steps[last]!, steps.calendar).replace('week of ', '');
  marks.push(
    textMark('ticklabel', shorten(name, 52, 11), px + 6, Math.min(box.y + box.height - 2, py + 4), 11, {
      paint: { fill: QUIET },
      row: of,
    }),
  );
}
