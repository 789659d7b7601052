import type { Measure } from '../../report';
import type { CellFigure } from './declared';
import type { Mood } from '../incell/scores';

/** Where values come from that a cell's ink or face rests on: they were chosen, are the scale of the scores, or what is shown. */
export type Grounds = 'chosen' | 'scores' | 'shown';

/** The least and the greatest that a cell's figure can tell apart. */
export interface CellEnds {
  readonly low: number;
  readonly high: number;
  readonly by: Grounds;
}

/** From where on a face is fair, and good; where less is better, up to where. */
export interface MoodEdges {
  readonly fair: number;
  readonly good: number;
  readonly by: Grounds;
}

/** Figures that are read against the ends of a scale. */
export const SCORED: ReadonlySet<CellFigure> = new Set<CellFigure>(['dot', 'ramp', 'face']);

const SAID = /\((-?\d+(?:\.\d+)?)\s*(?:-|–|to|\.\.)\s*(-?\d+(?:\.\d+)?)\)/;

/** The scale that scores are given on, where the measure's name or its column says it (`Helpfulness (1-5)`) and all values lie on it. */
function scoreScale(measure: Measure | null, values: readonly number[]): readonly [number, number] | null {
  const said = SAID.exec(measure?.name ?? '') ?? SAID.exec(measure?.expression ?? '');
  if (!said) return null;
  const [low, high] = [Number(said[1]), Number(said[2])];
  return low < high && values.every((value) => Number.isNaN(value) || (value >= low && value <= high))
    ? [low, high]
    : null;
}

/** The ends of a column's cells: as chosen, else the scale of its scores, else the lowest and the highest shown. */
export function endsOf(
  measure: Measure | null,
  values: readonly number[],
  chosen: readonly [number, number] | undefined,
): CellEnds {
  if (chosen) return { low: Math.min(...chosen), high: Math.max(...chosen), by: 'chosen' };
  const scale = scoreScale(measure, values);
  if (scale) return { low: scale[0], high: scale[1], by: 'scores' };
  const there = values.filter((value) => !Number.isNaN(value));
  if (there.length === 0) return { low: 0, high: 1, by: 'shown' };
  return { low: there.reduce((a, b) => Math.min(a, b)), high: there.reduce((a, b) => Math.max(a, b)), by: 'shown' };
}

/** Where faces change: as chosen, else at thirds between the ends, at numbers that can be said. */
export function moodEdges(
  { low, high, by }: CellEnds,
  measure: Measure | null,
  chosen: readonly [number, number] | undefined,
): MoodEdges {
  if (chosen) return { fair: chosen[0], good: chosen[1], by: 'chosen' };
  const third = (part: number) => sayable(low + ((high - low) * part) / 3, high - low);
  return measure?.aim === 'cut' ? { fair: third(2), good: third(1), by } : { fair: third(1), good: third(2), by };
}

/** A number with two digits of the stretch it lies in. */
function sayable(value: number, stretch: number): number {
  if (!(stretch > 0)) return value;
  const unit = 10 ** (Math.floor(Math.log10(stretch)) - 1);
  const rounded = Math.round(value / unit) * unit;
  return Number(rounded.toPrecision(12));
}

/** The face of a value. */
export function moodAt(value: number, { fair, good }: MoodEdges, measure: Measure | null): Mood {
  const isBetter = (edge: number) => (measure?.aim === 'cut' ? value <= edge : value >= edge);
  return isBetter(good) ? 'good' : isBetter(fair) ? 'fair' : 'poor';
}
