import { isInDatabase, isPattern, likelyMain, type KnownTable, type Report, type TableEntry } from '../report';
import type { Table } from '../table';
import { bareReport, joinedRows, together } from './bare';

/** A report with the tables it was read with, and the files that were made of several. */
export interface NewReport {
  readonly report: Report;
  readonly tables: ReadonlyMap<string, Table>;
  /** Rows of tables that came in several files, by the names that the report reads them from. */
  readonly made: ReadonlyMap<string, string>;
}

/**
 * A report to be kept with its tables: of several files that are one table, the rows are one file.
 * @param given null makes a report for the tables, and those of one layout one table
 * @param known every file that was read; those of a table of several files have its id
 */
export function newReport(given: Report | null, known: readonly KnownTable[]): NewReport {
  if (!given) {
    const { known: apart, files } = together(known);
    const sorted = likelyMain(apart);
    return {
      report: bareReport(sorted[0]!.entry.id, sorted),
      tables: new Map(sorted.map(({ entry, table }) => [entry.id, table])),
      made: files,
    };
  }
  const taken = new Set(given.tables.map(({ source }) => source.file.toLowerCase()));
  const made = new Map<string, string>();
  const tables = given.tables.map((entry): { readonly entry: TableEntry; readonly table: Table | null } => {
    // Rows in a database stay there.
    if (isInDatabase(entry)) return { entry, table: null };
    const parts = known.filter((one) => one.entry.id === entry.id);
    if (!isPattern(entry.source.file)) return { entry, table: parts[0]!.table };
    let file = `${entry.id}.csv`;
    for (let n = 2; taken.has(file.toLowerCase()); n++) file = `${entry.id} ${n}.csv`;
    taken.add(file.toLowerCase());
    const { csv, ...joined } = joinedRows({ ...entry, source: { file } }, parts);
    made.set(file, csv);
    return joined;
  });
  return {
    report: made.size === 0 ? given : { ...given, tables: tables.map(({ entry }) => entry) },
    tables: new Map(tables.flatMap(({ entry, table }) => (table ? [[entry.id, table] as const] : []))),
    made,
  };
}
