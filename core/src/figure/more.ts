import { writeNumber, type Writing } from '../format';
import { QUIET } from '../highlight';
import { total } from '../number';
import { listed } from '../problem';
import { THE_REST, type Cells } from '../query';
import type { Mark } from '../scene';
import { textMark } from './shapes';

/** Rows by how many they are; the rest of members, which stands for many, by its name. @param rests how many of them are such */
export const moreNames = (rows: number, rests: number): string =>
  listed([...(rows > rests ? [`${rows - rests} more`] : []), ...(rests > 0 ? [THE_REST] : [])], 'and');

/**
 * Rows for which a figure has no room, as it tells of them: how many, the rest of members among them by its name, and what all of them
 * come to where that can be added up.
 */
export function moreWords(cells: Cells, rows: readonly number[], writing: Writing): string {
  const rests = rows.filter((row) => cells.isRest[row] === 1).length;
  const names = moreNames(rows.length, rests);
  const isSum = cells.additive && cells.view.kind === 'plain' && !cells.stacked;
  const values = rows.map((row) => cells.actual[row]!).filter((value) => !Number.isNaN(value));
  const sum = isSum && values.length > 0 ? writeNumber(total(values, cells.decimals), writing) : '';
  if (sum === '') return names;
  return `${names}: ${sum}${rows.length > 1 ? ' together' : ''}`;
}

/** The line below the rows that are shown. `y` is its baseline. */
export const moreMark = (cells: Cells, rows: readonly number[], writing: Writing, x: number, y: number): Mark =>
  textMark('label', moreWords(cells, rows, writing), x, y, 11, { paint: { fill: QUIET } });
