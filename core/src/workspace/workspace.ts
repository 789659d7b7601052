import type { FiscalCalendar } from '../calendar';
import { didYouMean, Problem } from '../problem';
import { openedSource, type Workspace } from '../query';
import { columnarSource, withDerived, withLookups } from '../source';
import { vocabularyOf, type Report, type TableEntry } from '../report';
import { readFile, shaped, type FileWish, type SourceFile } from '../reading';
import {
  appendRows,
  asInFile,
  makeTable,
  withHeaders,
  withOrders,
  withPeriods,
  withSame,
  type ColumnWish,
  type RawTable,
  type Table,
} from '../table';

/** A report with its tables, ready to answer. */
export interface OpenReport extends Workspace {
  readonly tables: ReadonlyMap<string, Table>;
}

interface Described {
  readonly key: string;
  /** The tables whose columns are looked up, as they were. */
  readonly others: readonly Table[];
  readonly table: Table;
}

const described = new WeakMap<Table, Described>();

/**
 * A table with what its entry says: names read as others, date column, grain, orders of members, columns looked up in other tables,
 * derived columns; its quarters and years are those of the calendar. Kept while all of it is the same.
 * @param tableOf the other tables as their entries describe them
 */
function tableAs(
  read: Table,
  entry: TableEntry | undefined,
  calendar: FiscalCalendar,
  tableOf: (id: string) => Table | null,
): Table {
  const key = JSON.stringify([entry, calendar.fiscalYearStart, calendar.fiscalYearNamed]);
  // Where the rows of a lookup are not kept any more, its columns are not there; everything else is.
  const joins = (entry?.joins ?? []).filter(({ to }) => tableOf(to) !== null);
  const others = joins.map(({ to }) => tableOf(to)!);
  const known = described.get(read);
  if (
    known?.key === key &&
    known.others.length === others.length &&
    known.others.every((other, i) => other === others[i])
  )
    return known.table;
  const { columns = [], derived } = entry ?? {};
  const settled = new Map(columns.flatMap(({ name, read: as }) => (as === undefined ? [] : [[name, as]])));
  const called = withHeaders(read, columns);
  const own = new Set(called.columns.map(({ name }) => name));
  const made = entry ? makeTable(withSame(called, entry.same), entry) : read;
  const later = (derived ?? []).map(({ name }) => name);
  const looked = withLookups(
    withPeriods(made, calendar, settled),
    joins,
    (id) => others[joins.findIndex(({ to }) => to === id)]!,
    later,
  );
  const table = withOrders(
    withDerived(looked, derived),
    columns.filter(({ name }) => !own.has(name)),
  );
  described.set(read, { key, others, table });
  return table;
}

/**
 * The tables of a report, each with the columns of those it looks up.
 * @throws {Problem} for a lookup in a table that is not there, or in one that looks up, through others, in the table itself
 */
function tablesAs(report: Report, read: ReadonlyMap<string, Table>): Map<string, Table> {
  const made = new Map<string, Table>();
  const entryOf = (id: string) => report.tables.find((entry) => entry.id === id);
  const tableOf = (id: string, path: readonly string[]): Table | null => {
    const known = made.get(id);
    if (known) return known;
    const { calendar } = report;
    const looking = path.at(-1);
    if (path.includes(id))
      throw new Problem(
        'lookup-ring',
        `“${looking!}” is looked up in “${id}”, which is looked up in “${path[path.indexOf(id) + 1] ?? id}”`,
        { in: 'tables' },
        'take one of these lookups away',
      );
    const rows = read.get(id);
    if (!rows && entryOf(id)) return null;
    if (!rows)
      throw new Problem(
        'unknown-table',
        `there is no table “${id}” to look up in`,
        { in: looking === undefined ? 'tables' : `table “${looking}”` },
        didYouMean(id, [...read.keys()], 'table'),
      );
    const table = tableAs(rows, entryOf(id), calendar, (to) => tableOf(to, [...path, id]));
    made.set(id, table);
    return table;
  };
  return new Map([...read.keys()].map((id) => [id, tableOf(id, [])!]));
}

/**
 * Joins a report and its tables.
 * @param forms the forms briefs may name: for numbers all, for pictures those that are drawn. Throws a `Problem` for a wrong derived column or an entry that its table does not fit. */
export function workspaceFor(report: Report, read: ReadonlyMap<string, Table>): OpenReport {
  const tables = tablesAs(report, read);
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
 * @param fileOf the file of a table, or the files that are one table; throws a `Problem` where it is not there
 */
export async function openReportWith(
  report: Report,
  fileOf: (entry: TableEntry) => SourceFile | readonly SourceFile[],
): Promise<OpenReport> {
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

/** Reads a file of any kind into the typed table a report's entry describes, its columns called as in the file. Throws a `Problem`. */
export async function readTable(
  entry: TableEntry,
  file: SourceFile | readonly SourceFile[],
  onProgress: (progress: ReadingProgress) => void = () => {},
): Promise<Table> {
  const { file: _, ...source } = entry.source;
  const inFile = asInFile(entry);
  const wish: FileWish = { ...inFile, ...source };
  if (!Array.isArray(file)) {
    const raw = await readFile(file as SourceFile, wish, (rows, share = 0) => onProgress({ rows, share }));
    return makeTable(raw, inFile);
  }
  return makeTable(await readTogether(file as readonly SourceFile[], wish, onProgress), inFile);
}

/** Reads files of one layout into one table: as the first is read, the others are. */
async function readTogether(
  files: readonly SourceFile[],
  wish: FileWish,
  onProgress: (progress: ReadingProgress) => void,
): Promise<RawTable> {
  const { repeats, ...each } = wish;
  let whole: RawTable | null = null;
  for (const [i, file] of files.entries()) {
    const known: readonly ColumnWish[] = [
      ...(each.columns ?? []),
      ...(whole ? wishesOf(whole, each.columns ?? []) : []),
    ];
    const before = whole?.rows ?? 0;
    const raw = await readFile(file, { ...each, columns: known }, (rows, share = 0) =>
      onProgress({ rows: before + rows, share: (i + share) / files.length }),
    );
    whole = whole ? appendRows(whole, raw, [files[0]!.name, file.name]) : raw;
  }
  // A row may have come in two files.
  return repeats ? shaped(whole!, { columns: each.columns ?? [], repeats }, files[0]!.name) : whole!;
}

/** The kinds of columns that were read, but of those that hold nothing or of which something is said. */
function wishesOf({ columns, rows }: RawTable, said: readonly ColumnWish[]): ColumnWish[] {
  return columns.flatMap((column) => {
    if (column.blank === rows || said.some(({ name }) => name === column.name)) return [];
    return [{ name: column.name, type: column.kind, ...(column.kind === 'date' ? { read: column.read } : {}) }];
  });
}
