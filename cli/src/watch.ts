import { watch, type FSWatcher } from 'node:fs';
import { basename, dirname, resolve } from 'node:path';
import { isProblem } from '@bold-ruler/core/problem';
import { tell } from './say';

/** Files are often written in several strokes: what follows within this many milliseconds is one change. */
const SETTLED = 200;

/**
 * Does something again whenever one of some files changes, until the process is stopped. A fault is told and waited out: the
 * next change may mend it. What changes while it is being done is done again afterwards, so that what is written last is what
 * the files hold. Folders are watched, as many programs replace a file instead of writing into it.
 */
export function watchFiles(files: readonly string[], again: () => Promise<readonly string[]>): Promise<never> {
  const watchers = new Map<string, { readonly watcher: FSWatcher; names: ReadonlySet<string> }>();
  let timer: NodeJS.Timeout | undefined;
  let isBusy = false;
  let isStale = false;
  const first = files[0]!;
  /** A folder that stays watched is never let go of in between: a change at that moment would be missed. */
  const attend = (paths: readonly string[]) => {
    const byFolder = new Map<string, Set<string>>();
    for (const path of paths.map((one) => resolve(one))) {
      const names = byFolder.get(dirname(path)) ?? new Set();
      byFolder.set(dirname(path), names.add(basename(path)));
    }
    for (const [folder, { watcher }] of watchers)
      if (!byFolder.has(folder)) {
        watcher.close();
        watchers.delete(folder);
      }
    for (const [folder, names] of byFolder) {
      const known = watchers.get(folder);
      if (known) known.names = names;
      else watchers.set(folder, { watcher: watch(folder, (_, name) => changed(folder, name)), names });
    }
  };
  const changed = (folder: string, name: string | null) => {
    if (name !== null && !watchers.get(folder)?.names.has(name)) return;
    clearTimeout(timer);
    timer = setTimeout(() => void change(), SETTLED);
  };
  async function change(): Promise<void> {
    isStale = true;
    if (isBusy) return;
    isBusy = true;
    while (isStale) {
      isStale = false;
      try {
        attend([first, ...(await again())]);
        tell(`bold-ruler: written again at ${new Date().toTimeString().slice(0, 8)}`);
      } catch (error) {
        tell(`bold-ruler: ${isProblem(error) ? error.message : String(error)}`);
      }
    }
    isBusy = false;
  }
  attend(files);
  tell('bold-ruler: watching; press Ctrl+C to stop');
  return new Promise(() => {});
}
