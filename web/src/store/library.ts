import Dexie, { type EntityTable, type Table as DexieTable } from 'dexie';
import { Problem } from '@bold-ruler/core/problem';
import { REPORT_VERSION, type Report } from '@bold-ruler/core/report';
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

/** A report as it was before a step of the work, to go back to. Its tables are not kept with it. */
export interface EarlierState {
  readonly n: number;
  readonly report: string;
  readonly at: number;
  readonly state: Report;
}

/** Earlier states are at least this far apart, in milliseconds, and at most so many are kept of a report. */
const APART = 120_000;
const MOST_STATES = 40;

/** What fields a table has gained since it was stored. */
const GAINED = { firstLine: 2, lines: null, emptyLines: 0, doubts: [], marks: null, wide: null } as const;

class Library extends Dexie {
  reports!: EntityTable<StoredReport, 'id'>;
  contents!: DexieTable<StoredTable, [string, string]>;
  files!: DexieTable<StoredFile, [string, string]>;
  states!: EntityTable<EarlierState, 'n'>;

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
    this.version(3).stores({ states: '++n, [report+at], report' });
    // Another tab brings a newer version of the storage: this one makes way, and says so when it saves.
    this.on('versionchange', ({ newVersion }) => {
      if (newVersion !== null) isTakenOver = true;
      this.close({ disableAutoOpen: true });
    });
  }
}

let opened: Library | null = null;
/** A newer version of this program has taken the storage over while this one was open. */
let isTakenOver = false;
function library(): Library {
  if (isTakenOver) throw NEWER_STORAGE();
  opened ??= new Library();
  return opened;
}

/** Another tab has changed the report since this one read it. */
export class ChangedElsewhere extends Error {}

function isFull(error: unknown): boolean {
  const names = [error, (error as { inner?: unknown } | null)?.inner].map((e) => (e as { name?: string } | null)?.name);
  return names.includes('QuotaExceededError');
}

/** Whether the storage was made, or is being taken over, by a newer version of this program. */
function isOlderThanStorage(error: unknown): boolean {
  const name = (error as { name?: string } | null)?.name;
  return name === 'VersionError' || name === 'DatabaseClosedError';
}

const NEWER_STORAGE = () =>
  new Problem(
    'newer-storage',
    'a newer version of Bold Ruler keeps this browser’s reports now',
    undefined,
    'reload the page to go on in the newer version; nothing that was saved is lost',
  );

/** Runs work that reads; a storage of a newer version is told in words. */
async function reading<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    throw isOlderThanStorage(error) ? NEWER_STORAGE() : error;
  }
}

/** Runs work that writes; a browser without room is told in words, and nothing is kept of what did not fit. */
async function writing<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (isOlderThanStorage(error)) throw NEWER_STORAGE();
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
  return reading(() => library().reports.orderBy('changed').reverse().toArray());
}

export async function loadReport(id: string): Promise<StoredReport | undefined> {
  const stored = await reading(() => library().reports.get(id));
  if (stored && stored.report.boldRuler > REPORT_VERSION)
    throw new Problem(
      'newer-version',
      'this report was written by a newer version of Bold Ruler',
      undefined,
      'reload the page to open it in that version; it is left as it is',
    );
  return stored;
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
  const [changed, before] = await writing(() =>
    db.transaction('rw', db.reports, async () => {
      const stored = await db.reports.get(id);
      if (!stored || stored.changed !== seen) throw new ChangedElsewhere();
      const changed = later(seen);
      await db.reports.update(id, { report, changed });
      return [changed, stored] as const;
    }),
  );
  await keepState(before);
  return changed;
}

/** Keeps what a report was, if the last such state is some time ago. Work goes on where there is no room for it. */
async function keepState({ id, report, changed }: StoredReport): Promise<void> {
  const { states } = library();
  try {
    const last = await states.where('report').equals(id).last();
    if (last && Date.now() - last.at < APART) return;
    await states.add({ report: id, at: changed, state: report });
    const all = await states.where('report').equals(id).primaryKeys();
    await states.bulkDelete(all.slice(0, Math.max(0, all.length - MOST_STATES)));
  } catch (error) {
    if (!isFull(error)) throw error;
  }
}

/** What a report was before, the latest first. */
export async function earlierStates(id: string): Promise<EarlierState[]> {
  return reading(async () => (await library().states.where('report').equals(id).toArray()).reverse());
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
  const states = await earlierStates(id);
  await db.transaction('rw', [db.reports, db.contents, db.files, db.states], async () => {
    await db.states.where('report').equals(id).delete();
    await db.reports.delete(id);
    await db.contents.where('report').equals(id).delete();
    await db.files.where('report').equals(id).delete();
  });
  return async () => {
    if (stored) await addReport(id, stored.report, tables, files);
    await db.states.bulkPut([...states].reverse());
  };
}

export function newId(): string {
  return (
    Array.from(crypto.getRandomValues(new Uint8Array(6)), (byte) => (byte % 36).toString(36)).join('') +
    Date.now().toString(36).slice(-4)
  );
}
