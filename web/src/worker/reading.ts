import { proxy, wrap } from 'comlink';
import type { TableEntry } from '@bold-ruler/core/report';
import type { ReadingProgress } from '@bold-ruler/core/workspace';
import type { ReaderApi, ReadTable } from './reader.worker';
import { received } from './sent';

/** A reading under way. */
export interface Reading {
  readonly done: Promise<ReadTable>;
  /** Ends it at once; nothing is left of it, and `done` never settles. */
  cancel(): void;
}

/** Reads a file in a worker of its own. */
export function beginReading(entry: TableEntry, file: Blob, onProgress: (progress: ReadingProgress) => void): Reading {
  const worker = new Worker(new URL('./reader.worker.ts', import.meta.url), { type: 'module' });
  const reader = wrap<ReaderApi>(worker);
  const done = new Promise<ReadTable>((resolve, reject) => {
    worker.onerror = (event) => reject(new Error(event.message || 'the reading stopped'));
    reader
      .read(entry, file, proxy(onProgress))
      .then((answer) => resolve(received(answer)))
      .catch(reject)
      .finally(() => worker.terminate());
  });
  return { done, cancel: () => worker.terminate() };
}
