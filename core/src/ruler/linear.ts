/** A ruler that maps values to pixels on a straight line: `x(v) = r0 + (v − d0)·(r1 − r0)/(d1 − d0)`. */
export interface LinearRuler {
  readonly kind: 'linear';
  readonly domain: readonly [number, number];
  /** CSS pixels; may run upward for vertical rulers. */
  readonly range: readonly [number, number];
  /** Values of the ticks, in rising order. */
  readonly ticks: readonly number[];
}

/** The pixel of a value. */
export function place({ domain, range }: Pick<LinearRuler, 'domain' | 'range'>, value: number): number {
  // Called for every mark: an index is read faster than a pattern.
  const d0 = domain[0];
  const d1 = domain[1];
  const r0 = range[0];
  const r1 = range[1];
  return d1 === d0 ? r0 : r0 + ((value - d0) * (r1 - r0)) / (d1 - d0);
}

/** The value at a pixel. */
export function valueAt({ domain, range }: Pick<LinearRuler, 'domain' | 'range'>, pixel: number): number {
  const [d0, d1] = domain;
  const [r0, r1] = range;
  return r1 === r0 ? d0 : d0 + ((pixel - r0) * (d1 - d0)) / (r1 - r0);
}
