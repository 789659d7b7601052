import { Problem, thousands } from '../problem';
import type { Cell } from './cell';

/** More columns than this are not a table of sales. */
export const MOST_COLUMNS = 2000;

export const tooManyColumns = () =>
  new Problem(
    'too-many-columns',
    `there are more than ${thousands(MOST_COLUMNS)} columns`,
    undefined,
    'bring the data into rows, with one column for each kind of thing',
  );

/** Column names: trimmed, numbered where empty or repeated. */
export function namesFrom(cells: readonly Cell[]): string[] {
  if (cells.length > 10 * MOST_COLUMNS) throw tooManyColumns();
  const taken = new Set<string>();
  /** How often each name has stood. */
  const times = new Map<string, number>();
  return cells.map((cell, c) => {
    const plain =
      String(cell)
        .replace(/^\uFEFF/, '')
        .replace(/\s+/g, ' ')
        .trim()
        .slice(0, 480) || `column ${c + 1}`;
    let name = plain;
    let n = times.get(plain) ?? 1;
    for (; taken.has(name); n++) name = `${plain} (${n + 1})`;
    times.set(plain, n);
    taken.add(name);
    return name;
  });
}
