import { type Column, type Doubt } from '../table';
import { textOf, type Cell } from './cell';
import type { UncutCells } from './cells';
import { noEvidence, weigh, type Evidence, type Reading } from './evidence';
import { isBlankText } from './readNumber';

/** Told of each cell that has text but cannot be read: its place in the chunk and its raw text. */
export type Unread = (indexInChunk: number, raw: string) => void;

/** One column while its file is being read: takes chunks of cells, ends as a typed column. */
export interface ColumnReader {
  readonly reading: Reading;
  /** Takes the first `count` cells. */
  take(cells: ArrayLike<Cell>, count: number, unread: Unread): void;
  /** Takes the column at a place of cells that are not cut out of their text. */
  takeCells?(cells: UncutCells, column: number, unread: Unread): void;
  /** As many blank cells: of rows from before the column was known. */
  skip(count: number): void;
  /** For text: what all cells could have been. Else: what the cells that did not fit could have been, and how many fitted. */
  evidence(): { readonly of: Evidence; readonly fitted: number };
  /** The other reading that no cell so far rules out; null when something does. */
  doubt(): Pick<Doubt, 'kind' | 'readings'> | null;
  /** True when some cell can be read in this lane's way only. */
  settled(): boolean;
  finish(name: string): Column;
}

/** More characters than this keep little more than themselves alive. */
const LONG = 1 << 14;

/**
 * A slice keeps the whole text it was cut from alive; this makes a string of its own. A long one stays what it is: that many cells
 * have the same one, as in a workbook, is seen at once, and letter by letter where it is another.
 */
export function owned(text: string): string {
  return text.length === 0 || text.length > LONG ? text : (' ' + text).slice(1);
}

/** What a lane knows of cells that did not fit its reading. */
export class Misfits {
  readonly of = noEvidence();
  fitted = 0;
  blank = 0;

  /** Counts a cell that could not be read, and tells of it when there is something in it. */
  add(cell: Cell, index: number, unread: Unread): void {
    this.blank++;
    const text = textOf(cell);
    if (isBlankText(text)) return;
    weigh(this.of, cell);
    unread(index, text);
  }
}
