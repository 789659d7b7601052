import type { View } from '../brief';
import { combine, difference, tidy, total, type Decimals } from '../number';
import type { Aim } from '../report';

/**
 * A view over one member's values in the order of their steps. Blank stays blank; a running sum does not go on behind the
 * last step that has data, which `until` counts.
 */
export function viewOver(view: View, values: readonly number[], decimals: Decimals, until: number): number[] {
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
      return values.map((value, i) => (i === 0 ? NaN : difference(value, values[i - 1]!, decimals)));
    case 'smoothed':
      return values.map((_, i) => {
        const window = values.slice(Math.max(0, i - view.steps + 1), i + 1);
        if (window.length < view.steps || window.some(Number.isNaN)) return NaN;
        return tidy(total(window, decimals) / view.steps);
      });
  }
}

/** Value ÷ total; blank where the total is 0 or blank. */
export function shareOf(value: number, whole: number): number {
  return whole === 0 ? NaN : tidy(value / whole);
}

/** Competition ranks (1, 2, 2, 4); 1 is the best under the aim, blank has none. For `hold` nearest to the benchmark is best. */
export function ranksOf(values: readonly number[], aim: Aim, benchmarks: readonly number[] | null): number[] {
  const merit = values.map((value, i) => {
    if (aim === 'raise') return value;
    if (aim === 'cut') return -value;
    return benchmarks && !Number.isNaN(benchmarks[i]!) ? -Math.abs(value - benchmarks[i]!) : value;
  });
  const best = merit.filter((m) => !Number.isNaN(m)).sort((a, b) => b - a);
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
