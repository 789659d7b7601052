import { merged, runsOf, takePart, vectorEngine, type ScanHelper, type VectorEngine } from './vector';

// Other threads of a scan, in this one.

/** A thread as it is elsewhere: what goes there and comes back is copied, columns are not. It takes some runs at most. */
export const thread = (most: number): ScanHelper => ({
  run: async (plan, rows, place) => {
    if (most === Infinity) return structuredClone(takePart(vectorEngine()!, structuredClone(plan), rows, place));
    Atomics.store(rows.taken, 1 + place, 1);
    return vectorEngine()!.run(structuredClone(plan), first(runsOf(rows), most));
  },
});
function* first<T>(some: Iterable<T>, most: number): Generator<T> {
  let left = most;
  if (left > 0)
    for (const one of some) {
      yield one;
      if (--left === 0) return;
    }
}
/** One that takes a run, and ends. */
export const failing: ScanHelper = {
  run: async (_, rows, place) => {
    Atomics.store(rows.taken, 1 + place, 1);
    for (const _run of first(runsOf(rows), 1)) break;
    throw new Error('it has ended');
  },
};
/** One that never comes to it; should it be waited for, the test does not end. */
export const late: ScanHelper = { run: () => new Promise(() => {}) };
/** One that never begins, and fails when nobody waits for it. */
export const broken: ScanHelper = { run: () => Promise.reject(new Error('there is no thread')) };

/** An engine that runs some rows first and the others then, as two threads do. */
export function inTwo(engine: VectorEngine, at: number): VectorEngine {
  return {
    run(plan, runs) {
      const [[from, to]] = [...runs] as [[number, number]];
      const middle = Math.min(to, from + at);
      return merged(engine.run(plan, [[middle, to]]), engine.run(plan, [[from, middle]]));
    },
  };
}
