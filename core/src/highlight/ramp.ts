import { tidy } from '../number';
import type { Ramp } from '../report';
import { between } from './colour';
import { AHEAD, BEHIND } from './palette';

/** Ramps to begin with: one that grows, and one that parts at a middle. */
export const SEQUENTIAL: Ramp = { low: '#C6D3CA', high: '#0A4638' };
export const DIVERGING: Ramp = { low: BEHIND, high: AHEAD, middle: { ink: '#E2DDD1', at: 0 } };

/** Where a ramp runs, and whether it is held against each row's benchmark. */
export interface RampEnds {
  readonly low: number;
  readonly high: number;
  /** Null for a ramp without a middle. */
  readonly middle: number | null;
}

/**
 * The ends of a ramp over some values: those it names, or the least and the greatest; a ramp with a middle reaches equally
 * far on both sides of it. Null without values. Held against benchmarks the values are their distances from them.
 */
export function rampEnds({ middle, ends }: Ramp, values: readonly number[]): RampEnds | null {
  const at = middle ? (middle.at === 'benchmark' ? 0 : middle.at) : null;
  if (ends) return { low: Math.min(...ends), high: Math.max(...ends), middle: at };
  let low = Infinity;
  let high = -Infinity;
  for (const value of values) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  if (low > high) return null;
  if (at === null) return { low, high, middle: null };
  const reach = Math.max(Math.abs(low - at), Math.abs(high - at));
  return { low: tidy(at - reach), high: tidy(at + reach), middle: at };
}

/** The ink of a value, mixed in OKLab (Ottosson 2020); beyond the ends it stays that of the end. */
export function rampInk(ramp: Ramp, { low, high, middle }: RampEnds, value: number): string {
  const part = (from: number, to: number) => (to > from ? Math.min(1, Math.max(0, (value - from) / (to - from))) : 0.5);
  if (!ramp.middle || middle === null) return between(ramp.low, ramp.high, part(low, high));
  if (value === middle) return ramp.middle.ink;
  return value < middle
    ? between(ramp.low, ramp.middle.ink, part(low, middle))
    : between(ramp.middle.ink, ramp.high, part(middle, high));
}

/** What a ramp looks at in each row: the value, or its distance from the row's benchmark. */
export function rampValues(
  { middle }: Ramp,
  values: readonly number[],
  benchmarks: ArrayLike<number> | null,
): readonly number[] {
  return middle?.at === 'benchmark' ? values.map((value, row) => value - (benchmarks?.[row] ?? NaN)) : values;
}

/** An ink for each row; null where there is no value. */
export function rampInks(
  ramp: Ramp,
  values: readonly number[],
  benchmarks: ArrayLike<number> | null,
): readonly (string | null)[] {
  const held = rampValues(ramp, values, benchmarks);
  const ends = rampEnds(ramp, held);
  return held.map((value) => (Number.isNaN(value) || !ends ? null : rampInk(ramp, ends, value)));
}
