import Dexie from 'dexie';
import { columnApart, type Table } from '@bold-ruler/core/table';
import type { Storage } from './db';

// The columns of a table lie apart from the rest of it, one by one: written and read at once, a table of ten million rows would be
// in memory three times over.

/** A table as it is kept, and where its columns lie; those of tables that were kept before they lay apart are in the table. */
export interface Kept {
  readonly table: Table;
  readonly held?: string;
}

let count = 0;
/** A name that no other table's columns have. */
const freshName = () => `${Date.now().toString(36)}-${Math.random().toString(36).slice(2)}-${count++}`;

/** Puts the columns of a table away, within a transaction over `columns`; gives what is left of it. */
export async function putColumns(db: Storage, report: string, table: Table): Promise<Kept> {
  const held = freshName();
  // Memory that threads share cannot be stored. One after the other, so that there is never more than one copy of a column.
  for (const [place, column] of table.columns.entries())
    await db.columns.put({ held, place, report, column: columnApart(column) });
  return { table: { ...table, columns: [] }, held };
}

/** The table with its columns. */
export async function withColumns(db: Storage, { table, held }: Kept): Promise<Table> {
  if (held === undefined) return table;
  const found = await db.columns.where('[held+place]').between([held, Dexie.minKey], [held, Dexie.maxKey]).toArray();
  return { ...table, columns: found.map(({ column }) => column) };
}

/** Takes away the columns of a report that none of its tables has any more, now or before. */
export async function dropColumns(db: Storage, report: string): Promise<void> {
  const of = [
    [report, Dexie.minKey],
    [report, Dexie.maxKey],
  ] as const;
  const [now, before] = [db.contents.where('[report+held]'), db.earlier.where('[report+held]')];
  const used = [...(await now.between(...of).keys()), ...(await before.between(...of).keys())];
  const isUsed = new Set(used.map((key) => (key as unknown as [string, string])[1]));
  const keys = await db.columns.where('report').equals(report).primaryKeys();
  await db.columns.bulkDelete(keys.filter(([held]) => !isUsed.has(held)));
}
