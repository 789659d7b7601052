/**
 * Numbers held exactly. A number with `decimals` d (0–4) is an integer multiple of 10⁻ᵈ; its scaled form is that integer,
 * held in a double without loss up to 2⁵³. `null` decimals means an ordinary double.
 */
export type Decimals = number | null;

export const MOST_DECIMALS = 4;
export const EXACT_LIMIT = 2 ** 53;
/** Numbers beyond this are none: sums, gaps, squares and products of squares of those within it are numbers, too. */
export const LARGEST = 1e60;

const POWERS = [1, 10, 100, 1000, 10_000] as const;

/** 10ᵈ for d in 0…4. */
export function power(decimals: number): number {
  return POWERS[decimals] ?? 10 ** decimals;
}

/** The integer a value stands for at d decimals. */
export function scaled(value: number, decimals: number): number {
  return Math.round(value * power(decimals));
}

/** Decimals of a sum or difference: the finer of both, or none when either is inexact. */
export function finer(a: Decimals, b: Decimals): Decimals {
  return a === null || b === null ? null : Math.max(a, b);
}

/** a − b without binary dust: exact at known decimals, else rounded to 15 significant digits. Blank (NaN) if either is. */
export function difference(a: number, b: number, decimals: Decimals): number {
  return combine(a, -b, decimals);
}

/** a + b without binary dust. Blank (NaN) if either is. */
export function combine(a: number, b: number, decimals: Decimals): number {
  if (decimals === null) return tidy(a + b);
  const whole = scaled(a, decimals) + scaled(b, decimals);
  return Math.abs(whole) <= EXACT_LIMIT ? whole / power(decimals) : tidy(a + b);
}

/** The nearest double with at most 15 significant digits, which drops binary dust (0.1 + 0.2 → 0.3). */
export function tidy(value: number): number {
  // Four decimals below 10¹¹ are no more than 15 digits.
  if (value < 1e11 && value > -1e11 && Math.round(value * 10_000) / 10_000 === value) return value;
  return Number.isFinite(value) ? Number(value.toPrecision(15)) : value;
}

/** Exact sum at known decimals, else compensated (Neumaier). Blanks (NaN) are passed over; only blanks give NaN. */
export function total(values: ArrayLike<number>, decimals: Decimals): number {
  let sum = 0;
  let lost = 0;
  let seen = false;
  let isExact = decimals !== null;
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!;
    if (Number.isNaN(value)) continue;
    // What has no value on purpose, as an amount without a rate, leaves its sum without one.
    if (!Number.isFinite(value)) return value;
    seen = true;
    if (decimals !== null) {
      sum += scaled(value, decimals);
      if (Math.abs(sum) > EXACT_LIMIT) isExact = false;
      continue;
    }
    const next = sum + value;
    lost += Math.abs(sum) >= Math.abs(value) ? sum - next + value : value - next + sum;
    sum = next;
  }
  if (!seen) return NaN;
  // Beyond what integers in a double hold, the digits that are lost are carried beside the sum instead.
  if (decimals !== null && !isExact) return total(values, null);
  return decimals !== null ? sum / power(decimals) : tidy(sum + lost);
}

/** The most decimals at which parts of amounts are held. */
const MOST_PARTS = 12;

/**
 * Decimals at which amounts can be cut into parts that add up to them exactly: parts are then integers, as many as leave the
 * amounts together within 15 digits.
 * @param magnitude the absolute amounts together.
 * @param decimals what the amounts themselves have.
 */
export function decimalsForParts(magnitude: number, decimals: Decimals): number {
  const digits = Math.max(1, Math.ceil(Math.log10(Math.max(1, magnitude) * (1 + 1e-12))));
  return Math.max(decimals ?? 0, Math.min(MOST_PARTS, 15 - digits));
}

/** The integer that stands for the first part of an amount, `share` of it from 0 to 1, at d decimals. The part between two shares is their difference. */
export function partUpTo(value: number, share: number, decimals: number): number {
  return Math.round(value * power(decimals) * share);
}

/** Decimals of a value as it is written, up to 4, or null when it needs more. */
export function decimalsOf(value: number): Decimals {
  for (let d = 0; d <= MOST_DECIMALS; d++) {
    const whole = value * power(d);
    if (Math.abs(whole) > EXACT_LIMIT) return null;
    if (Math.round(whole) / power(d) === value) return d;
  }
  return null;
}
