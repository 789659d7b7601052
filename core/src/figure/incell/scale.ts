/** What a cell's figure is drawn along: a stretch of values, in a stretch of pixels. */
export interface CellScale {
  readonly low: number;
  readonly high: number;
}

/** A scale that holds all values and zero; blanks are passed over. */
export function scaleOver(values: Iterable<number>): CellScale {
  let low = 0;
  let high = 0;
  for (const value of values) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return { low, high };
}

/** The least scale that holds both. */
export function together(a: CellScale, b: CellScale): CellScale {
  return { low: Math.min(a.low, b.low), high: Math.max(a.high, b.high) };
}

/** The place of a value between two pixels. */
export function along({ low, high }: CellScale, value: number, from: number, to: number): number {
  return high === low ? from : from + ((value - low) * (to - from)) / (high - low);
}
