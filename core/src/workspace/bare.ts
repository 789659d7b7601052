import { shaped, type SourceFile } from '../reading';
import { entryOfRows, firstBrief, reportFor, type KnownTable, type Report, type TableEntry } from '../report';
import { appendRows, makeTable, overlapOf, suspectRows, tableCsv, type RawTable } from '../table';
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
  const { source } = workspaceFor(report, new Map(known.map(({ entry, table }) => [entry.id, table])));
  const brief = firstBrief(report, (table) => source.facts(table));
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
 * Tables of one layout below one another, with what a report says of them and the file that holds their rows.
 * @param entry the table they become; its file's name is that of the file
 * @throws {Problem} where they have no column in common, or one holds other kinds of values
 */
export function joinedRows(entry: TableEntry, parts: readonly KnownTable[]): KnownTable & { readonly csv: string } {
  const [first, ...others] = parts;
  const { file } = first!.entry.source;
  const all = others.reduce<RawTable>(
    (before, other) => appendRows(before, other.table, [file, other.entry.source.file]),
    first!.table,
  );
  // A row may have come in two files.
  const { repeats } = entry;
  const rows = repeats ? shaped(all, { repeats }, file) : all;
  const { date, grain } = first!.table;
  const table = makeTable(rows, { id: entry.id, date, ...(grain ? { grain } : {}) });
  return { entry: entryOfRows(entry, table, entry.source.file), table, csv: tableCsv(table) };
}

/** Tables, and the files that hold the rows of those which were put together. */
export interface Together {
  readonly known: readonly KnownTable[];
  readonly files: ReadonlyMap<string, string>;
}

/** Files of one layout whose names differ in a month or a number only, and that have no day in common, become one table, by their days. */
export function together(known: readonly KnownTable[]): Together {
  const groups: KnownTable[][] = [];
  for (const one of known) {
    // Of days that are in several files nobody knows which rows count: they stay apart, and can be added by hand.
    const group = groups.find(
      (some) => isOneLayout(some[0]!, one) && some.every(({ table }) => overlapOf(table, one.table) === null),
    );
    if (group) group.push(one);
    else groups.push([one]);
  }
  const files = new Map<string, string>();
  const taken = new Set(known.map(({ entry }) => entry.id));
  return {
    known: groups.map((group) => {
      if (group.length === 1) return group[0]!;
      const begins = ({ table }: KnownTable) => {
        const date = table.columns.find(({ name }) => name === table.date);
        return date?.kind === 'date' ? date.days.reduce((least, day) => Math.min(least, day), Infinity) : 0;
      };
      const sorted = [...group].sort((a, b) => begins(a) - begins(b) || (a.entry.id < b.entry.id ? -1 : 1));
      const first = sorted[0]!;
      let id = stemOf(first.entry.id) || 'rows';
      if (taken.has(id)) id = `${id} together`;
      const { entry, table, csv } = joinedRows({ id, source: { file: `${id}.csv` } }, sorted);
      files.set(entry.source.file, csv);
      return { entry, table };
    }),
    files,
  };
}
