import { tidy, total, type Decimals } from '../number';

/** Which steps a moving mean takes: the last k with this one, the k before this one, or k around it. */
export type Window = 'trailing' | 'preceding' | 'centred';

/**
 * The mean of k steps. Blank until the window is full, and where a step in it is blank. A centred window of an even k is
 * the mean of the two windows of k that lie half a step off (2 × k).
 */
export function movingMean(values: readonly number[], k: number, window: Window, decimals: Decimals): number[] {
  const meanOf = (from: number, to: number): number => {
    if (from < 0 || to > values.length) return NaN;
    const some = values.slice(from, to);
    return some.some(Number.isNaN) ? NaN : total(some, decimals) / k;
  };
  return values.map((_, i) => {
    if (window === 'trailing') return tidy(meanOf(i - k + 1, i + 1));
    if (window === 'preceding') return tidy(meanOf(i - k, i));
    const half = Math.floor(k / 2);
    if (k % 2 === 1) return tidy(meanOf(i - half, i + half + 1));
    return tidy((meanOf(i - half, i + half) + meanOf(i - half + 1, i + half + 1)) / 2);
  });
}
