/** SQL's `percentile_cont` of sorted values: linear between the two neighbours of place p · (n − 1). */
export function percentile(sorted: readonly number[], p: number): number {
  const place = Math.min(Math.max(p, 0), 1) * (sorted.length - 1);
  const low = Math.floor(place);
  const below = sorted[low]!;
  const above = sorted[Math.min(low + 1, sorted.length - 1)]!;
  return below + (above - below) * (place - low);
}
