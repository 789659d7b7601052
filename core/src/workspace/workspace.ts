import type { FiscalCalendar } from '../calendar';
import { openedSource, type Workspace } from '../query';
import { columnarSource, withDerived } from '../source';
import { vocabularyOf, type Report, type TableEntry } from '../report';
import { readFile, type SourceFile } from '../reading';
import { makeTable, withPeriods, type Table } from '../table';

/** A report with its tables, ready to answer. */
export interface OpenReport extends Workspace {
  readonly tables: ReadonlyMap<string, Table>;
}

const described = new WeakMap<Table, { readonly key: string; readonly table: Table }>();

/**
 * A table with what its entry says: date column, grain, orders of members, derived columns; its quarters and years are those of
 * the calendar. Kept while both are the same.
 */
function tableAs(read: Table, entry: TableEntry | undefined, calendar: FiscalCalendar): Table {
  const key = JSON.stringify([entry, calendar.fiscalYearStart, calendar.fiscalYearNamed]);
  const known = described.get(read);
  if (known?.key === key) return known.table;
  const settled = new Map(entry?.columns?.flatMap(({ name, read: as }) => (as === undefined ? [] : [[name, as]])));
  const made = entry ? makeTable(read, entry) : read;
  const table = withDerived(withPeriods(made, calendar, settled), entry?.derived);
  described.set(read, { key, table });
  return table;
}

/**
 * Joins a report and its tables.
 * @param forms the forms briefs may name: for numbers all, for pictures those that are drawn. Throws a `Problem` for a wrong derived column or an entry that its table does not fit. */
export function workspaceFor(report: Report, read: ReadonlyMap<string, Table>): OpenReport {
  const tables = new Map(
    [...read].map(([id, table]) => [
      id,
      tableAs(
        table,
        report.tables.find((entry) => entry.id === id),
        report.calendar,
      ),
    ]),
  );
  const source = columnarSource(tables, report.calendar);
  return {
    report,
    tables,
    vocabulary: vocabularyOf(report, source.factsAt),
    source: openedSource(source, source.factsAt),
  };
}

/**
 * Opens a report whose tables are files.
 * @param fileOf the file of a table; throws a `Problem` where it is not there
 */
export async function openReportWith(report: Report, fileOf: (entry: TableEntry) => SourceFile): Promise<OpenReport> {
  const tables = new Map<string, Table>();
  for (const entry of report.tables) tables.set(entry.id, await readTable(entry, fileOf(entry)));
  return workspaceFor(report, tables);
}

/** How far a reading has come. */
export interface ReadingProgress {
  readonly rows: number;
  /** 0–1 */
  readonly share: number;
}

/** Reads a file of any kind into the typed table a report's entry describes. Throws a `Problem`. */
export async function readTable(
  entry: TableEntry,
  file: SourceFile,
  onProgress: (progress: ReadingProgress) => void = () => {},
): Promise<Table> {
  const { file: _, ...source } = entry.source;
  const raw = await readFile(file, { ...entry, ...source }, (rows, share = 0) => onProgress({ rows, share }));
  return makeTable(raw, entry);
}
