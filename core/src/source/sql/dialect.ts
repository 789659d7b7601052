import type { Span } from '../../calendar';
import type { Aggregate, DatePart } from '../../measure';
import type { Decimals } from '../../number';
import type { ColumnKind } from '../../table';
import type { DatabaseColumn } from './database';

/** A piece of a statement with the type of its value. Null stands where the value is blank. */
export interface Piece {
  readonly sql: string;
  readonly type: ColumnKind;
  /** As in memory: decimals of numbers that are exact. */
  readonly decimals: Decimals;
  /** A number of a type of the database that arithmetic may leave: it is widened before. */
  readonly isNarrow?: true;
  /** Of a column of text or days, the column itself, which an index may be on: blank text there is null or empty. */
  readonly raw?: string;
}

/** How an engine writes what all engines can say. */
export interface SqlDialect {
  /** What people call the engine. */
  readonly engine: string;
  /** Whether one statement can gather several groupings of the same rows. */
  readonly hasGroupingSets: boolean;
  /** A name as it stands in a statement, whatever is in it. */
  quoted(name: string): string;
  /** What rows are read from so that no column is mistaken for something else, and its columns. */
  readable(
    from: string,
    columns: readonly DatabaseColumn[],
  ): { readonly from: string; readonly columns: readonly DatabaseColumn[] };
  /** Begins a statement. */
  begin(): SqlWriter;
}

/** One statement while it is written: its values, and the pieces that each engine writes in its own way. */
export interface SqlWriter {
  /** What is bound beside the text. */
  readonly values: readonly (string | readonly string[])[];

  text(value: string): string;
  number(value: number, decimals: Decimals): string;
  truth(is: boolean): string;
  /** A day by its number since 1970-01-01. */
  day(days: number): string;
  nothing(kind: ColumnKind): string;

  /** A column of the table; as text where a report says so. */
  column(column: DatabaseColumn, as: ColumnKind | null): Piece;
  /** A statement’s piece that tells the decimals of a column’s values; only for columns whose type does not. */
  finestDecimals(column: string): string;

  /** A number as one that arithmetic does not leave, to the last digit; days and truths count, too. */
  exact(of: Piece, decimals?: number): string;
  floating(of: Piece): string;
  /** Text that is compared by its code points. */
  ordered(sql: string): string;
  not(truth: string): string;
  both(op: 'and' | 'or', left: string, right: string): string;
  like(of: string, pattern: string, negated: boolean): string;
  /** Numbers that are divided by nothing are nothing. */
  quotient(left: string, right: string): string;
  part(part: DatePart, day: Piece): Piece;
  sign(exact: string): string;
  /** Halves away from zero. With `places` null, to `digits`; else floating, to as many as `places` says. */
  rounded(of: Piece, digits: number, places: Piece | null): string;
  extreme(name: 'greatest' | 'least', sqls: readonly string[], type: ColumnKind): string;
  /** The number a text is; nothing where it is none. */
  numberIn(text: string): string;
  /** The day a text of ten letters is; nothing where it is none. */
  dayIn(text: string): string;

  /** A day’s number since 1970-01-01. */
  dayNumber(day: string): string;
  /** Days, numbers, and yes and no, as their text. */
  shown(of: Piece): string;
  /** A number as text with all its decimals. */
  withDecimals(of: Piece, decimals: number): string;
  /** A text that is one of several; nothing where it is nothing. */
  isOneOf(text: string, names: readonly string[]): string;
  /** Whether a text holds one in small letters, or one as it is typed. */
  holds(text: string, small: string, asTyped: string): string;
  within(day: Piece, span: Span): string;
  /** Of steps by their first days, the place of a day’s in their order, from 1; all days lie in `span`. */
  stepOf(day: string, starts: readonly number[], span: Span): string;

  aggregate(fn: Aggregate['fn'], of: Piece | null, how: AggregateSaid): string;
  /** A grouping by expressions that stand in these places of the selected ones, from 1. */
  grouped(sqls: readonly string[], places: readonly number[]): string;
  /** As many rows from one on. */
  page(count: number, from: number): string;
}

export interface AggregateSaid {
  readonly distinct: boolean;
  /** Which rows it takes; null for all. */
  readonly filter: string | null;
  readonly p: number | null;
}

/** Decimals up to which sums of a column are counted in whole parts. */
const MOST_EXACT = 6;

/** The decimals to which a column is exact here. */
export const exactDecimals = ({ decimals }: DatabaseColumn): Decimals =>
  decimals !== undefined && decimals !== null && decimals <= MOST_EXACT ? decimals : null;
