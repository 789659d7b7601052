import { NO_DAY, type Day, type Grain, type Span } from '../calendar';
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
  /** What stood beside the numbers: `%`, or a currency by its ISO 4217 code. */
  readonly unit?: string;
  /** Several currencies stand beside them, by their codes or signs: their sum says nothing. */
  readonly units?: readonly string[];
  /** Their decimals are known, but together they are too large to be added up to the last digit. */
  readonly tooLarge?: true;
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
  /** Quarters and years as the file writes them, as if years began in January; `days` are then those of the report's calendar. */
  readonly written?: Int32Array;
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
  /** The file whose line it is, of a table of several. */
  readonly file?: string;
}

/** Why a line is left out that was never meant as data. */
export const ASIDE = {
  title: 'a title above the header',
  total: 'a totals row',
  note: 'a note below the table',
  sum: 'a column that is the sum of others',
} as const;

/** Why a row is left out that is equal to one above it. */
export const TWICE = 'a row that stands there already';

/** The reasons that take nothing from a figure. */
export const NO_DATA: ReadonlySet<string> = new Set(Object.values(ASIDE));

/** How many rows or cells were left out for one reason. */
export interface LeftOutCount {
  readonly column: string | null;
  readonly reason: string;
  count: number;
}

/** A column whose text can be read in two ways, none of which all its rows together rule out. The first is the one in use. */
export interface Doubt {
  readonly column: string;
  readonly kind: 'date' | 'number';
  /** Each reading with its name in the report file (`dd/MM/yyyy`, `1.234,5`), and one text as it is then understood. */
  readonly readings: readonly { readonly read: string; readonly raw: string; readonly as: string }[];
}

/** Something in a file that was not as files are, of which nothing is left out. */
export interface Told {
  /**
   * A quote that encloses no cell and is taken for a letter; a cell with more line breaks than cells have; bytes that are no letter; a
   * formula whose result is not stored, a text that the workbook does not have.
   */
  readonly what: 'stray quote' | 'many lines' | 'bad bytes' | 'no result' | 'no text';
  count: number;
  /** The first of them. */
  readonly first: { readonly line: number; readonly raw: string; readonly file?: string }[];
}

/** Places in a file of delimited text from which lines can be read again: a line and the byte it begins at. */
export interface LineIndex {
  readonly lines: readonly number[];
  readonly bytes: readonly number[];
  readonly delimiter: string;
  readonly newline: string;
  /** Cells that most rows have. */
  readonly width: number;
  /** Lines end in several ways: all of them are read as `newline`. */
  readonly anyEnds?: true;
  readonly encoding: string;
}

/** Columns that are named after periods and hold the same kind of number each: a table that is wider than it should be. */
export interface Wide {
  /** What the period column would be called. */
  readonly name: string;
  /** `month` also for months without a year, which become text. */
  readonly grain: Grain;
  readonly dated: boolean;
  /** The number columns that come of it, and the columns that each is made of. */
  readonly values: readonly { readonly name: string; readonly columns: readonly string[] }[];
}

/** First and last day with data, and the first day the data can be said to cover. */
export interface KnownSpan extends Span {
  /** The first day, less the longest stretch of days without rows, but not before the first day's month. */
  readonly begins: Day;
}

/** A lookup: each row finds the row of another table whose columns `on` hold what its own `columns` hold. */
export interface Joining {
  readonly columns: readonly string[];
  /** The id of the other table. */
  readonly to: string;
  readonly on: readonly string[];
  /** A column of days there: of several rows of a key the latest counts that is not after this row's day. */
  readonly since?: string;
}

/** A column that a lookup brings: its name here, and there. */
export interface JoinedName {
  readonly name: string;
  readonly of: string;
}

/** Rows whose key the other table does not have, or had not yet; what they hold in each column of numbers. */
export interface KeysNotFound {
  readonly rows: number;
  readonly sums: Readonly<Record<string, number>>;
  /** How many keys these are. */
  readonly keys: number;
  /** The keys with most rows. */
  readonly first: readonly {
    readonly key: string;
    readonly rows: number;
    readonly sums: Readonly<Record<string, number>>;
  }[];
}

/** A lookup that was followed. */
export interface Joined extends Joining {
  readonly names: readonly JoinedName[];
  /** Keys that the other table has in several rows: nothing can be looked up as long as there are any. */
  readonly twice: readonly { readonly key: string; readonly rows: number }[];
  /** Rows are valid from a day on there, and those here have none: only who looks them up from here on, with a day, finds one. */
  readonly undated: boolean;
  /** Null where every row finds one. */
  readonly notFound: () => KeysNotFound | null;
}

/** The rows of one file in a table of several. */
export interface TablePart {
  readonly file: string;
  readonly rows: number;
}

/** Imported rows in typed columns. */
export interface Table {
  readonly id: string;
  readonly rows: number;
  readonly columns: readonly Column[];
  /** Columns of the file that are left out: they only tell rows apart. */
  readonly aside?: readonly Column[];
  /** The column that places a row in time. */
  readonly date: string | null;
  /** The length of time one row stands for. */
  readonly grain: Grain | null;
  /** Columns that tell a row from others; all when left out. */
  readonly key?: readonly string[];
  /** Rows are in order of the date column, without blanks. */
  readonly inDateOrder: boolean;
  /** The first rows and cells that were left out, at most `LEFT_OUT_KEPT`. */
  readonly leftOut: readonly LeftOut[];
  /** How many were left out in all, by reason and column. */
  readonly leftOutCounts: readonly Readonly<LeftOutCount>[];
  /** The line on which the first row would stand if none were skipped: behind the header. */
  readonly firstLine: number;
  /** Lines behind that hold no row of the table: empty ones, totals; see `lineOf`. */
  readonly skipped: readonly number[];
  /** The line of each row, where one line gives several rows. */
  readonly lines: Uint32Array | null;
  /** The files whose rows stand below one another, with how many rows each has; left out for one file. */
  readonly parts?: readonly TablePart[];
  /** How many of the skipped lines hold nothing at all. */
  readonly emptyLines: number;
  /** What was not as it should be and is taken all the same. */
  readonly told?: readonly Told[];
  /** Line breaks inside cells: such a row is one line here. */
  readonly breaks?: number;
  readonly doubts: readonly Doubt[];
  /** Null unless columns are named after periods. */
  readonly wide: Wide | null;
  /** Only of delimited text. */
  readonly marks: LineIndex | null;
  /** Of a table that holds a part of its rows: what is known of all of them, by the columns that were asked for. */
  readonly spans?: Readonly<Record<string, KnownSpan | null>>;
  /** Columns that are computed from others, in the order in which they are. */
  readonly derived?: readonly { readonly name: string; readonly expression: string }[];
  /** The lookups whose columns are among these. */
  readonly joined?: readonly Joined[];
  /** Other names that expressions and briefs may use for a column, such as `products.family`. */
  readonly aliases?: ReadonlyMap<string, string>;
  /** Orders of members that were declared, by column. */
  readonly orders: Readonly<Record<string, readonly string[]>>;
  /** It holds rates of currencies, in these columns. */
  readonly rates?: { readonly currency: string; readonly rate: string };
}

/** The parts of a table that name its columns as they were read. */
export type RawNames = Pick<Table, 'columns' | 'leftOut' | 'leftOutCounts' | 'doubts'>;

/** How many left-out entries keep their raw text; beyond that they are only counted. */
export const LEFT_OUT_KEPT = 10_000;

export function columnOf(table: Table, name: string): Column | undefined {
  return table.columns.find((column) => column.name === name);
}

/** The columns that were read, without those that are computed or looked up. */
export function columnsRead({ columns, derived = [], joined = [] }: Pick<Table, 'columns' | 'derived' | 'joined'>) {
  if (derived.length === 0 && joined.length === 0) return columns;
  const made = new Set([
    ...derived.map(({ name }) => name),
    ...joined.flatMap(({ names }) => names.map(({ name }) => name)),
  ]);
  return columns.filter(({ name }) => !made.has(name));
}

/** The same with those that are left out: what the file says of a row. */
export const columnsInFile = (table: Pick<Table, 'columns' | 'derived' | 'joined' | 'aside'>): readonly Column[] =>
  table.aside ? [...columnsRead(table), ...table.aside] : columnsRead(table);

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
