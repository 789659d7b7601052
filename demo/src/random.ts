/** A stream of numbers in [0, 1) that is the same on every machine (mulberry32). */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Draws an index with a chance in proportion to its weight; `sums` are the running sums of the weights. */
export function draw(random: () => number, sums: readonly number[]): number {
  const at = random() * sums[sums.length - 1]!;
  return Math.min(
    sums.findIndex((sum) => at < sum),
    sums.length - 1,
  );
}

export function runningSums(weights: readonly number[]): number[] {
  let sum = 0;
  return weights.map((weight) => (sum += weight));
}
