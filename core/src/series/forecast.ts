import { tidy, total } from '../number';
import { holtWinters, type Season } from './holtWinters';
import { leastSquares, predict, type Interval } from './leastSquares';
import { studentBoth } from './studentT';

/** A method that continues a series step by step. The run rate needs days instead, see the benchmark. */
export type SeriesMethod = 'same period last year' | 'seasonal naive' | 'linear' | 'average of last k' | 'smoothing';

export interface ForecastWish {
  readonly method: SeriesMethod;
  /** Added to last year's values: 0.04 is four per cent more. */
  readonly growth?: number;
  /** How many steps the average takes; 3 when left out. */
  readonly k?: number;
  readonly season?: Season;
}

/** How many of the steps before are needed at least. */
export function stepsNeeded({ method, k = 3 }: ForecastWish, perYear: number): number {
  switch (method) {
    case 'same period last year':
    case 'seasonal naive':
      return perYear;
    case 'linear':
      return 2;
    case 'average of last k':
      return k;
    case 'smoothing':
      return 2 * perYear;
  }
}

const LEVEL = 0.95;

/**
 * Continues a series by some steps, each with the interval that holds it in 95 of 100 cases where the method gives one, if the
 * steps go on to vary as before, each on its own.
 * Blank is blank: blanks at the beginning are passed over, a mean or a line is taken of the steps that have a value, what repeats a
 * blank step is blank, and smoothing cannot follow a series with blanks.
 * @param history the steps before, the last one the step before the first that is wanted.
 * @param perYear steps of a season: 12 months, 4 quarters, 52 weeks; for days 7, as a week.
 * @returns null where the history is too short, or the method cannot follow it.
 */
export function forecast(
  wish: ForecastWish,
  history: readonly number[],
  steps: number,
  perYear: number,
): Interval[] | null {
  const first = history.findIndex((value) => !Number.isNaN(value));
  const values = first < 0 ? [] : history.slice(first);
  const n = values.length;
  if (n < stepsNeeded(wish, perYear)) return null;
  const ahead = Array.from({ length: steps }, (_, i) => i + 1);
  const plain = (value: number): Interval => ({ value: tidy(value), low: NaN, high: NaN });
  const within = (value: number, reach: number): Interval => ({ value, low: value - reach, high: value + reach });
  switch (wish.method) {
    case 'same period last year': {
      const growth = 1 + (wish.growth ?? 0);
      // Beyond a year the forecast itself is last year.
      const made = [...values];
      for (const _ of ahead) made.push(made[made.length - perYear]! * growth);
      return made.slice(n).map(plain);
    }
    case 'seasonal naive': {
      const errors = values
        .slice(perYear)
        .map((value, i) => value - values[i]!)
        .filter((error) => !Number.isNaN(error));
      const deviation = Math.sqrt(errors.reduce((sum, e) => sum + e * e, 0) / Math.max(1, errors.length));
      const reach = errors.length < 2 ? NaN : studentBoth(LEVEL, errors.length - 1) * deviation;
      return ahead.map((h) =>
        within(values[n - perYear + ((h - 1) % perYear)]!, reach * Math.sqrt(Math.floor((h - 1) / perYear) + 1)),
      );
    }
    case 'linear': {
      const line = leastSquares(
        values.map((_, i) => i + 1),
        values,
      );
      return line && ahead.map((h) => predict(line, n + h, LEVEL));
    }
    case 'average of last k': {
      const k = wish.k ?? 3;
      const last = values.slice(n - k).filter((value) => !Number.isNaN(value));
      const m = last.length;
      if (m === 0) return null;
      const mean = total(last, null) / m;
      const squares = last.reduce((sum, value) => sum + (value - mean) ** 2, 0);
      const reach = m < 2 ? NaN : studentBoth(LEVEL, m - 1) * Math.sqrt((squares / (m - 1)) * (1 + 1 / m));
      return ahead.map(() => within(tidy(mean), reach));
    }
    case 'smoothing': {
      const model = holtWinters(values, perYear, wish.season ?? 'additive');
      const normal = studentBoth(LEVEL, 1e6);
      return model && ahead.map((h) => within(model.ahead(h).value, normal * model.ahead(h).deviation));
    }
  }
}

/**
 * How well the method would have done: the mean absolute percentage error over the last year of the series, forecast from
 * what was before. Steps that were 0 or blank have no percentage. Null where the series is too short.
 */
export function backtest(wish: ForecastWish, values: readonly number[], perYear: number): number | null {
  const year = Math.min(perYear, values.length);
  const made = forecast(wish, values.slice(0, values.length - year), year, perYear);
  if (!made) return null;
  const errors = values
    .slice(values.length - year)
    .flatMap((value, i) => (value === 0 ? [] : [Math.abs((made[i]!.value - value) / value)]))
    .filter((error) => !Number.isNaN(error));
  return errors.length === 0 ? null : errors.reduce((a, b) => a + b, 0) / errors.length;
}
