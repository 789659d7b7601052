import type { View } from '../brief';
import { combine, difference, MOST_DECIMALS, tidy, type Decimals } from '../number';
import type { Aim, RankKind } from '../report';
import { movingMean, type Window } from '../series';

/** What a view must know of the steps it goes over. */
export interface Steps {
  /** How many have data: a running sum does not go on behind the last of them. */
  readonly until: number;
  /** Which are known in full: they neither still run nor begin before the data or the period do. */
  readonly isWhole: readonly boolean[];
  /** The step that is cut at its end, by the as-of date or the period's; −1 where none is. */
  readonly cut: number;
}

/**
 * A view over one member's values in the order of their steps. Blank stays blank. Changes and means are of whole steps; the
 * step that is cut is compared with as much of the one before.
 * @param asMuchBefore of the step before the one that is cut, as many days as that has.
 */
export function viewOver(
  view: View,
  values: readonly number[],
  decimals: Decimals,
  { until, isWhole, cut }: Steps,
  asMuchBefore: number,
  window: Window = 'trailing',
): number[] {
  switch (view.kind) {
    case 'plain':
    case 'share':
    case 'rank':
      return [...values];
    case 'cumulative': {
      let sum = NaN;
      return values.map((value, i) => {
        if (i >= until) return NaN;
        if (!Number.isNaN(value)) sum = Number.isNaN(sum) ? value : combine(sum, value, decimals);
        return sum;
      });
    }
    case 'change':
      return values.map((value, i) => {
        if (i === 0 || !isWhole[i - 1]) return NaN;
        if (i === cut) return changeBetween(asMuchBefore, value, decimals);
        return isWhole[i] ? changeBetween(values[i - 1]!, value, decimals) : NaN;
      });
    case 'smoothed':
      return movingMean(
        values.map((value, i) => (isWhole[i] ? value : NaN)),
        view.steps,
        window,
        decimals,
      );
  }
}

/** What parts of one target differ by in their last digits is rounding, and no change. */
function changeBetween(before: number, after: number, decimals: Decimals): number {
  const change = difference(after, before, decimals);
  const least =
    decimals === null
      ? 1e-13 * Math.max(Math.abs(before), Math.abs(after))
      : decimals > MOST_DECIMALS
        ? 4 / 10 ** decimals
        : 0;
  return Math.abs(change) <= least ? 0 : change;
}

/** Value ÷ total; blank where the total is 0 or blank. */
export function shareOf(value: number, whole: number): number {
  return whole === 0 ? NaN : tidy(value / whole);
}

/**
 * Ranks of values in the order of their members' names; 1 is the best under the aim, blank has none. For `hold` nearest to
 * the benchmark is best. Equal values share a rank, unless ranks are ordinal.
 */
export function ranksOf(
  values: readonly number[],
  aim: Aim,
  benchmarks: readonly number[] | null,
  kind: RankKind = 'competition',
): number[] {
  const merit = values.map((value, i) => {
    if (!Number.isFinite(value)) return NaN;
    if (aim === 'raise') return value;
    if (aim === 'cut') return -value;
    // What is equally far in decimals is so, whatever binary fractions make of it.
    return benchmarks && !Number.isNaN(benchmarks[i]!) ? -tidy(Math.abs(value - benchmarks[i]!)) : value;
  });
  const best = merit.filter((m) => !Number.isNaN(m)).sort((a, b) => b - a);
  if (kind === 'ordinal') {
    const ranks = merit.map(() => NaN);
    const order = merit.flatMap((m, i) => (Number.isNaN(m) ? [] : [i])).sort((a, b) => merit[b]! - merit[a]! || a - b);
    order.forEach((member, i) => (ranks[member] = i + 1));
    return ranks;
  }
  if (kind === 'dense') best.splice(0, best.length, ...new Set(best));
  const placeOf = new Map<number, number>();
  best.forEach((m, i) => placeOf.has(m) || placeOf.set(m, i + 1));
  return merit.map((mine) => placeOf.get(mine) ?? NaN);
}

/** Shares as whole percentages (or finer) that add to the whole, by the largest remainder. Blanks stay blank. */
export function roundedShares(shares: readonly number[], decimals = 0): number[] {
  const scale = 10 ** (decimals + 2);
  const exact = shares.map((share) => share * scale);
  const floors = exact.map(Math.floor);
  const filled = exact.flatMap((value, i) => (Number.isNaN(value) ? [] : [i]));
  let left = Math.round(filled.reduce((sum, i) => sum + exact[i]!, 0)) - filled.reduce((sum, i) => sum + floors[i]!, 0);
  const byRemainder = [...filled].sort((a, b) => exact[b]! - floors[b]! - (exact[a]! - floors[a]!) || a - b);
  for (const i of byRemainder) {
    if (left <= 0) break;
    floors[i]!++;
    left--;
  }
  return floors.map((value) => value / 10 ** decimals);
}
