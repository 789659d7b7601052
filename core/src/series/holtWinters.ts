import { leastSquares } from './leastSquares';
import { movingMean } from './movingMean';

export type Season = 'additive' | 'multiplicative';

/** Weights of the newest observation, each 0–1. */
export interface Weights {
  readonly level: number;
  readonly trend: number;
  readonly season: number;
}

/** A fitted model of triple exponential smoothing, and what it says of the steps to come. */
export interface Smoothed {
  readonly weights: Weights;
  /** Mean of the squared errors of the forecasts one step ahead. */
  readonly meanSquare: number;
  /** The forecast some steps ahead (1 is the next), and the standard deviation of its error. */
  ahead(steps: number): { readonly value: number; readonly deviation: number };
}

/** Where smoothing begins, behind the first season. */
interface Beginning {
  readonly level: number;
  readonly trend: number;
  readonly season: readonly number[];
}

/**
 * Beginning values from the first two seasons, by classical decomposition: their centred moving mean, the line through it,
 * and the mean deviation (ratio) from it at each place of the season, brought to a mean of 0 (1).
 */
function beginning(values: readonly number[], period: number, kind: Season): Beginning {
  const two = values.slice(0, 2 * period);
  const trend = movingMean(two, period, 'centred', null);
  const line = leastSquares(
    trend.filter((value) => !Number.isNaN(value)).map((_, i) => i + 1),
    trend.filter((value) => !Number.isNaN(value)),
  )!;
  const deviations = Array.from({ length: period }, () => [] as number[]);
  two.forEach((value, i) => {
    if (!Number.isNaN(trend[i]!))
      deviations[i % period]!.push(kind === 'additive' ? value - trend[i]! : value / trend[i]!);
  });
  const pattern = deviations.map((some) => some.reduce((a, b) => a + b, 0) / some.length);
  const mean = pattern.reduce((a, b) => a + b, 0) / period;
  return {
    level: line.intercept,
    trend: line.slope,
    season: pattern.map((value) => (kind === 'additive' ? value - mean : value / mean)),
  };
}

/** One run over the values; gives the sum of squared one-step errors and the state at the end. */
function run(values: readonly number[], period: number, kind: Season, from: Beginning, weights: Weights) {
  let { level, trend } = from;
  const season = [...from.season];
  let squares = 0;
  const isAdditive = kind === 'additive';
  for (let t = period; t < values.length; t++) {
    const value = values[t]!;
    const at = t % period;
    const expected = isAdditive ? level + trend + season[at]! : (level + trend) * season[at]!;
    squares += (value - expected) ** 2;
    const before = level;
    const plain = isAdditive ? value - season[at]! : value / season[at]!;
    level = weights.level * plain + (1 - weights.level) * (level + trend);
    trend = weights.trend * (level - before) + (1 - weights.trend) * trend;
    season[at] = weights.season * (isAdditive ? value - level : value / level) + (1 - weights.season) * season[at]!;
  }
  return { squares, level, trend, season };
}

/** The state after smoothing with given weights, behind the first season. */
export function smoothedWith(values: readonly number[], period: number, kind: Season, weights: Weights) {
  return run(values, period, kind, beginning(values, period, kind), weights);
}

/** Fits the weights by least squares: a grid over all of them, made finer around the best point until six digits stand. */
export function holtWinters(values: readonly number[], period: number, kind: Season): Smoothed | null {
  if (period < 2 || values.length < 2 * period || values.some((value) => !Number.isFinite(value))) return null;
  const from = beginning(values, period, kind);
  if (kind === 'multiplicative' && (values.some((value) => value <= 0) || from.season.some((ratio) => !(ratio > 0))))
    return null;
  let best: Weights = { level: 0.5, trend: 0, season: 0.5 };
  let least = Infinity;
  const STEPS = 10;
  let reach = 0.5;
  let centre: Weights = { level: 0.5, trend: 0.5, season: 0.5 };
  for (let round = 0; reach > 1e-7; round++, reach /= 2) {
    const steps = round === 0 ? STEPS : 4;
    const around = (middle: number) =>
      Array.from({ length: steps + 1 }, (_, i) => Math.min(1, Math.max(0, middle + reach * ((2 * i) / steps - 1))));
    for (const level of around(centre.level))
      for (const trend of around(centre.trend))
        for (const season of around(centre.season)) {
          const weights = { level, trend, season };
          const { squares } = run(values, period, kind, from, weights);
          if (squares < least) {
            least = squares;
            best = weights;
          }
        }
    centre = best;
  }
  const { level, trend, season } = run(values, period, kind, from, best);
  return {
    weights: best,
    meanSquare: least / (values.length - period),
    ahead(steps) {
      const pattern = season[(values.length - 1 + steps) % period]!;
      // Errors of the steps between add up with the weights they are given (Yar and Chatfield 1990).
      let sum = 1;
      for (let j = 1; j < steps; j++) {
        const kept = best.level * (1 + j * best.trend) + (j % period === 0 ? best.season * (1 - best.level) : 0);
        sum += kept * kept;
      }
      const value = kind === 'additive' ? level + steps * trend + pattern : (level + steps * trend) * pattern;
      return { value, deviation: Math.sqrt((least / (values.length - period)) * sum) };
    },
  };
}
