import type { ScanHelper, VectorState } from '@bold-ruler/core/source';
import type { ScanAnswered, ScanAsked } from './scan.worker';

/** More threads than this have nothing left to do. */
const MOST = 7;

/** A thread that is begun when there is something to do. */
function helper(): ScanHelper {
  let worker: Worker | null = null;
  const waiting = new Map<number, { done(state: VectorState | null): void; failed(error: Error): void }>();
  let count = 0;
  const begin = (): Worker => {
    const begun = new Worker(new URL('./scan.worker.ts', import.meta.url), { type: 'module' });
    begun.addEventListener('message', ({ data: { number, can, state } }: MessageEvent<ScanAnswered>) => {
      const one = waiting.get(number);
      waiting.delete(number);
      if (can) one?.done(state);
      else one?.failed(new Error('a thread cannot scan'));
    });
    // What it was asked for is then done by whoever asked.
    begun.addEventListener('error', () => {
      worker = null;
      for (const { failed } of waiting.values()) failed(new Error('a thread has ended'));
      waiting.clear();
    });
    return begun;
  };
  return {
    run: (plan, rows, place) =>
      new Promise((done, failed) => {
        worker ??= begin();
        const asked: ScanAsked = { number: ++count, plan, rows, place };
        waiting.set(asked.number, { done, failed });
        worker.postMessage(asked);
      }),
  };
}

/** Threads that scan beside this one: as many as the machine has besides, where the page may share memory with them. */
export function scanHelpers(): readonly ScanHelper[] {
  if (!self.crossOriginIsolated || typeof SharedArrayBuffer === 'undefined') return [];
  const more = Math.min(MOST, (navigator.hardwareConcurrency || 1) - 1);
  return Array.from({ length: Math.max(0, more) }, helper);
}
