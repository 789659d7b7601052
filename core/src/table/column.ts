import { NO_DAY, type Grain } from '../calendar';
import type { Decimals } from '../number';

/** Codes of members: the narrowest of the three that holds them. */
export type Codes = Uint8Array | Uint16Array | Uint32Array;

/** Text, dictionary-coded. Code 0 is blank; `members[code]` is the text, and `members[0]` is empty. */
export interface TextColumn {
  readonly kind: 'text';
  readonly name: string;
  readonly members: readonly string[];
  readonly codes: Codes;
  readonly blank: number;
  readonly convention: string;
}

/** Yes or no. Code 0 is blank, 1 no, 2 yes. */
export interface YesNoColumn {
  readonly kind: 'yesno';
  readonly name: string;
  readonly members: readonly ['', 'no', 'yes'];
  readonly codes: Uint8Array;
  readonly blank: number;
  readonly convention: string;
}

/**
 * Numbers. With `decimals` d the values are integers, v × 10ᵈ, and every sum of them is exact in a double;
 * with `decimals` null they are ordinary doubles. Blank is NaN.
 */
export interface NumberColumn {
  readonly kind: 'number';
  readonly name: string;
  readonly values: Float64Array;
  readonly decimals: Decimals;
  readonly blank: number;
  readonly convention: string;
}

/** Days since 1970-01-01; a period coarser than a day stands as its first day. Blank is `NO_DAY`. */
export interface DateColumn {
  readonly kind: 'date';
  readonly name: string;
  readonly days: Int32Array;
  readonly grain: Grain;
  readonly blank: number;
  readonly convention: string;
  /** The pattern it was read with. */
  readonly read: string;
}

export type Column = TextColumn | NumberColumn | DateColumn | YesNoColumn;
export type ColumnKind = Column['kind'];

/** A row or cell that did not become part of the table. */
export interface LeftOut {
  /** 1 is the first line of the file. */
  readonly row: number;
  readonly column: string | null;
  readonly raw: string;
  readonly reason: string;
}

/** How many rows or cells were left out for one reason. */
export interface LeftOutCount {
  readonly column: string | null;
  readonly reason: string;
  count: number;
}

/** Imported rows in typed columns. */
export interface Table {
  readonly id: string;
  readonly rows: number;
  readonly columns: readonly Column[];
  /** The column that places a row in time. */
  readonly date: string | null;
  /** The length of time one row stands for. */
  readonly grain: Grain | null;
  /** Rows are in order of the date column, without blanks. */
  readonly inDateOrder: boolean;
  /** The first rows and cells that were left out, at most `LEFT_OUT_KEPT`. */
  readonly leftOut: readonly LeftOut[];
  /** How many were left out in all, by reason and column. */
  readonly leftOutCounts: readonly Readonly<LeftOutCount>[];
  /** Lines of the file that hold no row, such as empty ones; see `lineOf`. */
  readonly skipped: readonly number[];
  /** Orders of members that were declared, by column. */
  readonly orders: Readonly<Record<string, readonly string[]>>;
}

/** How many left-out entries keep their raw text; beyond that they are only counted. */
export const LEFT_OUT_KEPT = 10_000;

export function columnOf(table: Table, name: string): Column | undefined {
  return table.columns.find((column) => column.name === name);
}

/** The line of the file on which a row (from 0) stands, when lines without rows are skipped. The header is line 1. */
export function lineOf(row: number, skipped: readonly number[]): number {
  let line = row + 2;
  for (const empty of skipped) {
    if (empty > line) break;
    line++;
  }
  return line;
}

/** True when the row has no value in the column. */
export function isBlankAt(column: Column, row: number): boolean {
  switch (column.kind) {
    case 'text':
    case 'yesno':
      return column.codes[row] === 0;
    case 'number':
      return Number.isNaN(column.values[row]!);
    case 'date':
      return column.days[row] === NO_DAY;
  }
}

/** The narrowest code array for a number of members (blank included). */
export function codesFor(members: number, rows: number): Codes {
  return members <= 256 ? new Uint8Array(rows) : members <= 65_536 ? new Uint16Array(rows) : new Uint32Array(rows);
}
