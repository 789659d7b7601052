import type { Day } from '../../calendar';
import { writeNumber, type Writing } from '../../format';
import { encodeGap, HAIRLINE, QUIET } from '../../highlight';
import { judgementAt, type Cells } from '../../query';
import { fitRuler, place, type LinearRuler } from '../../ruler';
import { textWidth, type Mark } from '../../scene';
import type { FigureRequest } from '../form';
import { centred, lineMark, NO_ROW, rectMark, textMark } from '../shapes';
import { rowKey } from '../names';
import { FINE, TICK_SIZE } from '../rows/parts';
import type { PlotArea } from '../time/plot';
import type { Series } from '../time/series';
import { timeAxis } from '../time/timeAxis';

interface Wish {
  readonly top: number;
  readonly high: number;
  /** Left end of the labels; null where they stand beside another panel. */
  readonly left: number | null;
  readonly strip: number;
  readonly hasTime: boolean;
  readonly steps: readonly Day[];
}

/** Gaps of all members, as far as both sides are there; of the running step to what is due of it. */
const gapsOf = (cells: Cells): number[] =>
  Array.from({ length: cells.count }, (_, row) => judgementAt(cells, row).gap).filter((value) => !Number.isNaN(value));

function gapRuler(cells: Cells, range: readonly [number, number]): LinearRuler {
  return fitRuler({ values: gapsOf(cells), range, fit: 'symmetric', extent: () => TICK_SIZE, clearance: 8 });
}

/** The heights for which the ends of the ruler are chosen. */
const COMMON = [44, 0] as const;

/** Width the labels of the strip need. */
export function gapLabelWidth(cells: Cells, writing: Writing): number {
  const [low, high] = gapRuler(cells, COMMON).domain;
  return Math.max(...[low, high].map((value) => textWidth(writeNumber(value, writing, true), TICK_SIZE))) + 14;
}

/** The gap at each step, above or below zero, on the same steps as the plot above it; it ends where the actual ends. */
export function gapStrip(
  request: FigureRequest,
  writing: Writing,
  plot: PlotArea,
  { rows }: Series,
  { top, high, left, strip, hasTime, steps }: Wish,
): Mark[] {
  const { cells } = request;
  const bottom = top + Math.max(16, high);
  // Strips beside and beneath one another are on one scale, however high they are.
  const ruler = { ...gapRuler(cells, COMMON), range: [bottom, top] as const };
  const zero = place(ruler, 0);
  const marks: Mark[] = [];
  const [low, most] = ruler.domain;
  for (const value of [low, most]) {
    const y = place(ruler, value);
    marks.push(
      lineMark('tick', NO_ROW, { x1: plot.left, y1: y, x2: plot.right, y2: y }, value, {
        stroke: HAIRLINE,
        strokeWidth: 0.5,
      }),
    );
    if (left !== null)
      marks.push(
        textMark(
          'ticklabel',
          writeNumber(value, { ...writing, unit: '' }, true),
          left + strip - 4,
          centred(y, TICK_SIZE),
          TICK_SIZE,
          {
            anchor: 'end',
            value,
            paint: { fill: QUIET },
          },
        ),
      );
  }
  if (left !== null && bottom - top > 44)
    marks.push(
      textMark('ticklabel', 'gap', left + strip - 4, centred(zero, TICK_SIZE), TICK_SIZE, {
        anchor: 'end',
        paint: { fill: QUIET },
      }),
    );
  const width = Math.max(0.5, plot.band * (plot.band > 6 ? 0.66 : 1));
  rows.forEach((row, i) => {
    const { gap } = judgementAt(cells, row);
    if (Number.isNaN(gap)) return;
    const y = place(ruler, gap);
    const { ink, rule } = encodeGap(request, cells, row);
    const box = { x: plot.x(i) - width / 2, y: Math.min(y, zero), width, height: Math.abs(y - zero) };
    marks.push(rectMark('gap', rowKey(cells, row), box, gap, { fill: ink }, rule));
  });
  marks.push(lineMark('zero', NO_ROW, { x1: plot.left, y1: zero, x2: plot.right, y2: zero }, 0, FINE));
  if (hasTime && cells.grain)
    marks.push(...timeAxis(cells.grain, steps, cells.calendar, plot.x, [plot.left - strip, plot.right], bottom));
  return marks;
}
