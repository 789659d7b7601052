import { Problem } from '../problem';

/** The table of an id. Throws a `Problem` where there is none. */
export function tableIn<T>(tables: ReadonlyMap<string, T>, id: string): T {
  const table = tables.get(id);
  if (table) return table;
  throw new Problem(
    'unknown-table',
    `there is no table “${id}”`,
    { in: 'source' },
    'add it to “tables” in the report, or correct the name',
  );
}
