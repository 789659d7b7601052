import { shaped, type SourceFile } from '../reading';
import {
  entryOfRows,
  firstBrief,
  nameOfFiles,
  reportFor,
  type ColumnEntry,
  type KnownTable,
  type Report,
  type TableEntry,
} from '../report';
import { appendRows, makeTable, overlapOf, suspectRows, tableCsv, type RawTable, type Table } from '../table';
import { readTable, type ReadingProgress } from './readTable';
import { workspaceFor } from './workspace';

/** Reads a file of which no report says anything yet: columns that are named after days to come or gone by become rows. Throws a `Problem`. */
export async function readBare(
  entry: TableEntry,
  file: SourceFile | readonly SourceFile[],
  onProgress?: (progress: ReadingProgress) => void,
): Promise<KnownTable> {
  const table = await readTable(entry, file, onProgress);
  const { wide } = table;
  if (!wide?.dated) return { entry, table };
  // Of one kind of number nothing is said but by the table's name.
  const value = wide.values.length === 1 && wide.values[0]!.name === 'value' ? { value: entry.id } : {};
  const totals = suspectRows(table).totals.length > 0 ? { leaveOut: ['totals' as const] } : {};
  const long: TableEntry = { ...entry, date: wide.name, ...totals, long: { name: wide.name, ...value } };
  return { entry: long, table: await readTable(long, file, onProgress) };
}

/**
 * A report for tables that have none, with a first figure where something can be added up.
 * @param known the table to be measured first
 */
export function bareReport(name: string, known: readonly KnownTable[]): Report {
  const report = reportFor(name, known);
  const { source, tables } = workspaceFor(report, new Map(known.map(({ entry, table }) => [entry.id, table])));
  const brief = firstBrief(
    report,
    (table) => source.facts(table),
    (table) => tables.get(table),
  );
  return brief === null ? report : { ...report, figures: [{ id: 'f1', brief, look: {} }] };
}

/** What a file is called without what tells a month's file from another's. */
const stemOf = (id: string) =>
  id
    .replace(/\b(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)\p{L}*|\bq[1-4]\b|\d+/giu, ' ')
    .replace(/[^\p{L}]+/gu, ' ')
    .trim();

/** Columns and their kinds; a column that holds nothing may be of any. */
const isOneLayout = (a: KnownTable, b: KnownTable): boolean =>
  stemOf(a.entry.id) === stemOf(b.entry.id) &&
  JSON.stringify(a.entry.long) === JSON.stringify(b.entry.long) &&
  a.table.columns.length === b.table.columns.length &&
  a.table.columns.every((column) => {
    const same = b.table.columns.find(({ name }) => name === column.name);
    const isEmpty = column.blank === a.table.rows || same?.blank === b.table.rows;
    return same !== undefined && (same.kind === column.kind || isEmpty);
  });

/**
 * Tables of one layout below one another.
 * @param entry what the report says of the table they become
 * @throws {Problem} where they have no column in common, or one holds other kinds of values
 */
function joinedTable({ id, repeats }: TableEntry, parts: readonly KnownTable[]): Table {
  const [first, ...others] = parts;
  const { file } = first!.entry.source;
  const all = others.reduce<RawTable>(
    (before, other) => appendRows(before, other.table, [file, other.entry.source.file]),
    first!.table,
  );
  // A row may have come in two files.
  const rows = repeats ? shaped(all, { repeats }, file) : all;
  const { date, grain } = first!.table;
  return makeTable(rows, { id, date, ...(grain ? { grain } : {}) });
}

/** The same with what a report says of the table, and the file that holds its rows. @param entry its file's name is that of the file */
export function joinedRows(entry: TableEntry, parts: readonly KnownTable[]): KnownTable & { readonly csv: string } {
  const table = joinedTable(entry, parts);
  return { entry: entryOfRows(entry, table, entry.source.file), table, csv: tableCsv(table) };
}

/** Tables of one layout as the one they become. */
export interface Group {
  readonly joined: KnownTable;
  readonly parts: readonly KnownTable[];
}

/** Tables that belong together, in the order of the first of each, and the files that were made of those that are not whole files. */
export interface Together {
  readonly groups: readonly Group[];
  readonly made: ReadonlyMap<string, string>;
}

/**
 * Files of one layout whose names differ in a month or a number only, and that have no day in common, become one table, by their days.
 * It is read from these files as they are; sheets of one workbook, of which a table reads one, are written to a file of their own.
 * @param taken ids that other tables have
 */
export function together(known: readonly KnownTable[], taken: ReadonlySet<string> = new Set()): Together {
  const groups: KnownTable[][] = [];
  for (const one of known) {
    // Of days that are in several files nobody knows which rows count: they stay apart, and can be added by hand.
    const group = groups.find(
      (some) => isOneLayout(some[0]!, one) && some.every(({ table }) => overlapOf(table, one.table) === null),
    );
    if (group) group.push(one);
    else groups.push([one]);
  }
  const made = new Map<string, string>();
  return {
    groups: groups.map((parts) => {
      if (parts.length === 1) return { joined: parts[0]!, parts };
      const begins = ({ table }: KnownTable) => {
        const date = table.columns.find(({ name }) => name === table.date);
        return date?.kind === 'date' ? date.days.reduce((least, day) => Math.min(least, day), Infinity) : 0;
      };
      const sorted = [...parts].sort((a, b) => begins(a) - begins(b) || (a.entry.id < b.entry.id ? -1 : 1));
      const { entry: first } = sorted[0]!;
      const others = new Set(known.filter((one) => !parts.includes(one)).map(({ entry }) => entry.id));
      const stem = stemOf(first.id) || 'rows';
      const id = others.has(stem) || taken.has(stem) ? first.id : stem;
      const files = sorted.map(({ entry }) => entry.source.file);
      const isOneSheet = sorted.every(({ entry }) => entry.source.sheet === first.source.sheet);
      // The only sheet of each workbook is read, whatever it is called.
      const isOnly = files.every((file) => known.filter(({ entry }) => entry.source.file === file).length === 1);
      if (new Set(files).size === files.length && (isOneSheet || isOnly)) {
        const { sheet: _, ...anySheet } = first.source;
        const entry = entryOfFiles({ ...first, id, source: isOneSheet ? first.source : anySheet }, files, sorted);
        return { joined: { entry, table: joinedTable(entry, sorted) }, parts };
      }
      const { csv, ...joined } = joinedRows({ id, source: { file: fileApart(id, files) } }, sorted);
      made.set(joined.entry.source.file, csv);
      return { joined, parts };
    }),
    made,
  };
}

/** A name for a file that is written, which is none of these. */
export function fileApart(id: string, files: readonly string[]): string {
  const taken = new Set(files.map((file) => file.split(/[\\/]/).pop()!.toLowerCase()));
  for (let n = 0; ; n++) {
    const name = `${id}${n === 0 ? '' : n === 1 ? ' (put together)' : ` (put together ${n})`}.csv`;
    if (!taken.has(name.toLowerCase())) return name;
  }
}

/** What a report says of a table that is read from several files: as what its columns are read, and what is left out of any of them. */
function entryOfFiles(first: TableEntry, files: readonly string[], parts: readonly KnownTable[]): TableEntry {
  const leaveOut = [...new Set(parts.flatMap(({ entry }) => entry.leaveOut ?? []))];
  // How dates are written is known from a file whose days settle it.
  const columns = parts[0]!.table.columns.flatMap(({ name }): ColumnEntry[] => {
    const known = parts.flatMap(({ table }) => {
      const column = table.columns.find((one) => one.name === name);
      if (column?.kind !== 'date' || column.blank === table.rows) return [];
      return [{ read: column.read, isSettled: !table.doubts.some((doubt) => doubt.column === name) }];
    });
    if (known.every(({ read }) => read === known[0]!.read)) return [];
    const { read } = known.find(({ isSettled }) => isSettled) ?? known[0]!;
    return [{ name, type: 'date', read }];
  });
  return {
    ...first,
    source: { ...first.source, file: nameOfFiles(files), files },
    ...(leaveOut.length > 0 ? { leaveOut } : {}),
    ...(columns.length > 0 ? { columns } : {}),
  };
}
