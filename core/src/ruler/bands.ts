/** A ruler of categories: n bands along a length, with room between them (`inner`) and at the ends (`outer`), as shares of a step. */
export interface BandRuler {
  readonly step: number;
  readonly thickness: number;
  readonly start: number;
  readonly inner: number;
  readonly outer: number;
}

/** `s = L/(n + 2·outer − inner)`, `t = s·(1 − inner)`. */
export function bandRuler(n: number, [r0, r1]: readonly [number, number], inner: number, outer: number): BandRuler {
  const step = (r1 - r0) / Math.max(1, n + 2 * outer - inner);
  return { step, thickness: step * (1 - inner), start: r0, inner, outer };
}

/** Centre of the i-th band: `r0 + s·(outer + i) + t/2`. */
export function bandCentre({ step, thickness, start, outer }: BandRuler, i: number): number {
  return start + step * (outer + i) + thickness / 2;
}
