import type { Condition, Vocabulary } from '../brief';
import type { FiscalCalendar, Grain, Span } from '../calendar';
import type { Aggregate, ValueType } from '../measure';
import type { Decimals } from '../number';
import type { Report } from '../report';
import type { FarDays, KnownSpan } from '../table';

/** What to count and add up, over which rows, in which groups. Plain data, so that any source can answer it. */
export interface Query {
  readonly table: string;
  readonly aggregates: readonly Aggregate[];
  readonly by: readonly string[];
  /** Groups by the fiscal period of the table's date. */
  readonly grain: Grain | null;
  /** Only rows whose date lies in the span; null for all rows, dated or not. */
  readonly span: Span | null;
  readonly where: readonly Condition[];
}

/** A query's answer: one entry a group that has rows, in order of its field codes and its step. */
export interface Groups {
  readonly count: number;
  /** For each field of the query: the members its codes stand for (blank is ''), and the code of each group. */
  readonly fields: readonly { readonly members: readonly string[]; readonly codes: Int32Array }[];
  /** First day of each group's step. */
  readonly steps: Int32Array | null;
  /** Rows in each group. */
  readonly rows: Float64Array;
  /** For each aggregate a value a group, as scaled integers where decimals are known; blank is NaN. */
  readonly values: readonly { readonly of: Float64Array; readonly decimals: Decimals }[];
  /** Rows that have no date, where the query asks for dates. */
  readonly undated: number;
}

/** What is known of a table without a query. */
export interface TableFacts {
  readonly id: string;
  readonly columns: ReadonlyMap<string, ValueType>;
  readonly date: string | null;
  readonly grain: Grain | null;
  /** Whose quarters and years its rows stand for: the report's, or those of calendar years. */
  readonly periods: FiscalCalendar;
  readonly orders: Readonly<Record<string, readonly string[]>>;
  readonly leftOut: readonly { readonly column: string | null; readonly reason: string; readonly count: number }[];
  /** Columns that are too large to be added up to the last digit. */
  readonly tooLarge?: readonly string[];
  /** Rows whose day lies far from all others. */
  readonly far?: FarDays | null;
}

/** A report with what answers its questions: the one argument of whatever draws, answers, lays out, checks or reckons. */
export interface Workspace {
  readonly report: Report;
  /** The names its briefs may use. */
  readonly vocabulary: Vocabulary;
  readonly source: Source;
}

/** Something that answers queries: the columnar tables here, or a database elsewhere. */
export interface Source {
  /** Undefined when there is no such table. */
  facts(table: string): TableFacts | undefined;
  /** First and last day on which one of the columns has a value (with no columns, on which there is a row), and where the data begin. */
  span(table: string, columns: readonly string[]): KnownSpan | null;
  groups(query: Query): Promise<Groups>;
}
