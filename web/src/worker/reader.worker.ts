import { expose, transfer } from 'comlink';
import type { TableEntry } from '@bold-ruler/core/report';
import { readTable, type ReadingProgress } from '@bold-ruler/core/workspace';
import { profileTable, type FieldsProfile, type Table } from '@bold-ruler/core/table';
import { sent, type Sent } from './sent';
import { buffersOf } from './transferables';

/** A table that was read, with its profile. */
export interface ReadTable {
  readonly table: Table;
  readonly profile: FieldsProfile;
}

const EVERY = 100;

async function* bytesOf(file: Blob): AsyncGenerator<Uint8Array> {
  const reader = file.stream().getReader();
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    yield value;
  }
}

const api = {
  /** Reads one file; a worker reads once and is then done with, so that cancelling is ending it. */
  async read(entry: TableEntry, file: Blob, onProgress: (progress: ReadingProgress) => void): Promise<Sent<ReadTable>> {
    const answer = await sent(async (): Promise<ReadTable> => {
      let told = 0;
      const table = await readTable(
        entry,
        () => bytesOf(file),
        (progress) => {
          const now = performance.now();
          if (now - told < EVERY) return;
          told = now;
          onProgress(progress);
        },
      );
      const profile = profileTable(table, entry.source.file);
      return { table, profile };
    });
    return transfer(answer, answer.ok ? buffersOf([answer.value.table]) : []);
  },
};

export type ReaderApi = typeof api;
expose(api);
