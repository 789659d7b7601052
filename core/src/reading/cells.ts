import { once } from '../table';
import { vectorProgram, type VectorProgram } from '../vector';
import type { Row } from './cell';
import type { Pending } from './pending';
import type { Dialect } from './quotes';
import { TextTable } from './textTable';

/** Numbers of a column of cells. */
export interface NumberCells {
  /** NaN for a cell with nothing in it, and for one that is not written plainly. */
  readonly numbers: Float64Array<ArrayBuffer>;
  /** How many decimals each is written with; or `EMPTY`, or `ODD`. */
  readonly decimals: Uint8Array;
  readonly most: number;
  readonly empty: number;
  readonly odd: number;
  /** The sum of all magnitudes, added to those before. */
  readonly magnitude: number;
}

/** Stands for the decimals of a cell with nothing in it. */
export const EMPTY = 254;
/** And of one that is not written as plain digits. */
export const ODD = 255;

/** Rows of delimited text whose cells are not cut out of it. They hold until the next piece is split. */
export interface UncutCells {
  readonly rows: number;
  readonly width: number;
  /** The text of a cell. */
  text(row: number, column: number): string;
  numbers(column: number, magnitude: number): NumberCells;
  /** What texts of a column stand for, which lasts from piece to piece. */
  table(): TextTable;
  texts(column: number, table: TextTable, find: (text: string) => number): Int32Array<ArrayBuffer>;
}

/** The same as rows of texts. */
export function rowsOfCells({ rows, width, text }: UncutCells): Row[] {
  return Array.from({ length: rows }, (_, r) => Array.from({ length: width }, (_, c) => text(r, c)));
}

/** Whole rows at the beginning of a text. */
export interface WholeRows {
  readonly cells: UncutCells;
  /** Characters they take, and bytes in UTF-8. */
  readonly length: number;
  readonly bytes: number;
}

const encoder = new TextEncoder();
// What looks like a byte order mark within a text is a part of it.
const decoder = new TextDecoder('utf-8', { ignoreBOM: true });

/** Cells of a piece at most; what is behind them is a piece of its own. */
const MOST_CELLS = 1 << 17;
/** So many texts of a piece are made of their bytes one by one; of more, all its bytes are made a text. */
const FEW_TEXTS = 60;

/** Takes simple delimited text apart, one piece after the other. */
export class Splitter {
  /** Null where WebAssembly may not run, or the text is written in a way that is not simple. */
  static for(dialect: Dialect): Splitter | null {
    const { delimiter, width } = dialect;
    // A row of a single cell may be an empty line.
    if (delimiter.length !== 1 || delimiter.charCodeAt(0) >= 128 || width < 2 || width > MOST_CELLS) return null;
    const program = vectorProgram();
    return program && new Splitter(program, dialect);
  }

  private readonly newline: readonly [number, number];
  private readonly delimiter: number;
  private readonly width: number;
  private readonly starts: number;
  private readonly ends: number;
  private readonly numbers: number;
  private readonly decimals: number;
  private readonly sums: number;
  private readonly values: number;
  private readonly found: number;
  private text = 0;
  private room = 0;

  private constructor(
    private readonly program: VectorProgram,
    { delimiter, newline, width }: Dialect,
  ) {
    this.delimiter = delimiter.charCodeAt(0);
    this.newline = [newline.charCodeAt(0), newline.length > 1 ? newline.charCodeAt(1) : -1];
    this.width = width;
    this.starts = program.take(4 * MOST_CELLS);
    this.ends = program.take(4 * MOST_CELLS);
    const rows = MOST_CELLS / 2;
    this.numbers = program.take(8 * rows);
    this.decimals = program.take(rows);
    this.values = program.take(4 * rows);
    this.sums = program.take(16);
    this.found = program.take(4);
  }

  /**
   * The whole rows at the beginning of a text; null where there are none, or it takes more to tell them: quotes within cells,
   * line ends between quotes, rows of another width or with nothing in them.
   */
  split(pending: Pending): WholeRows | null {
    const { program, width } = this;
    const end = this.put(pending);
    const [first, second] = this.newline;
    const at = program.loops.splitRows(
      this.text,
      end,
      this.delimiter,
      first,
      second,
      width,
      this.starts,
      this.ends,
      MOST_CELLS,
      this.found,
    );
    if (at <= 0) return null;
    const rows = this.words(this.found, 1)[0]!;
    // Each character is a byte: the text of a cell is cut out of the text of all.
    const isAscii = end === pending.length;
    const whole = isAscii ? once(() => pending.text.slice(0, at)) : null;
    const { text } = this;
    return {
      cells: this.cellsOf(rows, whole),
      length: isAscii ? at : charactersIn(program.bytes.subarray(text, text + at)),
      bytes: at,
    };
  }

  /** Puts a text's bytes into the memory of the program; tells how many they are. */
  private put(pending: Pending): number {
    const { program } = this;
    const most = pending.length * (pending.ascii ? 1 : 3);
    if (most > this.room) this.text = program.take((this.room = most * 2));
    const { bytes } = program;
    if (!pending.ascii) return encoder.encodeInto(pending.text, bytes.subarray(this.text)).written;
    let end = this.text;
    for (const piece of pending.ascii) {
      bytes.set(piece, end);
      end += piece.length;
    }
    return end - this.text;
  }

  private words(at: number, count: number): Int32Array<ArrayBuffer> {
    return new Int32Array(this.program.bytes.buffer, at, count);
  }

  private cellsOf(rows: number, ascii: (() => string) | null): UncutCells {
    const { program, width, starts, ends, values } = this;
    const { loops } = program;
    let asked = 0;
    const text = (row: number, column: number): string => {
      const cell = 4 * (row * width + column);
      const start = this.words(starts + cell, 1)[0]!;
      const end = this.words(ends + cell, 1)[0]!;
      return ascii && ++asked > FEW_TEXTS
        ? ascii().slice(start, end)
        : decoder.decode(program.bytes.subarray(this.text + start, this.text + end));
    };
    return {
      rows,
      width,
      text,
      numbers: (column, before) => {
        const sums = new Float64Array(program.bytes.buffer, this.sums, 1);
        sums[0] = before;
        const { numbers, decimals } = this;
        const odd = loops.readNumbers(this.text, starts, ends, column, width, rows, numbers, decimals, this.sums);
        const counts = this.words(this.sums + 8, 2);
        return {
          numbers: new Float64Array(program.bytes.buffer, numbers, rows),
          decimals: new Uint8Array(program.bytes.buffer, decimals, rows),
          most: counts[0]!,
          empty: counts[1]!,
          odd,
          magnitude: sums[0],
        };
      },
      table: () => new TextTable(program),
      texts: (column, table, find) => {
        for (let row = 0; ;) {
          row = loops.readTexts(this.text, starts, ends, column, width, row, rows, table.places, table.mask, values);
          if (row >= rows) break;
          const written = text(row, column);
          const value = find(written);
          const cell = 4 * (row * width + column);
          table.add(this.text + this.words(starts + cell, 1)[0]!, this.text + this.words(ends + cell, 1)[0]!, value);
          // Of a table that is full, this one is told for its row alone.
          this.words(values + 4 * row, 1)[0] = value;
          row++;
        }
        return this.words(values, rows);
      },
    };
  }
}

/** How many characters some bytes of UTF-8 are, as JavaScript counts them. */
function charactersIn(bytes: Uint8Array): number {
  let count = 0;
  // Bytes that go on with a character count nothing, the first of four counts two.
  for (let i = 0; i < bytes.length; i++) if ((bytes[i]! & 0xc0) !== 0x80) count += bytes[i]! >= 0xf0 ? 2 : 1;
  return count;
}
