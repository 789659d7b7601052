import { renameSync, rmSync, writeFileSync } from 'node:fs';
import { Problem } from '@bold-ruler/core/problem';

/** Writes a file whole or not at all: beside its place first, then moved there. */
export function writeWhole(path: string, content: string | Uint8Array): void {
  const beside = `${path}.${process.pid}.part`;
  try {
    writeFileSync(beside, content);
    renameSync(beside, path);
  } catch (error) {
    rmSync(beside, { force: true });
    throw new Problem(
      'cannot-write',
      `this file cannot be written (${(error as NodeJS.ErrnoException).code ?? 'unknown reason'})`,
      { in: path },
      'choose a folder that exists and that you may write to',
    );
  }
}
