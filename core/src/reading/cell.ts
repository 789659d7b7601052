import type { UncutCells } from './cells';

/** One cell as a file gives it: text, or a number that was a number there already. Blank is the empty text. */
export type Cell = string | number;

export type Row = readonly Cell[];

/** Some rows of a file, in order. */
export interface RowChunk {
  /** The same rows as places in text, where each has a cell for every name; `rows` are then made when they are asked for. */
  readonly cells?: UncutCells;
  /** Names of the columns seen so far; a later chunk may know more. */
  readonly names: readonly string[];
  readonly rows: readonly Row[];
  /** The same cells column by column, of a file that holds columns; `rows` are then made when they are asked for. */
  readonly columns?: readonly (readonly Cell[])[];
  /** The line of the first row; 1 is the first line of the file. */
  readonly firstLine: number;
  /** The line of each row, where they do not follow one another. */
  readonly lines?: readonly number[];
  /** How much of the file has been read, 0–1. */
  readonly share?: number;
}

/** A row or a part of one that is no data: title, empty line, a cell too many. */
export type Aside = (aside: { readonly line: number; readonly raw: string; readonly reason: string } | number) => void;

/** Rows that can be asked for again. What is no row is told aside: an empty line by its number. */
export type RowSource = (aside: Aside) => AsyncIterable<RowChunk>;

/** The text of a cell. */
export function textOf(cell: Cell): string {
  return typeof cell === 'string' ? cell : String(cell);
}

export function isBlankRow(row: Row): boolean {
  for (let c = 0; c < row.length; c++) {
    const cell = row[c]!;
    if (typeof cell === 'number' || (cell !== '' && cell.trim() !== '')) return false;
  }
  return true;
}
