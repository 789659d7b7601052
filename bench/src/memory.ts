import { createReadStream, statSync } from 'node:fs';
import { readCsvFile, type SourceFile } from '@bold-ruler/core/reading';
import type { Column } from '@bold-ruler/core/table';

/** Bytes of typed arrays and of the texts of members. */
function bytesOf(column: Column): number {
  switch (column.kind) {
    case 'number':
      return column.values.byteLength;
    case 'date':
      return column.days.byteLength;
    case 'text':
    case 'yesno':
      return column.codes.byteLength + column.members.reduce((sum, member) => sum + 16 + member.length * 2, 0);
  }
}

/** A file on the disk, read piece by piece as in the browser. */
export function fileAt(path: string): SourceFile {
  return {
    name: path,
    size: statSync(path).size,
    stream: () => createReadStream(path, { highWaterMark: 1 << 20 }),
    slice: async (from, to) => {
      const pieces: Buffer[] = [];
      for await (const piece of createReadStream(path, { start: from, end: to - 1 })) pieces.push(piece as Buffer);
      return new Uint8Array(Buffer.concat(pieces));
    },
  };
}

/** Reads a file as the application does, piece by piece, and compares what is alive at most with what is left of it in the end. */
export async function readingMemory(path: string): Promise<{ peak: number; columns: number }> {
  const gc = (globalThis as { gc?: () => void }).gc;
  if (!gc) throw new Error('run with --expose-gc');
  const file = fileAt(path);
  const alive = () => {
    gc();
    const { heapUsed, arrayBuffers } = process.memoryUsage();
    return heapUsed + arrayBuffers;
  };
  const before = alive();
  let peak = 0;
  let times = 0;
  const raw = await readCsvFile(file, [], () => {
    if (times++ % 12 === 0) peak = Math.max(peak, alive() - before);
  });
  peak = Math.max(peak, alive() - before);
  return { peak, columns: raw.columns.reduce((sum, column) => sum + bytesOf(column), 0) };
}
