import { step, stepsWithin } from '../../calendar';
import type { Cells } from '../../query';
import type { LookSpan } from '../../report';
import type { Scene } from '../../scene';
import { stepOfRow } from '../../query';
import { daysOf, type Adrift } from './anchors';

/** A stretch of a figure's time, in pixels: between `from` and `to` along its axis, and across all of its plot. */
export interface Marked {
  readonly text: string;
  /** Which of the look's periods it is. */
  readonly span: number;
  readonly along: 'x' | 'y';
  readonly from: number;
  readonly to: number;
  /** Where the plot lies across. */
  readonly low: number;
  readonly high: number;
  /** A single day is a line. */
  readonly isDay: boolean;
}

interface Place {
  readonly step: string;
  readonly from: number;
  readonly to: number;
}

/** Where periods lie in a figure over time: once in each of its panels. */
export function markedIn(
  scene: Scene,
  cells: Cells,
  spans: readonly LookSpan[],
): { readonly stretches: readonly Marked[]; readonly adrift: readonly Adrift[] } {
  const stretches: Marked[] = [];
  const adrift: Adrift[] = [];
  const lanes = spans.length === 0 ? [] : lanesOf(scene);
  for (const [i, span] of spans.entries()) {
    const [first, last] = [daysOf(span.from, cells), daysOf(span.to ?? span.from, cells)];
    if (!first || !last) {
      const wrong = first ? span.to! : span.from;
      adrift.push({ text: span.text, why: `“${wrong}” is no day and no period` });
      continue;
    }
    if (last.to < first.from) {
      adrift.push({ text: span.text, why: `it ends (${span.to}) before it begins (${span.from})` });
      continue;
    }
    const found = lanes.flatMap((lane) => {
      const [from, to] = [placeOf(first.from, 0, lane, cells), placeOf(last.to, 1, lane, cells)];
      const [begin, end] = [Math.max(from, lane.begin), Math.min(to, lane.end)];
      return end > begin
        ? [
            {
              text: span.text,
              span: i,
              along: lane.along,
              from: begin,
              to: end,
              low: lane.low,
              high: lane.high,
              isDay: first.from === last.to,
            },
          ]
        : [];
    });
    if (found.length > 0) stretches.push(...found);
    else
      adrift.push({
        text: span.text,
        why: lanes.length === 0 ? 'the figure does not go over time' : 'it lies outside of what the figure shows',
      });
  }
  return { stretches, adrift };
}

interface Lane {
  readonly along: 'x' | 'y';
  readonly steps: readonly Place[];
  readonly begin: number;
  readonly end: number;
  readonly low: number;
  readonly high: number;
}

/** Where steps lie beside one another: in each panel once; none in a figure whose steps are not laid out along one axis. */
function lanesOf({ marks, rulers }: Scene): Lane[] {
  const boxes = marks.flatMap((mark) =>
    mark.role === 'cell' && mark.shape === 'rect' && mark.step !== null ? [{ ...mark, step: mark.step }] : [],
  );
  const bySeries = new Map<string, typeof boxes>();
  for (const box of boxes) {
    const key = JSON.stringify(box.key);
    bySeries.set(key, [...(bySeries.get(key) ?? []), box]);
  }
  const lanes = new Map<string, Lane>();
  for (const series of bySeries.values()) {
    if (series.length < 2) continue;
    const along =
      spread(series.map(({ x, width }) => x + width / 2)) >= spread(series.map(({ y, height }) => y + height / 2))
        ? 'x'
        : 'y';
    // A ruler that runs the same way shows values there, not time.
    if (rulers.length > 0 && rulers.every(({ axis }) => axis === along)) continue;
    const centres = series.map((box) => ({
      step: box.step,
      at: along === 'x' ? box.x + box.width / 2 : box.y + box.height / 2,
    }));
    const sorted = [...centres].sort((a, b) => a.at - b.at);
    const band = Math.abs(sorted[1]!.at - sorted[0]!.at);
    const steps = sorted.map(({ step, at }) => ({ step, from: at - band / 2, to: at + band / 2 }));
    const across = series.map(
      (box) => (along === 'x' ? [box.y, box.y + box.height] : [box.x, box.x + box.width]) as [number, number],
    );
    const ranges = rulers
      .filter(({ axis }) => axis !== along)
      .map(({ range }) => [Math.min(...range), Math.max(...range)] as const);
    const middle = (Math.min(...across.map(([low]) => low)) + Math.max(...across.map(([, high]) => high))) / 2;
    const own = ranges.find(([low, high]) => low <= middle && middle <= high);
    const [low, high] = own ?? [Math.min(...across.map(([one]) => one)), Math.max(...across.map(([, one]) => one))];
    const lane: Lane = { along, steps, begin: steps[0]!.from, end: steps.at(-1)!.to, low, high };
    const key = JSON.stringify([along, Math.round(lane.begin), Math.round(lane.low)]);
    if (!lanes.has(key)) lanes.set(key, lane);
  }
  return [...lanes.values()];
}

const spread = (values: readonly number[]): number => Math.max(...values) - Math.min(...values);

/** The pixel at which a day begins (`part` 0) or ends (1); beyond the steps shown, beyond the lane. */
function placeOf(day: number, part: 0 | 1, lane: Lane, cells: Cells): number {
  const { grain, calendar } = cells;
  const starts = startsOf(cells);
  const [first, last] = [starts.get(lane.steps[0]!.step)!, starts.get(lane.steps.at(-1)!.step)!];
  if (day < first) return -Infinity;
  if (day >= step(grain!, last, 1, calendar)) return Infinity;
  const [start] = stepsWithin(grain!, { from: day, to: day }, calendar);
  const at = lane.steps.find((one) => starts.get(one.step) === start);
  if (!at) return part === 0 ? Infinity : -Infinity;
  const days = step(grain!, start!, 1, calendar) - start!;
  return at.from + ((at.to - at.from) * (day - start! + part)) / days;
}

/** First days of steps, by how marks call them. */
function startsOf(cells: Cells): ReadonlyMap<string, number> {
  let starts = STARTS.get(cells);
  if (!starts) {
    starts = new Map(Array.from({ length: cells.count }, (_, row) => [stepOfRow(cells, row)!, cells.steps![row]!]));
    STARTS.set(cells, starts);
  }
  return starts;
}
const STARTS = new WeakMap<Cells, ReadonlyMap<string, number>>();
