import type { ColumnKind } from '../../table';
import type { Decimals } from '../../number';
import type { SqlDialect } from './dialect';

/** A statement as it is sent, with the values that are bound beside its text. */
export interface Statement {
  readonly text: string;
  readonly values: readonly (string | readonly string[])[];
}

/** A column as the database describes it. */
export interface DatabaseColumn {
  readonly name: string;
  /** Null for what is neither text, number, day, nor yes and no. */
  readonly kind: ColumnKind | null;
  /** Its decimals where its type says them; null for floating numbers; undefined where the values have to tell. */
  readonly decimals?: Decimals;
  /** Numbers without decimals of a type that counts: their product may leave it. */
  readonly isInteger?: true;
  /** Days with a time of day. */
  readonly isTimed?: true;
  /** What statements call it, where its own name could be mistaken for something else. */
  readonly as?: string;
  /** What the database calls its type, where its dialect wants to know. */
  readonly type?: string;
}

/** What statements are asked of. It connects, reads only, keeps to its limits, and throws a `Problem` that names no address and no user. */
export interface Database {
  /** What reports call it. */
  readonly name: string;
  /** For how many seconds an answer is kept, so that it is not asked for again; 0 keeps none. */
  readonly keep: number;
  /** How statements are written for it. */
  readonly dialect: SqlDialect;
  /** Rows of cells as text; null where there is nothing. A signal ends the statement where it runs. */
  ask(statement: Statement, signal?: AbortSignal): Promise<readonly (readonly (string | null)[])[]>;
  /**
   * The columns of what stands in a `from`, and what its rows are put in order by, where they have an order of their own.
   */
  describe(from: string): Promise<{ readonly columns: readonly DatabaseColumn[]; readonly order: string | null }>;
}
