/** Which rows are the same row once more, and whether all but the first of them are left out (they are, unless all are kept). */
export interface Repeats {
  /** `row`: those equal in all columns; else those equal in the columns of these names. */
  readonly by: 'row' | readonly string[];
  readonly keep?: 'first' | 'all';
}

/** The columns that tell a row from others; undefined for all. */
export function keyOf(repeats: Repeats | undefined): readonly string[] | undefined {
  return repeats === undefined || repeats.by === 'row' ? undefined : repeats.by;
}
