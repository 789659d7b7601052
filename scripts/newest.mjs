import { existsSync, readdirSync, statSync } from 'node:fs';

/** What is made there, not written. */
const MADE = new Set(['node_modules', '.next', 'demo']);

/** The time of the newest file in some folders and files, in milliseconds; 0 when there is none. */
export function newest(paths) {
  return paths.reduce((latest, path) => {
    if (!existsSync(path)) return latest;
    const stat = statSync(path);
    if (!stat.isDirectory()) return Math.max(latest, stat.mtimeMs);
    const inside = readdirSync(path).filter((name) => !MADE.has(name));
    return Math.max(latest, newest(inside.map((name) => `${path}/${name}`)));
  }, 0);
}
