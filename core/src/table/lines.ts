import { thousands } from '../problem';
import type { Table, TablePart } from './column';

// On which line of which file a row stands.

/** What tells on which line of its file a row stands. */
export type Lines = Pick<Table, 'firstLine' | 'skipped' | 'lines' | 'parts'>;

/** The line of the file on which a row (from 0) stands; line 1 is the first. */
export function lineOf(row: number, { firstLine, skipped, lines }: Lines): number {
  if (lines) return lines[row]!;
  // Of the skipped lines s₀ < s₁ < …, those count that stand before the row: sᵢ − i ≤ firstLine + row.
  let low = 0;
  let high = skipped.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (skipped[middle]! - middle <= firstLine + row) low = middle + 1;
    else high = middle;
  }
  return firstLine + row + low;
}

/** Rows of one file: from the first up to, but without, the last. */
export interface FileRows {
  /** Null for the only file. */
  readonly file: string | null;
  readonly from: number;
  readonly to: number;
}

/** The rows of each file of a table, in their order. */
export function rowsOfFiles({ rows, parts }: Pick<Table, 'rows' | 'parts'>): FileRows[] {
  if (!parts) return [{ file: null, from: 0, to: rows }];
  let to = 0;
  return parts.map((part) => ({ file: part.file, from: to, to: (to += part.rows) }));
}

/** The parts of which some rows are left. @param kept these rows, in ascending order */
export function partsLeft(table: Pick<Table, 'rows' | 'parts'>, kept: Uint32Array): readonly TablePart[] | undefined {
  if (!table.parts) return undefined;
  let at = 0;
  return rowsOfFiles(table).map(({ to }, i) => {
    const before = at;
    while (at < kept.length && kept[at]! < to) at++;
    return { file: table.parts![i]!.file, rows: at - before };
  });
}

/** The file in which a row (from 0) stands; null in a table of one. */
export const fileOfRow = (row: number, table: Pick<Table, 'rows' | 'parts'>): string | null =>
  table.parts ? (rowsOfFiles(table).find(({ to }) => row < to)?.file ?? null) : null;

/** The row (from 0) that stands on a line of a file; null where none does. */
export function rowOnLine(line: number, file: string | undefined, table: Pick<Table, 'rows'> & Lines): number | null {
  for (const own of rowsOfFiles(table)) {
    if (own.file !== null && own.file !== file) continue;
    const row = rowBetween(line, own.from, own.to, table);
    if (row < own.to && lineOf(row, table) === line) return row;
  }
  return null;
}

/** The row (from 0) that stands on a line, or the next one behind it; the number of rows when there is none. Of several files, in the first. */
export function rowAtLine(line: number, table: Pick<Table, 'rows'> & Lines): number {
  const [first] = rowsOfFiles(table);
  return rowBetween(line, 0, first?.to ?? 0, table);
}

function rowBetween(line: number, from: number, to: number, lines: Lines): number {
  let low = from;
  let high = to;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (lineOf(middle, lines) < line) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Lines on which rows stand, in their order; of a table of several files, with the file of each. */
export interface LinesFound {
  readonly lines: readonly number[];
  readonly files?: readonly string[];
}

/** Where rows (from 0) stand. */
export function linesOf(rows: readonly number[], table: Pick<Table, 'rows'> & Lines): LinesFound {
  const lines = rows.map((row) => lineOf(row, table));
  return table.parts ? { lines, files: rows.map((row) => fileOfRow(row, table)!) } : { lines };
}

/**
 * Lines as a sentence names them: “lines 3, 4 and 9 more”, “lines 66, 187 of May.xlsx; line 66 of June.xlsx”.
 * @param count of how many these are the first
 * @param most that are named
 */
export function linesNamed({ lines, files }: LinesFound, count: number, most: number): string {
  const parts: { readonly file: string | undefined; readonly own: number[] }[] = [];
  for (const [i, line] of lines.slice(0, most).entries()) {
    const last = parts.at(-1);
    if (last && last.file === files?.[i]) last.own.push(line);
    else parts.push({ file: files?.[i], own: [line] });
  }
  const more = count - Math.min(most, lines.length);
  const isOne = (own: readonly number[]) => own.length === 1 && (files !== undefined || more <= 0);
  const named = parts.map(
    ({ file, own }) => `${isOne(own) ? 'line' : 'lines'} ${own.join(', ')}${file === undefined ? '' : ` of ${file}`}`,
  );
  return `${named.join('; ')}${more > 0 ? ` and ${thousands(more)} more` : ''}`;
}
