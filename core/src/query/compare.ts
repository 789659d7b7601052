import { difference, finer, tidy, total, type Decimals } from '../number';
import type { Aim } from '../report';
import { STANDINGS, type Standing } from './cells';

/** Of two numbers that are not exact, a difference of less than this part of them is what computing leaves. */
const DUST = 1e-12;

/** actual − benchmark, exact where both are, and 0 where only rounding tells them apart; blank where either is, or rests on a missing rate. */
export function gapOf(actual: number, benchmark: number, a: Decimals, b: Decimals): number {
  const decimals = finer(a, b);
  const gap = difference(actual, benchmark, decimals);
  if (!Number.isFinite(gap)) return NaN;
  const isDust = decimals === null && Math.abs(gap) <= DUST * Math.max(Math.abs(actual), Math.abs(benchmark));
  return isDust ? 0 : gap;
}

/** Gap, gap % and standing of one pair of numbers. */
export function compare(
  actual: number,
  benchmark: number,
  { aim, tolerance }: { aim: Aim; tolerance: number },
  a: Decimals,
  b: Decimals,
): { gap: number; gapPercent: number; standing: Standing | null } {
  const gap = gapOf(actual, benchmark, a, b);
  return { gap, gapPercent: gapPercentOf(gap, benchmark), standing: standingOf(gap, benchmark, aim, tolerance) };
}

/** A standing as it is held in cells: 1 + its place in `STANDINGS`, 0 for none. */
export function standingCode(standing: Standing | null): number {
  return standing === null ? 0 : 1 + STANDINGS.indexOf(standing);
}

/** gap ÷ |benchmark|; blank where the benchmark is 0 or blank. */
export function gapPercentOf(gap: number, benchmark: number): number {
  const share = benchmark === 0 ? NaN : tidy(gap / Math.abs(benchmark));
  // Beside the smallest numbers there are, a share can leave the range of doubles: it says nothing then.
  return Number.isFinite(share) ? share : NaN;
}

/**
 * The gap read with the aim: `raise` is ahead above the benchmark, `cut` below it, `hold` is level near it and behind away
 * from it. Within `tolerance` · |benchmark| it is level. Null where there is no gap.
 */
export function standingOf(gap: number, benchmark: number, aim: Aim, tolerance: number): Standing | null {
  if (Number.isNaN(gap)) return null;
  const within = tidy(tolerance * Math.abs(benchmark));
  if (Math.abs(gap) <= within) return 'level';
  if (aim === 'hold') return 'behind';
  return gap > 0 === (aim === 'raise') ? 'ahead' : 'behind';
}

/** Of what was held against another period: whether there is something now and was nothing then, or the other way round. */
export function newOrGone(is: number, was: number): 'new' | 'gone' | null {
  const nothing = (value: number) => Number.isNaN(value) || value === 0;
  if (nothing(is) === nothing(was)) return null;
  return nothing(was) ? 'new' : 'gone';
}

/** Whether values, blanks passed over, come to a whole; binary dust is measured by what was added up. */
export function comesTo(values: ArrayLike<number>, whole: number, decimals: Decimals): boolean {
  let magnitude = 0;
  for (let i = 0; i < values.length; i++) magnitude += Math.abs(values[i]!) || 0;
  return Math.abs((total(values, decimals) || 0) - whole) <= 1e-12 * magnitude;
}
