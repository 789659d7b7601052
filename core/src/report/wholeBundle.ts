import { tableCsv, type Table } from '../table';
import { writeBundle } from './bundle';
import { filesOf } from './pattern';
import type { Report, TableEntry } from './report';

/**
 * A report with its tables as one ZIP, also where the file of a table is not kept: its rows are written then as they were read,
 * and the report says of them what they are. Throws a `Problem` where a table has neither file nor rows.
 */
export function wholeBundle(
  report: Report,
  tables: ReadonlyMap<string, Table>,
  files: ReadonlyMap<string, Uint8Array>,
): Uint8Array {
  const all = new Map(files);
  const entries = report.tables.map((entry) => {
    const table = tables.get(entry.id);
    if (!table || filesOf(entry).every((file) => files.has(file))) return entry;
    const file = `${entry.id}.csv`;
    all.set(file, new TextEncoder().encode(tableCsv(table)));
    return entryOfRows(entry, table, file);
  });
  return writeBundle({ ...report, tables: entries }, all);
}

/** What a report says of a table that is read from its own rows: how its first file was read does not matter any more. */
export function entryOfRows(
  { source: _, leaveOut: __, long: ___, columns = [], ...entry }: TableEntry,
  table: Table,
  file: string,
): TableEntry {
  const known = new Map(columns.map((column) => [column.header ?? column.name, column]));
  return {
    ...entry,
    source: { file },
    date: known.get(table.date ?? '')?.name ?? table.date,
    ...(table.grain ? { grain: table.grain } : {}),
    columns: [
      ...table.columns.map((column) => {
        const { name = column.name, header, order, orderBy } = known.get(column.name) ?? {};
        const read = column.kind === 'date' && column.written ? { read: column.read } : {};
        return {
          name,
          ...(header === undefined ? {} : { header }),
          type: column.kind,
          ...read,
          ...(order ? { order } : {}),
          ...(orderBy ? { orderBy } : {}),
        };
      }),
      // Of columns that are computed or looked up.
      ...columns.filter(({ name, header = name }) => !table.columns.some((column) => column.name === header)),
    ],
  };
}
