import { closeSync, existsSync, openSync, readFileSync, readSync, statSync } from 'node:fs';
import { Problem } from '@bold-ruler/core/problem';
import { isInput, STANDARD } from './write';

/** Throws a `Problem` for a path that is not a readable file. */
export function mustBeFile(path: string, what: string): void {
  if (path === STANDARD) return;
  if (!existsSync(path))
    throw new Problem(
      'no-such-file',
      `there is no ${what} of this name`,
      { in: path },
      'check the path; files in a report are relative to the report file',
    );
  if (statSync(path).isDirectory())
    throw new Problem('not-a-file', 'this is a folder', { in: path }, `name the ${what} itself`);
  isInput(path);
}

/** What a path is called in messages. */
export const nameOf = (path: string) => (path === STANDARD ? 'standard input' : path);

/** Bytes that are taken from what is no file: it may go on for ever. */
const MOST_STREAMED = 1_000_000_000;
const AT_ONCE = 1 << 22;

/** All bytes of a file, a pipe or standard input. Throws a `Problem` for what does not end, or cannot be read. */
export function bytesOf(path: string): Uint8Array {
  if (path !== STANDARD && statSync(path).isFile()) return reading(path, () => readFileSync(path));
  return reading(path, () => {
    const from = path === STANDARD ? 0 : openSync(path, 'r');
    const parts: Uint8Array[] = [];
    let size = 0;
    try {
      for (;;) {
        const part = Buffer.allocUnsafe(AT_ONCE);
        const length = readFrom(from, part);
        if (length === 0) return Buffer.concat(parts, size);
        parts.push(part.subarray(0, length));
        size += length;
        if (size > MOST_STREAMED)
          throw new Problem(
            'too-large',
            `it goes on beyond ${MOST_STREAMED / 1e6} MB`,
            { in: nameOf(path) },
            'write it into a file first: files are read piece by piece',
          );
      }
    } finally {
      if (from !== 0) closeSync(from);
    }
  });
}

/** Reads once; 0 at the end. Standard input may have nothing yet. */
function readFrom(descriptor: number, into: Uint8Array): number {
  for (;;)
    try {
      return readSync(descriptor, into);
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      if (code === 'EOF') return 0;
      if (code !== 'EAGAIN') throw error;
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 20);
    }
}

/** What a device or a file system says of itself when it cannot be read, as a `Problem`. */
export function unreadable(path: string, error: unknown): unknown {
  const { code, syscall } = error as NodeJS.ErrnoException;
  if (error instanceof Problem || code === undefined || syscall === undefined) return error;
  return new Problem(
    'cannot-read',
    `it cannot be read (${code})`,
    { in: nameOf(path) },
    'check that it is a file, and that you may read it',
  );
}

function reading<T>(path: string, read: () => T): T {
  try {
    return read();
  } catch (error) {
    throw unreadable(path, error);
  }
}

/** The text of a file, a pipe or standard input. Throws a `Problem` where there is none. */
export function textOf(path: string, what: string): string {
  mustBeFile(path, what);
  return new TextDecoder().decode(bytesOf(path));
}
