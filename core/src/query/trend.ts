import { tidy } from '../number';
import { leastSquares } from '../series';
import type { Cells } from './cells';

/** The straight line through a member's steps. */
export interface Trend {
  readonly key: Readonly<Record<string, string>>;
  /** Change a step. */
  readonly slope: number;
  /** The line's value at the first and at the last step that takes part. */
  readonly first: number;
  readonly last: number;
  /** Share of the variation that the line explains, 0–1; blank where all values are the same. */
  readonly rSquared: number;
  readonly steps: number;
}

/** A row takes part in lines and means: it has a value, and its step is known in full. */
export function isFitted({ actual, isPart }: Pick<Cells, 'actual' | 'isPart'>, row: number): boolean {
  return !Number.isNaN(actual[row]!) && !isPart?.[row];
}

/**
 * Least squares of the shown values on the number of their step, one line a member; none with fewer than two values. Steps that still
 * run, or that are only in part among the data, take no part.
 */
export function trendsOf(cells: Cells): Trend[] {
  const { grain, steps, count, actual, fields, members } = cells;
  if (!grain || !steps) return [];
  const found: Trend[] = [];
  for (let from = 0; from < count;) {
    let to = from + 1;
    while (to < count && steps[to]! > steps[to - 1]!) to++;
    const start = from;
    const values = Array.from({ length: to - from }, (_, i) => (isFitted(cells, start + i) ? actual[start + i]! : NaN));
    const line = leastSquares(
      values.map((_, i) => i + 1),
      values,
    );
    if (line) {
      const at = (i: number) => tidy(line.intercept + line.slope * (i + 1));
      found.push({
        key: Object.fromEntries(fields.map((field, f) => [field, members[f]![start]!])),
        slope: tidy(line.slope),
        first: at(values.findIndex((value) => !Number.isNaN(value))),
        last: at(values.findLastIndex((value) => !Number.isNaN(value))),
        rSquared: tidy(line.rSquared),
        steps: line.points,
      });
    }
    from = to;
  }
  return found;
}
