import Dexie, { type EntityTable, type Table as DexieTable } from 'dexie';
import type { Report } from '@bold-ruler/core/report';
import type { Table } from '@bold-ruler/core/table';

/** A report as this browser keeps it. */
export interface StoredReport {
  readonly id: string;
  readonly report: Report;
  /** Milliseconds since 1970. */
  readonly changed: number;
  /** Rows of each table, for the list of reports. */
  readonly rows: Readonly<Record<string, number>>;
}

interface StoredTable {
  readonly report: string;
  readonly id: string;
  readonly table: Table;
}

class Library extends Dexie {
  reports!: EntityTable<StoredReport, 'id'>;
  contents!: DexieTable<StoredTable, [string, string]>;

  constructor() {
    super('bold-ruler');
    this.version(1).stores({ reports: 'id, changed', contents: '[report+id], report' });
  }
}

let opened: Library | null = null;
function library(): Library {
  opened ??= new Library();
  return opened;
}

/** All reports, the last changed first. */
export async function listReports(): Promise<StoredReport[]> {
  return library().reports.orderBy('changed').reverse().toArray();
}

export async function loadReport(id: string): Promise<StoredReport | undefined> {
  return library().reports.get(id);
}

export async function loadTables(report: string): Promise<Map<string, Table>> {
  const stored = await library().contents.where('report').equals(report).toArray();
  return new Map(stored.map(({ id, table }) => [id, table]));
}

/** Saves a report without its tables. */
export async function saveReport(id: string, report: Report): Promise<number> {
  const changed = Date.now();
  await library().reports.update(id, { report, changed });
  return changed;
}

/** Puts a new report with its tables on the shelf, all or nothing. */
export async function addReport(id: string, report: Report, tables: ReadonlyMap<string, Table>): Promise<void> {
  const db = library();
  await db.transaction('rw', db.reports, db.contents, async () => {
    await db.contents.where('report').equals(id).delete();
    await db.contents.bulkPut([...tables].map(([tableId, table]) => ({ report: id, id: tableId, table })));
    const rows = Object.fromEntries([...tables].map(([tableId, table]) => [tableId, table.rows]));
    await db.reports.put({ id, report, changed: Date.now(), rows });
  });
}

/** Adds or replaces one table of a report together with the report that names it. */
export async function addTable(id: string, report: Report, table: Table): Promise<void> {
  const db = library();
  await db.transaction('rw', db.reports, db.contents, async () => {
    const stored = await db.reports.get(id);
    await db.contents.put({ report: id, id: table.id, table });
    await db.reports.put({ id, report, changed: Date.now(), rows: { ...stored?.rows, [table.id]: table.rows } });
  });
}

/** A copy under a new id. */
export async function copyReport(id: string, newId: string): Promise<void> {
  const stored = await loadReport(id);
  if (!stored) return;
  await addReport(newId, { ...stored.report, name: `${stored.report.name} (copy)` }, await loadTables(id));
}

/** Takes a report off the shelf; what is returned puts it back. */
export async function removeReport(id: string): Promise<() => Promise<void>> {
  const stored = await loadReport(id);
  const tables = await loadTables(id);
  const db = library();
  await db.transaction('rw', db.reports, db.contents, async () => {
    await db.reports.delete(id);
    await db.contents.where('report').equals(id).delete();
  });
  return async () => {
    if (stored) await addReport(id, stored.report, tables);
  };
}

export function newId(): string {
  return (
    Array.from(crypto.getRandomValues(new Uint8Array(6)), (byte) => (byte % 36).toString(36)).join('') +
    Date.now().toString(36).slice(-4)
  );
}
