import { existsSync, readdirSync, statSync } from 'node:fs';

/** Folders that are made, not written. */
const MADE = new Set(['node_modules', '.next', 'demo']);
/** Nothing that is shipped is made of these. */
const TEST = /\.(?:test|fixture|setup)\.tsx?$/;

/** The time of the newest file in some folders and files, in milliseconds; 0 when there is none. Tests are left out. */
export function newest(paths) {
  return paths.reduce((latest, path) => {
    if (!existsSync(path)) return latest;
    const stat = statSync(path);
    if (!stat.isDirectory()) return Math.max(latest, stat.mtimeMs);
    const inside = readdirSync(path).filter((name) => !MADE.has(name) && !TEST.test(name));
    return Math.max(latest, newest(inside.map((name) => `${path}/${name}`)));
  }, 0);
}
