import { rowsNeeded, type RowsChange } from '@bold-ruler/core/edit';
import { Problem } from '@bold-ruler/core/problem';
import { keptAs, REPORT_VERSION, type Report } from '@bold-ruler/core/report';
import type { Table } from '@bold-ruler/core/table';
import { Damaged, dropColumns, putColumns, withColumns, type Kept } from './columns';
import {
  isFull,
  stored,
  type BinEntry,
  type Storage,
  type StoredDraft,
  type StoredHistory,
  type StoredReport,
} from './db';

export type { StoredDraft, StoredReport } from './db';

/** Earlier states are at least this far apart, in milliseconds, and at most so many are kept of a report. */
const APART = 120_000;
const MOST_STATES = 40;

/** Another tab has changed the report since this one read it. */
export class ChangedElsewhere extends Error {}

/** The report is not in this browser any more: removed in another tab, or with all data of this page. */
export class ReportGone extends Error {}

/** Whether an entry of the storage is a report, as far as lists of reports look at it. */
export const isSound = ({ report, rows, changed }: StoredReport): boolean =>
  typeof report?.name === 'string' &&
  [report.figures, report.pages, report.tables].every(Array.isArray) &&
  typeof rows === 'object' &&
  typeof changed === 'number';

/** What lists call a report. */
export const nameOf = ({ report }: Pick<StoredReport, 'report'>): string =>
  typeof report?.name === 'string' ? report.name : 'A damaged report';

export async function loadReport(id: string): Promise<StoredReport | undefined> {
  const found = await stored((db) => db.reports.get(id));
  if (found && !isSound(found))
    throw new Problem(
      'damaged-report',
      'what this browser has kept of this report is damaged',
      undefined,
      'open its report file or its bundle; nothing else is touched',
    );
  if (found && found.report.boldRuler > REPORT_VERSION)
    throw new Problem(
      'newer-version',
      'this report was written by a newer version of Bold Ruler',
      undefined,
      'reload the page to open it in that version; it is left as it is',
    );
  return found?.removed === undefined ? found : undefined;
}

/**
 * The tables of a report.
 * @param again reads the file of a table once more whose rows are damaged here; what it gives is kept in their place. A table without it,
 *   or for which it gives null, is left out.
 */
export async function loadTables(
  report: string,
  again?: (id: string) => Promise<Table | null>,
): Promise<Map<string, Table>> {
  const damaged: string[] = [];
  const tables = await stored((db) =>
    db.transaction('r', db.contents, db.columns, async () => {
      const found = await db.contents.where('report').equals(report).toArray();
      const sound = new Map<string, Table>();
      for (const kept of found)
        try {
          sound.set(kept.id, await withColumns(db, kept));
        } catch (error) {
          if (!(error instanceof Damaged)) throw error;
          damaged.push(kept.id);
        }
      return sound;
    }),
  );
  for (const id of damaged) {
    const table = await again?.(id);
    if (!table) continue;
    tables.set(id, table);
    await stored((db) =>
      db.transaction('rw', [db.contents, db.earlier, db.columns], async () => {
        await db.contents.put({ report, id, ...(await putColumns(db, report, table)) });
        await dropColumns(db, report);
      }),
    );
  }
  return tables;
}

/** The file a table was read from; null where the browser had no room for it. */
export async function loadFile(report: string, file: string): Promise<File | null> {
  const found = await stored((db) => db.files.get([report, file]));
  return found ? new File([found.content], file) : null;
}

const later = (than: number) => Math.max(Date.now(), than + 1);

/** The stored report, as long as it is in the state that was seen. Throws `ReportGone` and `ChangedElsewhere`. */
async function asSeen(db: Storage, id: string, seen: number): Promise<StoredReport> {
  const found = await db.reports.get(id);
  if (!found || found.removed !== undefined) throw new ReportGone();
  if (found.changed !== seen) throw new ChangedElsewhere();
  return found;
}

/**
 * Saves a report without its tables, and what can be taken back in it.
 * @param seen the state it was made from; throws `ChangedElsewhere` when the library holds another by now, `ReportGone` when it holds none
 * @returns the state it is now
 */
export async function saveReport(
  id: string,
  report: Report,
  seen: number,
  history: Pick<StoredHistory, 'past' | 'future'>,
): Promise<number> {
  const [changed, before] = await stored((db) =>
    db.transaction('rw', [db.reports, db.histories, db.bin, db.earlier, db.contents, db.columns], async () => {
      const found = await asSeen(db, id, seen);
      const changed = later(seen);
      await db.reports.update(id, { report, changed });
      await db.histories.put({ report: id, changed, ...history });
      const gone = removedIn(found.report, report).map((entry) => ({ ...entry, report: id, at: changed }));
      if (gone.length > 0) await db.bin.bulkAdd(gone);
      await dropRows(db, id, rowsNeeded(history));
      return [changed, found] as const;
    }),
  );
  await keepState(before);
  return changed;
}

/** Figures, pages and tables that are in one state of a report and not in the next; tables with what went with them. */
function removedIn(before: Report, after: Report): Pick<BinEntry, 'kind' | 'content' | 'with'>[] {
  const gone = <T extends { readonly name: string }>(were: readonly T[], are: readonly T[]): T[] =>
    were.filter(({ name }) => !are.some((one) => one.name === name));
  const along = {
    measures: gone(before.measures, after.measures),
    benchmarks: gone(before.benchmarks, after.benchmarks),
  };
  return (['figures', 'pages', 'tables'] as const).flatMap((kind) => {
    // One that has another name now is not gone.
    if (after[kind].length >= before[kind].length) return [];
    const left = new Set(after[kind].map(({ id }) => id));
    return before[kind]
      .filter(({ id }) => !left.has(id))
      .map((content) => ({ kind, content, ...(kind === 'tables' ? { with: along } : {}) }));
  });
}

/** What can be taken back and done again in a report in its present state. */
export async function loadHistory(id: string, changed: number): Promise<Pick<StoredHistory, 'past' | 'future'>> {
  const found = await stored((db) => db.histories.get(id));
  return found?.changed === changed ? found : { past: [], future: [] };
}

/** Keeps what a report was, if the last such state is some time ago. Work goes on where there is no room for it. */
async function keepState({ id, report, changed }: StoredReport): Promise<void> {
  try {
    await stored(async ({ states }) => {
      const last = await states.where('report').equals(id).last();
      // A clock that was ahead once holds nothing up.
      if (last && Math.abs(Date.now() - last.at) < APART) return;
      await states.add({ report: id, at: changed, state: report });
      const all = await states.where('report').equals(id).primaryKeys();
      await states.bulkDelete(all.slice(0, Math.max(0, all.length - MOST_STATES)));
    });
  } catch (error) {
    if (!isFullProblem(error)) throw error;
  }
}

const isFullProblem = (error: unknown) => error instanceof Problem && error.code === 'storage-full';

/** Files that tables are read from, by name. */
export type Files = ReadonlyMap<string, Blob>;

/** Keeps files where there is room; a report is complete without them, only its tables cannot be read again. */
async function keepFiles(report: string, files: Files): Promise<void> {
  try {
    await stored((db) => db.files.bulkPut([...files].map(([file, content]) => ({ report, file, content }))));
  } catch (error) {
    if (!isFullProblem(error) && !isFull(error)) throw error;
  }
}

/** Puts a new report with its tables on the shelf, all or nothing. */
export async function addReport(
  id: string,
  report: Report,
  tables: ReadonlyMap<string, Table>,
  files: Files = new Map(),
): Promise<void> {
  await stored((db) =>
    db.transaction('rw', [db.reports, db.contents, db.earlier, db.columns], async () => {
      await db.contents.where('report').equals(id).delete();
      for (const [tableId, table] of tables)
        await db.contents.put({ report: id, id: tableId, ...(await putColumns(db, id, table)) });
      await dropColumns(db, id);
      const rows = Object.fromEntries([...tables].map(([tableId, table]) => [tableId, table.rows]));
      await db.reports.put({ id, report, changed: Date.now(), rows });
    }),
  );
  await keepFiles(id, files);
}

/** A report whose tables have other rows, as it is saved. */
export interface RowsSave {
  readonly report: Report;
  readonly seen: number;
  readonly history: Pick<StoredHistory, 'past' | 'future'>;
  readonly changes: readonly RowsChange[];
}

/**
 * Saves a report whose tables have other rows than before, all or nothing. Rows that are no longer those of a table are kept as
 * long as the history may ask for them.
 * @param given rows that are new; others are among those that are kept
 * @param files the files that new rows were read from, by name
 * @returns the state it is now, and the tables as they are now
 * @throws `ChangedElsewhere` when the library holds another state than the one seen, `ReportGone` when it holds none
 */
export async function saveRows(
  id: string,
  { report, seen, history, changes }: RowsSave,
  given: ReadonlyMap<string, Table>,
  files: Files = new Map(),
): Promise<{ changed: number; tables: ReadonlyMap<string, Table | null> }> {
  const now = new Map<string, Table | null>();
  const changed = await stored((db) =>
    db.transaction('rw', [db.reports, db.contents, db.histories, db.earlier, db.files, db.columns], async () => {
      const found = await asSeen(db, id, seen);
      const rows: Record<string, number> = { ...found.rows };
      const versions: Record<string, number> = { ...found.versions };
      for (const { table, before, after } of changes) {
        if (before !== null) await keepRows(db, found, table, before);
        const own = after === null ? undefined : given.get(table);
        const kept = after === null || own ? null : await keptRows(db, id, table, after);
        const next = own ?? (kept && (await withColumns(db, kept)));
        now.set(table, next);
        if (next) {
          // Rows that come back have their columns where they lay.
          const { table: rest, held, count } = kept ?? (await putColumns(db, id, next));
          await db.contents.put({ report: id, id: table, table: rest, ...whereHeld({ held, count }) });
          rows[table] = next.rows;
          versions[table] = after!;
        } else {
          await db.contents.delete([id, table]);
          delete rows[table];
          delete versions[table];
        }
      }
      const changed = later(seen);
      await db.reports.put({ ...found, report, changed, rows, versions });
      await db.histories.put({ report: id, changed, ...history });
      await dropRows(db, id, rowsNeeded(history));
      await dropColumns(db, id);
      return changed;
    }),
  );
  await keepFiles(id, files);
  return { changed, tables: now };
}

const whereHeld = ({ held, count }: { readonly held?: string | undefined; readonly count?: number | undefined }) => ({
  ...(held === undefined ? {} : { held }),
  ...(count === undefined ? {} : { count }),
});

/** Keeps the rows that a table has now, with their file, under their version. */
async function keepRows(db: Storage, { id, report }: StoredReport, tableId: string, version: number): Promise<void> {
  const content = await db.contents.get([id, tableId]);
  const entry = report.tables.find((one) => one.id === tableId);
  const file = entry ? keptAs(entry) : '';
  if (!content) return;
  const kept = await db.files.get([id, file]);
  await db.earlier.put({
    report: id,
    id: tableId,
    version,
    table: content.table,
    ...whereHeld(content),
    file,
    content: kept?.content ?? null,
  });
}

/** Rows that are kept under a version; their file is that of the report again. */
async function keptRows(db: Storage, report: string, tableId: string, version: number): Promise<Kept> {
  const kept = await db.earlier.get([report, tableId, version]);
  if (!kept)
    throw new Problem(
      'rows-gone',
      `the earlier rows of “${tableId}” are not kept any more`,
      undefined,
      'read their file once more',
    );
  if (kept.content) await db.files.put({ report, file: kept.file, content: kept.content });
  return kept;
}

/** Takes away rows that nothing asks for any more. */
async function dropRows(db: Storage, report: string, needed: ReadonlySet<string>): Promise<void> {
  const keys = await db.earlier.where('report').equals(report).primaryKeys();
  const gone = keys.filter(([, table, version]) => !needed.has(`${table} ${version}`));
  await db.earlier.bulkDelete(gone);
  if (gone.length > 0) await dropColumns(db, report);
}

/** The files that this browser keeps of a report. */
export async function loadFiles(id: string): Promise<Files> {
  const files = await stored((db) => db.files.where('report').equals(id).toArray());
  return new Map(files.map(({ file, content }) => [file, content]));
}

/** The texts that are being written in a report. */
export async function loadDrafts(id: string): Promise<StoredDraft[]> {
  return stored((db) => db.drafts.where('report').equals(id).toArray());
}

/** Keeps a text that is being written; null where it is no longer. */
export async function keepDraft(report: string, place: string, draft: Pick<StoredDraft, 'base' | 'text'> | null) {
  await stored(async ({ drafts }) => {
    if (draft) await drafts.put({ report, place, ...draft });
    else await drafts.delete([report, place]);
  });
}

export function newId(): string {
  return (
    Array.from(crypto.getRandomValues(new Uint8Array(6)), (byte) => (byte % 36).toString(36)).join('') +
    Date.now().toString(36).slice(-4)
  );
}
