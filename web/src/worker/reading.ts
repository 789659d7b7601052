import { proxy, wrap, type Remote } from 'comlink';
import type { KnownTable, TableEntry } from '@bold-ruler/core/report';
import type { ReadingProgress } from '@bold-ruler/core/workspace';
import type { ReaderApi, Unbundled } from './reader.worker';
import { received, type Sent } from '@bold-ruler/core/problem';

/** A reading under way. */
export interface ReadingTask<T> {
  readonly done: Promise<T>;
  /** Ends it at once; nothing is left of it, and `done` never settles. */
  cancel(): void;
}

function inWorker<T>(work: (reader: Remote<ReaderApi>) => Promise<Sent<T>>): ReadingTask<T> {
  const worker = new Worker(new URL('./reader.worker.ts', import.meta.url), { type: 'module' });
  const done = new Promise<T>((resolve, reject) => {
    worker.onerror = (event) =>
      reject(
        new Error(
          `The reading stopped${event.message ? ` (${event.message})` : ''}: the file may be too large for this browser.`,
        ),
      );
    work(wrap<ReaderApi>(worker))
      .then((answer) => resolve(received(answer)))
      .catch(reject)
      .finally(() => worker.terminate());
  });
  return { done, cancel: () => worker.terminate() };
}

/** Reads a table in a worker of its own; with `bare`, of which no report says anything yet, as it fits. */
export function beginReading(
  entry: TableEntry,
  file: Blob,
  bare: boolean,
  onProgress: (progress: ReadingProgress) => void,
): ReadingTask<KnownTable> {
  return inWorker((reader) => reader.read(entry, file, bare, proxy(onProgress)));
}

/** Looks which tables a file holds. */
export function lookInto(file: Blob, name: string): ReadingTask<string[]> {
  return inWorker((reader) => reader.sheets(file, name));
}

/** Unpacks a bundle. */
export function unbundle(file: Blob, name: string): ReadingTask<Unbundled> {
  return inWorker((reader) => reader.unbundle(file, name));
}
