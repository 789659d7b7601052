import type { ColumnKind } from '../../table';
import type { Decimals } from '../../number';

/** A statement as it is sent: its values are bound, never written into its text. */
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
}

/** What statements are asked of. It connects, reads only, keeps to its limits, and throws a `Problem` that names no address and no user. */
export interface Database {
  /** What reports call it. */
  readonly name: string;
  /** Rows of cells as text; null where there is nothing. */
  ask(statement: Statement): Promise<readonly (readonly (string | null)[])[]>;
  /**
   * The columns of what stands in a `from`, and what its rows are put in order by, where they have an order of their own.
   */
  describe(from: string): Promise<{ readonly columns: readonly DatabaseColumn[]; readonly order: string | null }>;
}

/** A name as it stands in a statement, whatever is in it. A name cannot hold a NUL. */
export const quoted = (name: string): string => `"${name.replaceAll('\0', '').replaceAll('"', '""')}"`;

/** Values of a statement, each bound in its place. */
export class Bindings {
  readonly values: (string | readonly string[])[] = [];

  /** The place of a value, as a type of the database. A text in it cannot hold a NUL: no row has one. */
  bind(value: string | readonly string[], type: string): string {
    const clean = (text: string) => text.replaceAll('\0', '');
    this.values.push(typeof value === 'string' ? clean(value) : value.map(clean));
    return `$${this.values.length}::${type}`;
  }
}
