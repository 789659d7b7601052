/** A tick distance: mantissa · 10^exponent, the mantissa one of 1, 2, 2.5, 5. */
export interface TickStep {
  readonly mantissa: number;
  readonly exponent: number;
}

const MANTISSAS = [1, 2, 2.5, 5] as const;

/** k times the step, as the double nearest to the decimal number. */
export function multiple({ mantissa, exponent }: TickStep, k: number): number {
  const value = k * mantissa;
  if (value === 0) return 0;
  // Dividing by a power of ten is exact to the last digit where multiplying by a fraction is not.
  if (exponent >= 0) return exponent <= 22 ? value * 10 ** exponent : Number(`${value}e${exponent}`);
  return exponent >= -22 ? value / 10 ** -exponent : Number(`${value}e${exponent}`);
}

export function stepSize(step: TickStep): number {
  return multiple(step, 1);
}

/** Steps from the finest worth trying for a span to ever coarser ones. */
export function* stepsFor(span: number): Generator<TickStep> {
  // A thousandth of the span is finer than any labels fit.
  const first = Math.floor(Math.log10(span)) - 3;
  for (let exponent = first; exponent <= first + 6; exponent++)
    for (const mantissa of MANTISSAS) yield { mantissa, exponent };
}

/** Multiples of the step: the last at or below `low` and the first at or above `high`. */
export function niceEnds(step: TickStep, low: number, high: number): readonly [number, number] {
  const size = stepSize(step);
  let from = Math.floor(low / size);
  let to = Math.ceil(high / size);
  // The quotient may have been rounded across a whole number.
  if (multiple(step, from) > low) from--;
  else if (multiple(step, from + 1) <= low) from++;
  if (multiple(step, to) < high) to++;
  else if (multiple(step, to - 1) >= high) to--;
  return [from, to];
}
