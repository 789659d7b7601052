import {
  chmodSync as chmod,
  existsSync,
  lstatSync,
  readdirSync,
  readlinkSync,
  realpathSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import { Problem } from '@bold-ruler/core/problem';

/** Stands for standard input and output. */
export const STANDARD = '-';

/** The files this run has read from: none of them is ever written over. */
const inputs = new Set<string>();

export function isInput(path: string): void {
  if (path !== STANDARD && statSync(path).isFile()) inputs.add(realpathSync(path));
}

/**
 * Writes a file whole or not at all: beside its place first, then moved there. A link stays a link, and what is replaced keeps
 * its permissions. Pipes, devices and `-` are written to as they are. Throws a `Problem` where that cannot be, and for a file
 * that was read from.
 */
export function writeWhole(path: string, content: string | Uint8Array): void {
  if (path === STANDARD) {
    process.stdout.write(content);
    return;
  }
  let beside: string | null = null;
  try {
    const place = placeOf(path);
    if (inputs.has(place))
      throw new Problem(
        'is-input',
        'this file was read from, and is not written over',
        { in: path },
        'give the output another name',
      );
    const before = existsSync(place) ? statSync(place) : null;
    if (before && !before.isFile() && !before.isDirectory()) {
      writeFileSync(place, content);
      return;
    }
    sweep(place);
    beside = besideOf(place, process.pid);
    writeFileSync(beside, content, before ? { mode: before.mode & 0o777 } : {});
    if (before && (statSync(beside).mode & 0o777) !== (before.mode & 0o777)) chmod(beside, before.mode & 0o777);
    renameSync(beside, place);
  } catch (error) {
    if (beside) rmSync(beside, { force: true });
    if (error instanceof Problem) throw error;
    throw new Problem(
      'cannot-write',
      `this file cannot be written (${(error as NodeJS.ErrnoException).code ?? 'unknown reason'})`,
      { in: path },
      'choose a folder that exists and that you may write to',
    );
  }
}

/** Where a path leads; a link that leads nowhere yet is followed, too. */
function placeOf(path: string, links = 40): string {
  if (existsSync(path)) return realpathSync(path);
  const isLink = lstatSync(path, { throwIfNoEntry: false })?.isSymbolicLink() ?? false;
  return isLink && links > 0 ? placeOf(resolve(dirname(path), readlinkSync(path)), links - 1) : path;
}

/** The name of what is written before it is whole: nobody else gives a file such a one. */
const besideOf = (place: string, pid: number) => join(dirname(place), `.${basename(place)}.bold-ruler-${pid}.part`);

/** Removes what runs that were ended in the middle have left beside a file. */
function sweep(place: string): void {
  const folder = dirname(place);
  const begins = `.${basename(place)}.bold-ruler-`;
  for (const name of readdirSync(folder)) {
    const pid = name.startsWith(begins) ? /^(\d+)\.part$/.exec(name.slice(begins.length))?.[1] : undefined;
    if (pid !== undefined && !isRunning(Number(pid)) && lstatSync(join(folder, name)).isFile())
      rmSync(join(folder, name), { force: true });
  }
}

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // It runs, but is somebody else's.
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}
