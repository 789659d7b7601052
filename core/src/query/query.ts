import type { Condition, Vocabulary } from '../brief';
import type { Grain, Span } from '../calendar';
import type { Aggregate } from '../measure';
import type { Decimals } from '../number';
import type { Report } from '../report';
import type { ColumnKind, FieldsProfile, KnownSpan, Table, TableFacts } from '../table';

export type { TableFacts };

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

/** The rows a number was made from: those of a table that lie in a span and meet all conditions. */
export interface Behind {
  readonly table: string;
  /** Null: rows of any day, and those without one. */
  readonly span: Span | null;
  readonly where: readonly Condition[];
}

/** Some rows of a table, every cell as it would be written in a file. */
export interface RowsFound {
  /** How many there are in all. */
  readonly rows: number;
  readonly columns: readonly { readonly name: string; readonly kind: ColumnKind }[];
  readonly lines: readonly (readonly string[])[];
}

/** Columns of a table whose first and last day with a value is asked for; none stand for its rows. */
export interface SpanAsked {
  readonly table: string;
  readonly columns: readonly string[];
}

/** A report with what answers its questions: the one argument of whatever draws, answers, lays out, checks or reckons. */
export interface Workspace {
  readonly report: Report;
  /** The names its briefs may use. */
  readonly vocabulary: Vocabulary;
  readonly source: OpenSource;
}

/**
 * Where rows are and queries are answered: columns in memory, or a database elsewhere. Everything that is asked of rows goes through it.
 * Each throws a `Problem` where it cannot answer.
 */
export interface Source {
  /** What is known of each table, by its id: asked for once. */
  facts(): Promise<ReadonlyMap<string, TableFacts>>;
  /** Answers in the order of what was asked; null where there is no such day. */
  spans(asked: readonly SpanAsked[]): Promise<readonly (KnownSpan | null)[]>;
  /** Answers in the order of the queries, which are asked together. What a signal ends is answered by any problem. */
  groups(queries: readonly Query[], signal?: AbortSignal): Promise<readonly Groups[]>;
  /** Rows in the table's order: `count` of them from the one at `from` on, which counts from 0. */
  rows(
    behind: Behind,
    page: { readonly from: number; readonly count: number },
    signal?: AbortSignal,
  ): Promise<RowsFound>;
  /** Names in a field that hold a text, without regard to case, at most so many. */
  members(table: string, field: string, search: string, most: number, signal?: AbortSignal): Promise<readonly string[]>;
  profile(table: string, signal?: AbortSignal): Promise<FieldsProfile>;
  /** The rows themselves as typed columns, for what leaves with them: those of the columns and days that are named, or more. */
  extract(
    part: {
      readonly table: string;
      readonly columns: readonly string[];
      readonly span: Span | null;
    },
    signal?: AbortSignal,
  ): Promise<Table>;
}

/** A source whose facts are known, and which puts questions of one moment together. */
export interface OpenSource extends Pick<Source, 'rows' | 'members' | 'profile' | 'extract'> {
  /** Undefined when there is no such table. */
  facts(table: string): TableFacts | undefined;
  /** First and last day on which one of the columns has a value (with no columns, on which there is a row), and where the data begin. */
  span(table: string, columns: readonly string[]): Promise<KnownSpan | null>;
  groups(query: Query, signal?: AbortSignal): Promise<Groups>;
}
