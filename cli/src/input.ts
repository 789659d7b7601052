import { existsSync, readFileSync, statSync } from 'node:fs';
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

/** All bytes of a file, a pipe or standard input. */
export function bytesOf(path: string): Uint8Array {
  return readFileSync(path === STANDARD ? 0 : path);
}

/** The text of a file, a pipe or standard input. Throws a `Problem` where there is none. */
export function textOf(path: string, what: string): string {
  mustBeFile(path, what);
  return new TextDecoder().decode(bytesOf(path));
}
