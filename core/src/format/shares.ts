import { roundedShares, type Cells } from '../query';

/**
 * Shares as they are shown: those of one step are rounded so that they add up to their sum as it is shown, by the largest
 * remainder. 0.333 of three is 0.334, 0.333 and 0.333 at one decimal of a percentage.
 * @param of a share a row; blank is NaN.
 */
export function shownShares(
  { count, steps }: Pick<Cells, 'count' | 'steps'>,
  of: ArrayLike<number>,
  decimals = 1,
): Float64Array {
  const rowsOf = new Map<number, number[]>();
  for (let row = 0; row < count; row++) {
    const step = steps?.[row] ?? 0;
    const rows = rowsOf.get(step);
    if (rows) rows.push(row);
    else rowsOf.set(step, [row]);
  }
  const shown = new Float64Array(count).fill(NaN);
  for (const rows of rowsOf.values()) {
    const rounded = roundedShares(
      rows.map((row) => of[row]!),
      decimals,
    );
    rows.forEach((row, i) => (shown[row] = Number(`${rounded[i]!}e-2`)));
  }
  return shown;
}
