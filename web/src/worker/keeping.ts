import { listedIn, type Desk } from '@bold-ruler/core/desk';
import { NO_HISTORY, usersOfColumn, type Names } from '@bold-ruler/core/edit';
import { isProblem, Problem, sent, type Sent } from '@bold-ruler/core/problem';
import { compareReports, type ReportComparison } from '@bold-ruler/core/comparison';
import { shaped } from '@bold-ruler/core/reading';
import { entryOfRows, filesOf, keptAs, wholeBundle, type Report, type TableEntry } from '@bold-ruler/core/report';
import {
  columnMatches,
  differenceOf,
  makeTable,
  overlapOf,
  asInFile,
  tableCsv,
  withHeaders,
  withRowsAdded,
  type AddedRows,
  type Difference,
  type Overlap,
  type Table,
} from '@bold-ruler/core/table';
import { fileApart, stacked, workspaceFor } from '@bold-ruler/core/workspace';
import {
  addReport,
  ChangedElsewhere,
  loadFile,
  loadFiles,
  ReportGone,
  saveRows,
  type Files,
  type RowsSave,
} from '@/storage/library';
import { CHANGED_ELSEWHERE, GONE } from './changedElsewhere';
import { readAlike } from './filesOfTable';
import { filesKept, filesOfReport, packOf, readFrom } from './pack';

/** What came of saving other rows. */
export interface RowsSaved {
  readonly changed: number;
  /** There was no room for what was before, so nothing can be taken back. */
  readonly isForgotten: boolean;
}

/** Runs work that saves; a change by another tab is a problem of its own. */
function savedAs<T>(work: () => Promise<T>): Promise<Sent<T>> {
  return sent(async () => {
    try {
      return await work();
    } catch (error) {
      if (error instanceof ReportGone) throw new Problem(GONE, 'this report is not in this browser any more');
      if (!(error instanceof ChangedElsewhere)) throw error;
      throw new Problem(CHANGED_ELSEWHERE, 'another tab has changed this report since it was opened here');
    }
  });
}

/** The file a table was read from, where the browser keeps it. */
export async function sourceOf(id: string, current: Report, tableId: string): Promise<File | null> {
  const entry = current.tables.find((one) => one.id === tableId);
  return entry ? loadFile(id, keptAs(entry)) : null;
}

/** A column of the report that a newer file lacks. */
export interface Lacking {
  /** By its name in the report. */
  readonly column: string;
  /** Everything that would miss it, as a sentence names it. */
  readonly uses: readonly string[];
  /** What the newer file may call it, and how much of what it held that still holds (0–1). */
  readonly match: { readonly to: string; readonly share: number } | null;
}

/** Rows that may be taken, and what would change. */
export interface Proposed {
  readonly difference: Difference;
  /** Days of which both have rows; null for rows that are read anew. */
  readonly overlap: Overlap | null;
  /** What the report says of rows that were put together; null where it says what it was asked to. */
  readonly entry: TableEntry | null;
  /** Of a newer file: what it lacks, and the columns it has in their place, by its own names. */
  readonly lacking: readonly Lacking[];
  readonly come: readonly string[];
}

const notTried = () =>
  new Problem('not-tried', 'the rows that were tried are not here any more', undefined, 'try it once more');

/** The tables and files of the open report, as the browser keeps them. */
export function keepingOf(opened: () => { readonly id: string; readonly desk: Desk }) {
  /** A table that may take the place of another, and the file it was read from. */
  let proposed: { readonly of: string; readonly table: Table; readonly file: File | null } | null = null;
  /** The rows of a newer file, which may be added in several ways. */
  let newer: { readonly table: Table; readonly file: File } | null = null;
  const oldOf = (table: Table): Table | null => opened().desk.read.get(table.id) ?? null;

  /** What a newer file lacks of the columns there are, with everything that would miss them. */
  function lackedBy(current: Report, table: Table): Pick<Proposed, 'lacking' | 'come'> {
    const old = oldOf(table);
    if (!old) return { lacking: [], come: [] };
    // A report that its tables do not fit is mended by a newer file as well; who uses what is not known then.
    let names: Names | null = null;
    try {
      const { vocabulary, source } = opened().desk.of(current);
      names = { vocabulary, facts: source.facts };
    } catch (error) {
      if (!isProblem(error)) throw error;
    }
    const entry = current.tables.find(({ id }) => id === table.id);
    const called = new Map(entry?.columns?.map(({ name, header }) => [header ?? name, name]));
    const matches = new Map(columnMatches(old, table).map(({ from, to, share }) => [from, { to, share }]));
    const isIn = ({ columns }: Table, name: string) => columns.some((column) => column.name === name);
    return {
      lacking: old.columns
        .filter(({ name }) => !isIn(table, name))
        .map(({ name }) => {
          const column = called.get(name) ?? name;
          const uses = names ? usersOfColumn(current, table.id, column, names) : [];
          return { column, uses, match: matches.get(name) ?? null };
        }),
      come: table.columns.map(({ name }) => name).filter((name) => !isIn(old, name)),
    };
  }

  function replaced(current: Report, table: Table, file: File | null): Proposed {
    proposed = { of: opened().id, table, file };
    const old = oldOf(table);
    return {
      difference: differenceOf(old, table),
      overlap: old && file ? overlapOf(old, table) : null,
      entry: null,
      ...(file ? lackedBy(current, table) : { lacking: [], come: [] }),
    };
  }

  /** A table read from its files and one more; null where that gives other rows, or a file is not kept. */
  async function besides(entry: TableEntry, file: File, joined: Table) {
    const kept = await loadFile(opened().id, keptAs(entry)).catch(() => null);
    if (!kept) return null;
    const files = new Map(await filesKept(entry, kept));
    if (files.size !== filesOf(entry).length || files.has(file.name)) return null;
    files.set(file.name, file);
    const named = readFrom(entry, [...files.keys()]);
    const { sheet, ...anySheet } = named.source;
    const pack = packOf([...files], named.source.file);
    // The sheet may be called after its month, and be the only one.
    for (const next of [named, ...(sheet === undefined ? [] : [{ ...named, source: anySheet }])]) {
      const table = await readAlike(next, pack, joined);
      if (table) return { entry: next, table, file: pack };
    }
    return null;
  }

  return {
    /** Keeps the open report under another id, with the tables that are here, whatever the library holds of them. */
    keepCopy(id: string, copy: Report): Promise<Sent<null>> {
      return sent(async () => {
        const files = await loadFiles(opened().id).catch((): Files => new Map());
        await addReport(id, copy, opened().desk.read, files);
        return null;
      });
    },

    /** Takes a table that may stand in for the one of the same id, and tells what would change. */
    propose(current: Report, table: Table, file: File | null): Promise<Sent<Proposed>> {
      return sent(() => {
        newer = file && { table, file };
        return replaced(current, table, file);
      });
    },

    /** Takes the rows of a table under another name. */
    proposeNamed(tableId: string, name: string): Promise<Sent<null>> {
      return sent(() => {
        const old = opened().desk.read.get(tableId);
        if (!old) throw notTried();
        proposed = { of: opened().id, table: { ...old, id: name }, file: null };
        return null;
      });
    },

    /** The newer file that was proposed last, instead of the rows there are, once more. */
    proposeReplaced(current: Report): Promise<Sent<Proposed>> {
      return sent(() => {
        if (!newer) throw notTried();
        return replaced(current, newer.table, newer.file);
      });
    },

    /**
     * Takes the rows of the newer file that was proposed last besides those there are, and tells what would change.
     * @param entry what the report says of the table now
     * @param keep of days that are in both, whose rows are kept
     * @param called what the newer file calls columns otherwise, by their names in the report
     */
    proposeAdded(
      current: Report,
      entry: TableEntry,
      keep: AddedRows,
      called: Readonly<Record<string, string>>,
    ): Promise<Sent<Proposed>> {
      return sent(async () => {
        const old = opened().desk.read.get(entry.id);
        if (!newer || !old) throw notTried();
        const headers = new Map(entry.columns?.map(({ name, header }) => [name, header ?? name]));
        const columns = Object.entries(called).map(([name, header]) => ({ name: headers.get(name) ?? name, header }));
        const come = withHeaders(newer.table, columns);
        const both = withRowsAdded(old, come, keep, [entry.source.file, newer.file.name]);
        // The same row in both files is that row once more.
        const { repeats } = asInFile(entry);
        const raw = repeats ? shaped(both, { repeats }, entry.source.file) : both;
        const table = makeTable(raw, { id: entry.id, date: old.date, ...(old.grain ? { grain: old.grain } : {}) });
        const overlap = overlapOf(old, come);
        const answer = { difference: differenceOf(old, table), overlap, ...lackedBy(current, newer.table) };
        const isWhole = (overlap === null || keep === 'both') && columns.every(({ name, header }) => name === header);
        const whole = isWhole ? await besides(entry, newer.file, table) : null;
        if (whole) {
          proposed = { of: opened().id, table: whole.table, file: whole.file };
          return { ...answer, entry: whole.entry };
        }
        const name = fileApart(entry.id, [...current.tables.flatMap(filesOf), newer.file.name]);
        const file = new File([tableCsv(table)], name, { type: 'text/csv' });
        proposed = { of: opened().id, table, file };
        return { ...answer, entry: entryOfRows(entry, table, name) };
      });
    },

    /** Proposes the rows of tables of the same columns under one another, as the first of them; tells what the report says of it then. */
    proposeStacked(
      current: Report,
      ids: readonly string[],
    ): Promise<Sent<{ readonly entry: TableEntry; readonly difference: Difference }>> {
      return sent(() => {
        const parts = ids.map((id) => {
          const table = opened().desk.read.get(id);
          const entry = current.tables.find((one) => one.id === id);
          if (!table || !entry) throw notTried();
          return { entry, table };
        });
        const { entry, table, csv } = stacked(parts, current.tables.flatMap(filesOf));
        proposed = { of: opened().id, table, file: new File([csv], entry.source.file, { type: 'text/csv' }) };
        return { entry, difference: differenceOf(parts[0]!.table, table) };
      });
    },

    /** Every figure before and after the proposed rows are taken, with the report as it would be then. */
    compareProposed(before: Report, after: Report): Promise<Sent<ReportComparison>> {
      return sent(async () => {
        if (!proposed) throw notTried();
        const { desk } = opened();
        const rows = new Map([...listedIn(after, desk.read), [proposed.table.id, proposed.table]]);
        return compareReports(desk.of(before), workspaceFor(after, rows));
      });
    },

    /**
     * Saves the report with other rows of its tables, and has them here from then on: rows that are given, the proposed ones, or
     * those that are kept of an earlier step.
     */
    saveRows(save: RowsSave, given: readonly Table[] | 'proposed', files: Files): Promise<Sent<RowsSaved>> {
      return savedAs(async () => {
        const { id, desk } = opened();
        const own = given === 'proposed' && proposed?.of === id ? proposed : null;
        if (given === 'proposed' && !own) throw notTried();
        const tables = given === 'proposed' ? [own!.table] : given;
        const fresh = new Map(tables.map((table) => [table.id, table]));
        // Everything is looked at once before anything is saved: derived columns must still fit.
        if (fresh.size > 0) workspaceFor(save.report, new Map([...listedIn(save.report, desk.read), ...fresh]));
        const entry = own && save.report.tables.find(({ id }) => id === own.table.id);
        const sources = own?.file && entry ? new Map([[keptAs(entry), own.file]]) : files;
        // Where there is no room for the rows before, those that come are worth more.
        const bare = { ...save, history: NO_HISTORY, changes: save.changes.map((one) => ({ ...one, before: null })) };
        let isForgotten = false;
        const { changed, tables: now } = await saveRows(id, save, fresh, sources).catch((error: unknown) => {
          if (!isProblem(error) || error.code !== 'storage-full' || fresh.size === 0) throw error;
          isForgotten = true;
          return saveRows(id, bare, fresh, sources);
        });
        desk.take(now);
        proposed = newer = null;
        return { changed, isForgotten };
      });
    },

    /** The report and the files of its tables as one. */
    bundle(current: Report): Promise<Sent<Uint8Array<ArrayBuffer>>> {
      return sent(async () => {
        const files = new Map<string, Uint8Array>();
        // Where it is not kept, or cannot be had, the rows that are here are handed over.
        const kept = await filesOfReport(current, (name) => loadFile(opened().id, name).catch(() => null));
        for (const [name, file] of kept) files.set(name, new Uint8Array(await file.arrayBuffer()));
        return wholeBundle(current, opened().desk.read, files) as Uint8Array<ArrayBuffer>;
      });
    },

    /** The file of a table, to be read again in another way; null where it is not kept. */
    file(current: Report, tableId: string): Promise<File | null> {
      return sourceOf(opened().id, current, tableId);
    },

    /** Ids of all tables that are kept, also of those that lie in the bin. */
    async tableIds(): Promise<string[]> {
      return [...opened().desk.read.keys()];
    },

    async discard(): Promise<void> {
      proposed = newer = null;
    },
  };
}
