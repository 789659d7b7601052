import { watch, type FSWatcher } from 'node:fs';
import { basename, dirname, resolve } from 'node:path';
import { isProblem } from '@bold-ruler/core/problem';
import { tell } from './say';

/** Files are often written in several strokes: what follows within this many milliseconds is one change. */
const SETTLED = 200;

/**
 * Does something again whenever one of some files changes, until the process is stopped. A fault is told and waited out: the
 * next change may mend it. Folders are watched, as many programs replace a file instead of writing into it.
 */
export function watchFiles(files: readonly string[], again: () => Promise<readonly string[]>): Promise<never> {
  const watchers: FSWatcher[] = [];
  let timer: NodeJS.Timeout | undefined;
  const first = files[0]!;
  const attend = (paths: readonly string[]) => {
    for (const watcher of watchers.splice(0)) watcher.close();
    const byFolder = new Map<string, Set<string>>();
    for (const path of paths.map((one) => resolve(one))) {
      const names = byFolder.get(dirname(path)) ?? new Set();
      byFolder.set(dirname(path), names.add(basename(path)));
    }
    for (const [folder, names] of byFolder)
      watchers.push(
        watch(folder, (_, name) => {
          if (name !== null && !names.has(name)) return;
          clearTimeout(timer);
          timer = setTimeout(() => void change(), SETTLED);
        }),
      );
  };
  async function change(): Promise<void> {
    try {
      attend([first, ...(await again())]);
      tell(`bold-ruler: written again at ${new Date().toTimeString().slice(0, 8)}`);
    } catch (error) {
      tell(`bold-ruler: ${isProblem(error) ? error.message : String(error)}`);
    }
  }
  attend(files);
  tell('bold-ruler: watching; press Ctrl+C to stop');
  return new Promise(() => {});
}
