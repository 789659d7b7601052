import { studentBoth } from './studentT';

/** A straight line through points, by least squares. */
export interface Line {
  readonly slope: number;
  readonly intercept: number;
  /** Share of the variation the line explains; blank (NaN) where all values are the same. */
  readonly rSquared: number;
  /** Standard deviation of the residuals, with n − 2 degrees of freedom; blank with fewer than three points. */
  readonly deviation: number;
  readonly points: number;
  readonly meanX: number;
  /** Σ (x − x̄)². */
  readonly spreadX: number;
}

/** Fits y = intercept + slope · x. Points with a blank are passed over; null with fewer than two different x. */
export function leastSquares(x: readonly number[], y: readonly number[]): Line | null {
  const kept = x.flatMap((value, i) => (Number.isFinite(value) && Number.isFinite(y[i]!) ? [i] : []));
  const n = kept.length;
  if (n < 2) return null;
  // Two passes: sums of deviations from the means keep the digits that sums of squares lose.
  const mean = (of: readonly number[]) => kept.reduce((sum, i) => sum + of[i]!, 0) / n;
  const [meanX, meanY] = [mean(x), mean(y)];
  let [xx, xy, yy] = [0, 0, 0];
  for (const i of kept) {
    const [dx, dy] = [x[i]! - meanX, y[i]! - meanY];
    xx += dx * dx;
    xy += dx * dy;
    yy += dy * dy;
  }
  if (xx === 0) return null;
  const slope = xy / xx;
  const intercept = meanY - slope * meanX;
  const residual = kept.reduce((sum, i) => sum + (y[i]! - meanY - slope * (x[i]! - meanX)) ** 2, 0);
  return {
    slope,
    intercept,
    rSquared: yy === 0 ? NaN : Math.max(0, 1 - residual / yy),
    deviation: n > 2 ? Math.sqrt(residual / (n - 2)) : NaN,
    points: n,
    meanX,
    spreadX: xx,
  };
}

/** A value and the interval that holds a new one with some probability. */
export interface Interval {
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

/** The line's value at x and the prediction interval of one new value there; the interval is blank with fewer than three points. */
export function predict(line: Line, x: number, level = 0.95): Interval {
  const value = line.intercept + line.slope * x;
  if (line.points < 3) return { value, low: NaN, high: NaN };
  const reach =
    studentBoth(level, line.points - 2) *
    line.deviation *
    Math.sqrt(1 + 1 / line.points + (x - line.meanX) ** 2 / line.spreadX);
  return { value, low: value - reach, high: value + reach };
}
