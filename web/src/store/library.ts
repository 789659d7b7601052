import Dexie, { type EntityTable, type Table as DexieTable } from 'dexie';
import { Problem } from '@bold-ruler/core/problem';
import type { Report } from '@bold-ruler/core/report';
import type { Table } from '@bold-ruler/core/table';

/** A report as this browser keeps it. */
export interface StoredReport {
  readonly id: string;
  readonly report: Report;
  /** Milliseconds since 1970; grows with every change, and so tells whether another tab has made one. */
  readonly changed: number;
  /** Rows of each table, for the list of reports. */
  readonly rows: Readonly<Record<string, number>>;
}

interface StoredTable {
  readonly report: string;
  readonly id: string;
  readonly table: Table;
}

/** A file as it was chosen, from which its tables can be read again. */
interface StoredFile {
  readonly report: string;
  readonly file: string;
  readonly content: Blob;
}

/** What fields a table has gained since it was stored. */
const GAINED = { firstLine: 2, lines: null, emptyLines: 0, doubts: [], marks: null, wide: null } as const;

class Library extends Dexie {
  reports!: EntityTable<StoredReport, 'id'>;
  contents!: DexieTable<StoredTable, [string, string]>;
  files!: DexieTable<StoredFile, [string, string]>;

  constructor() {
    super('bold-ruler');
    this.version(1).stores({ reports: 'id, changed', contents: '[report+id], report' });
    this.version(2)
      .stores({ files: '[report+file], report' })
      .upgrade((change) =>
        change
          .table('contents')
          .toCollection()
          .modify((stored: { table: Table }) => {
            stored.table = { ...GAINED, ...stored.table };
          }),
      );
  }
}

let opened: Library | null = null;
function library(): Library {
  opened ??= new Library();
  return opened;
}

/** Another tab has changed the report since this one read it. */
export class ChangedElsewhere extends Error {}

function isFull(error: unknown): boolean {
  const names = [error, (error as { inner?: unknown } | null)?.inner].map((e) => (e as { name?: string } | null)?.name);
  return names.includes('QuotaExceededError');
}

/** Runs work that writes; a browser without room is told in words, and nothing is kept of what did not fit. */
async function writing<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!isFull(error)) throw error;
    const { usage = 0, quota = 0 } = (await navigator.storage?.estimate?.()) ?? {};
    const mb = (bytes: number) => `${Math.round(bytes / 1e6).toLocaleString('en')} MB`;
    throw new Problem(
      'storage-full',
      `this browser gives this page no more room (${mb(usage)} of ${mb(quota)} are taken), so it could not be saved; nothing that was saved before is lost`,
      undefined,
      'remove reports you no longer need from the first page, or free space on this device, and try again',
    );
  }
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

/** The file a table was read from; null where the browser had no room for it. */
export async function loadFile(report: string, file: string): Promise<File | null> {
  const stored = await library().files.get([report, file]);
  return stored ? new File([stored.content], file) : null;
}

const later = (than: number) => Math.max(Date.now(), than + 1);

/**
 * Saves a report without its tables.
 * @param seen the state it was made from; throws `ChangedElsewhere` when the library holds another by now.
 * @returns the state it is now.
 */
export async function saveReport(id: string, report: Report, seen: number): Promise<number> {
  const db = library();
  return writing(() =>
    db.transaction('rw', db.reports, async () => {
      const stored = await db.reports.get(id);
      if (!stored || stored.changed !== seen) throw new ChangedElsewhere();
      const changed = later(seen);
      await db.reports.update(id, { report, changed });
      return changed;
    }),
  );
}

/** Files that tables are read from, by name. */
export type Files = ReadonlyMap<string, Blob>;

/** Keeps files where there is room; a report is complete without them, only its tables cannot be read again. */
async function keepFiles(report: string, files: Files): Promise<void> {
  try {
    await library().files.bulkPut([...files].map(([file, content]) => ({ report, file, content })));
  } catch (error) {
    if (!isFull(error)) throw error;
  }
}

/** Puts a new report with its tables on the shelf, all or nothing. */
export async function addReport(
  id: string,
  report: Report,
  tables: ReadonlyMap<string, Table>,
  files: Files = new Map(),
): Promise<void> {
  const db = library();
  await writing(() =>
    db.transaction('rw', db.reports, db.contents, async () => {
      await db.contents.where('report').equals(id).delete();
      for (const [tableId, table] of tables) await db.contents.put({ report: id, id: tableId, table });
      const rows = Object.fromEntries([...tables].map(([tableId, table]) => [tableId, table.rows]));
      await db.reports.put({ id, report, changed: Date.now(), rows });
    }),
  );
  await keepFiles(id, files);
}

/** Adds or replaces tables of a report together with the report that names them, all or nothing. */
export async function putTables(
  id: string,
  report: Report,
  tables: readonly Table[],
  seen: number,
  files: Files = new Map(),
): Promise<number> {
  const db = library();
  const changed = await writing(() =>
    db.transaction('rw', db.reports, db.contents, async () => {
      const stored = await db.reports.get(id);
      if (!stored || stored.changed !== seen) throw new ChangedElsewhere();
      for (const table of tables) await db.contents.put({ report: id, id: table.id, table });
      const rows = { ...stored.rows, ...Object.fromEntries(tables.map((table) => [table.id, table.rows])) };
      const now = later(seen);
      await db.reports.put({ id, report, changed: now, rows });
      return now;
    }),
  );
  await keepFiles(id, files);
  return changed;
}

/** A copy under a new id; of the report as it is given, where this browser's state is another. */
export async function copyReport(id: string, newId: string, as?: Report): Promise<void> {
  const stored = await loadReport(id);
  if (!stored) return;
  const report = as ?? stored.report;
  await addReport(newId, { ...report, name: `${report.name} (copy)` }, await loadTables(id), await filesOf(id));
}

async function filesOf(id: string): Promise<Files> {
  const files = await library().files.where('report').equals(id).toArray();
  return new Map(files.map(({ file, content }) => [file, content]));
}

/** Takes a report off the shelf; what is returned puts it back. */
export async function removeReport(id: string): Promise<() => Promise<void>> {
  const stored = await loadReport(id);
  const tables = await loadTables(id);
  const files = await filesOf(id);
  const db = library();
  await db.transaction('rw', db.reports, db.contents, db.files, async () => {
    await db.reports.delete(id);
    await db.contents.where('report').equals(id).delete();
    await db.files.where('report').equals(id).delete();
  });
  return async () => {
    if (stored) await addReport(id, stored.report, tables, files);
  };
}

export function newId(): string {
  return (
    Array.from(crypto.getRandomValues(new Uint8Array(6)), (byte) => (byte % 36).toString(36)).join('') +
    Date.now().toString(36).slice(-4)
  );
}
