import { tidy } from '../number';
import { leastSquares } from '../series';
import type { Cells } from './cells';

/** The straight line through a member's steps. */
export interface Trend {
  readonly key: Readonly<Record<string, string>>;
  /** Change a step. */
  readonly slope: number;
  /** The line's value at the first step, and at the last that has one. */
  readonly first: number;
  readonly last: number;
  /** Share of the variation that the line explains, 0–1; blank where all values are the same. */
  readonly rSquared: number;
  readonly steps: number;
}

/**
 * Least squares of the shown values on the number of their step, one line a member; none with fewer than two values. Steps that still
 * run, or that are only in part among the data, take no part.
 */
export function trendsOf({ grain, steps, count, actual, fields, members, isPart, view }: Cells): Trend[] {
  if (!grain || !steps) return [];
  const found: Trend[] = [];
  for (let from = 0; from < count;) {
    let to = from + 1;
    while (to < count && steps[to]! > steps[to - 1]!) to++;
    // Ranks, running sums and what views have made of whole steps are what they are.
    const isMade = view.kind !== 'plain' && view.kind !== 'share';
    const values = Array.from(actual.slice(from, to), (value, i) => (isPart?.[from + i] && !isMade ? NaN : value));
    const line = leastSquares(
      values.map((_, i) => i + 1),
      values,
    );
    const start = from;
    if (line) {
      const at = (i: number) => tidy(line.intercept + line.slope * (i + 1));
      found.push({
        key: Object.fromEntries(fields.map((field, f) => [field, members[f]![start]!])),
        slope: tidy(line.slope),
        first: at(0),
        last: at(values.findLastIndex((value) => !Number.isNaN(value))),
        rSquared: tidy(line.rSquared),
        steps: line.points,
      });
    }
    from = to;
  }
  return found;
}
