import { expose, transfer } from 'comlink';
import { sheetsOf } from '@bold-ruler/core/reading';
import { readBundle, writeReport, type KnownTable, type TableEntry } from '@bold-ruler/core/report';
import { readBare, readTable, type ReadingProgress } from '@bold-ruler/core/workspace';
import { sent, type Sent } from '@bold-ruler/core/problem';
import { fileFrom } from './fileFrom';
import { sourceFrom } from './filesOfTable';
import { buffersOf } from './transferables';

/** What a bundle holds. */
export interface Unbundled {
  readonly report: string;
  readonly files: readonly (readonly [name: string, content: Uint8Array<ArrayBuffer>])[];
}

const EVERY = 100;

const api = {
  /** Names of the tables in a file; one without a name where there is only one. */
  sheets: (file: Blob, name: string): Promise<Sent<string[]>> => sent(() => sheetsOf(fileFrom(file, name))),

  /** What is in a bundle: its report's text and its files. */
  async unbundle(file: Blob, name: string): Promise<Sent<Unbundled>> {
    const answer = await sent(async (): Promise<Unbundled> => {
      const { report, files } = readBundle(new Uint8Array(await file.arrayBuffer()), name);
      return {
        report: writeReport(report),
        files: [...files].map(([path, bytes]) => [path, bytes as Uint8Array<ArrayBuffer>] as const),
      };
    });
    const buffers = answer.ok ? answer.value.files.map(([, bytes]) => bytes.buffer) : [];
    return transfer(answer, [...new Set(buffers)]);
  },

  /** Reads one table; a worker reads once and is then done with, so that cancelling is ending it. */
  async read(
    entry: TableEntry,
    file: Blob,
    bare: boolean,
    onProgress: (progress: ReadingProgress) => void,
  ): Promise<Sent<KnownTable>> {
    const answer = await sent(async (): Promise<KnownTable> => {
      let told = -EVERY;
      const source = await sourceFrom(entry, file);
      const tell = (progress: ReadingProgress) => {
        const now = performance.now();
        if (now - told < EVERY) return;
        told = now;
        onProgress(progress);
      };
      return bare ? readBare(entry, source, tell) : { entry, table: await readTable(entry, source, tell) };
    });
    return transfer(answer, answer.ok ? buffersOf([answer.value.table]) : []);
  },
};

export type ReaderApi = typeof api;
expose(api);
