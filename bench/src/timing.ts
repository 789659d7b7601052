/** Median time of some runs in milliseconds, after a few that only warm up. */
export async function median(work: () => unknown, runs = 15, warmUp = 4): Promise<number> {
  for (let i = 0; i < warmUp; i++) await work();
  const times: number[] = [];
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    await work();
    times.push(performance.now() - start);
  }
  return times.sort((a, b) => a - b)[runs >> 1]!;
}

/** The median of the quietest of some rounds: what else the machine does is not ours. */
export async function quietest(work: () => unknown, rounds = 5): Promise<number> {
  const medians: number[] = [];
  for (let i = 0; i < rounds; i++) medians.push(await median(work, 61, i === 0 ? 40 : 10));
  return Math.min(...medians);
}

/** Two works in turn, so that a busy moment of the machine meets both. */
export async function sideBySide(
  ours: () => unknown,
  other: () => unknown,
  runs = 15,
  warmUp = 4,
): Promise<[number, number]> {
  const times: [number[], number[]] = [[], []];
  for (let i = -warmUp; i < runs; i++) {
    for (const [place, work] of [ours, other].entries()) {
      const start = performance.now();
      await work();
      if (i >= 0) times[place as 0 | 1].push(performance.now() - start);
    }
  }
  return times.map((list) => list.sort((a, b) => a - b)[runs >> 1]!) as [number, number];
}

/** One line a script can read: `ratio NAME OURS/OTHER VALUE`, times in milliseconds. */
export function printRatio(name: string, ours: number, other: number, goal?: number): void {
  const value = ours / other;
  const verdict = goal === undefined ? '' : value <= goal ? `  (goal ≤ ${goal}: met)` : `  (goal ≤ ${goal}: missed)`;
  console.log(`ratio ${name} ${ours.toFixed(2)}/${other.toFixed(2)} ${value.toFixed(3)}${verdict}`);
}

/** One line of a time in milliseconds that has a goal. */
export const printTime = (name: string, took: number, goal: number) =>
  console.log(
    `time ${name} ${took.toFixed(took < 100 ? 1 : 0)} ms  (goal ≤ ${goal}: ${took >= 0 && took <= goal ? 'met' : 'missed'})`,
  );

/** The geometric mean of ratios. */
export function printMean(name: string, ratios: readonly number[], goal: number): void {
  const mean = Math.exp(ratios.reduce((sum, ratio) => sum + Math.log(ratio), 0) / ratios.length);
  console.log(`ratio ${name}-geometric-mean ${mean.toFixed(3)}  (goal ≤ ${goal}: ${mean <= goal ? 'met' : 'missed'})`);
}
