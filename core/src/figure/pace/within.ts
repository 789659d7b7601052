import type { Cells, Landing } from '../../query';
import { tidy } from '../../number';
import type { Series } from '../time/series';

/** The range of a landing if the steps to come vary as those before did, each on its own. */
export interface Within {
  readonly low: number;
  readonly high: number;
}

/**
 * The spread of a landing on a forecast: the steps to come vary by themselves, so their variances add up; the running step counts
 * by the days it has left. Their sum is taken as often as the pace says. Null where the forecast has no spread.
 * @param plain the same steps one by one, with what holds each of them.
 */
export function landingWithin(landing: Landing, plain: Cells | null, { rows }: Series, cells: Cells): Within | null {
  const { asOf } = cells;
  if (!plain?.low || !plain.high || Number.isNaN(landing.landing) || landing.daysLeft === 0) return null;
  let variance = 0;
  rows.forEach((row) => {
    const step = plain.steps![row] ?? 0;
    const next = plain.steps![row + 1] ?? cells.period.to + 1;
    const left = next > step ? Math.min(1, Math.max(0, (next - 1 - asOf) / (next - step))) : step > asOf ? 1 : 0;
    const half = (plain.high![row]! - plain.low![row]!) / 2;
    if (!Number.isNaN(half)) variance += left * half * half;
  });
  if (variance === 0) return null;
  const reach = Math.sqrt(variance) * Math.abs(landing.pace);
  return { low: tidy(landing.landing - reach), high: tidy(landing.landing + reach) };
}
