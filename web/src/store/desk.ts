import { wrap, type Remote } from 'comlink';
import { Problem } from '@bold-ruler/core/problem';
import type { DeskApi } from '@/worker/desk.worker';

let remote: Remote<DeskApi> | null = null;
const listeners = new Set<() => void>();

/** The worker that holds the open report's tables and computes its figures. It is started anew if it should stop. */
export function desk(): Remote<DeskApi> {
  remote ??= start();
  return remote;
}

/** Tells when the worker has stopped; the next `desk()` is a new one, with no report open. */
export function onDeskLost(listen: () => void): () => void {
  listeners.add(listen);
  return () => listeners.delete(listen);
}

const LOST = () =>
  new Problem(
    'desk-lost',
    'the part that computes has stopped and was started again',
    undefined,
    'do it once more; nothing that was saved is lost',
  );

function start(): Remote<DeskApi> {
  const worker = new Worker(new URL('../worker/desk.worker.ts', import.meta.url), { type: 'module' });
  const plain = wrap<DeskApi>(worker);
  /** What waits for an answer that would never come. */
  const waiting = new Set<(problem: Problem) => void>();
  worker.addEventListener('error', () => {
    worker.terminate();
    remote = null;
    for (const reject of waiting) reject(LOST());
    for (const listen of listeners) listen();
  });
  return new Proxy(plain, {
    get(target, key) {
      const method: unknown = Reflect.get(target, key);
      if (typeof key !== 'string' || key === 'then' || typeof method !== 'function') return method;
      return (...words: unknown[]) =>
        new Promise((resolve, reject) => {
          waiting.add(reject);
          (method as (...words: unknown[]) => Promise<unknown>)(...words)
            .then(resolve, reject)
            .finally(() => waiting.delete(reject));
        });
    },
  });
}
