import Dexie from 'dexie';
import { columnApart, type Column, type Table } from '@bold-ruler/core/table';
import type { Storage, StoredColumn } from './db';

// The columns of a table lie apart from the rest of it, one by one: written and read at once, a table of ten million rows would be
// in memory three times over.

/** A table as it is kept, and where its columns lie; those of tables that were kept before they lay apart are in the table. */
export interface Kept {
  readonly table: Table;
  readonly held?: string;
  /** How many columns lie there. */
  readonly count?: number;
}

let count = 0;
/** A name that no other table's columns have. */
const freshName = () => `${Date.now().toString(36)}-${Math.random().toString(36).slice(2)}-${count++}`;

/** Puts the columns of a table away, within a transaction over `columns`; gives what is left of it. */
export async function putColumns(db: Storage, report: string, table: Table): Promise<Kept> {
  const held = freshName();
  // Memory that threads share cannot be stored. One after the other, so that there is never more than one copy of a column.
  for (const [place, column] of table.columns.entries())
    await db.columns.put({ held, place, report, column: columnApart(column), sum: sumOf(column) });
  return { table: { ...table, columns: [] }, held, count: table.columns.length };
}

const valuesOf = (column: Column): ArrayBufferView & { readonly length: number } =>
  column.kind === 'number' ? column.values : column.kind === 'date' ? column.days : column.codes;

/** A sum by which values that were changed or cut are known: each word of theirs counts by its place. */
function sumOf(column: Column): number {
  const { buffer, byteOffset, byteLength } = valuesOf(column);
  let sum = byteLength | 0;
  const isEven = byteOffset % 4 === 0;
  const words = isEven ? new Int32Array(buffer, byteOffset, byteLength >> 2) : new Int32Array(0);
  for (let i = 0; i < words.length; i++) sum = (Math.imul(sum, 31) + words[i]!) | 0;
  const bytes = new Uint8Array(buffer, byteOffset, byteLength);
  for (let i = words.length * 4; i < bytes.length; i++) sum = (Math.imul(sum, 31) + bytes[i]!) | 0;
  return sum;
}

/** What is kept of a table's rows is not what was put there. */
export class Damaged extends Error {}

/** The table with its columns. Throws `Damaged` where a column is not there, has not as many rows as the table, or other values than it had. */
export async function withColumns(db: Storage, { table, held, count }: Kept): Promise<Table> {
  if (held === undefined) {
    if (!Array.isArray(table?.columns) || table.columns.some((column) => valuesOf(column)?.length !== table.rows))
      throw new Damaged();
    return table;
  }
  const found = await db.columns.where('[held+place]').between([held, Dexie.minKey], [held, Dexie.maxKey]).toArray();
  const isWhole = ({ column, sum }: StoredColumn) =>
    valuesOf(column)?.length === table.rows && (sum === undefined || sum === sumOf(column));
  if (!table || (count !== undefined && found.length !== count) || !found.every(isWhole)) throw new Damaged();
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
