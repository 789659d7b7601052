import type { Vocabulary } from '../brief';
import { DRAWN_FORMS } from '../figure';
import { columnarSource, withDerived, type Source } from '../query';
import { vocabularyOf, type Report, type TableEntry } from '../report';
import { decode, makeTable, readCsv, type ByteSource, type Table } from '../table';

/** A report with its tables, ready to answer briefs. */
export interface Workspace {
  readonly report: Report;
  readonly tables: ReadonlyMap<string, Table>;
  readonly vocabulary: Vocabulary;
  readonly source: Source;
}

/** Joins a report and its tables; derived columns are computed here. Throws a `Problem` for a wrong derived column. */
export function workspaceFor(report: Report, read: ReadonlyMap<string, Table>): Workspace {
  const tables = new Map(
    [...read].map(([id, table]) => [id, withDerived(table, report.tables.find((entry) => entry.id === id)?.derived)]),
  );
  return {
    report,
    tables,
    vocabulary: vocabularyOf(report, tables, DRAWN_FORMS),
    source: columnarSource(tables, report.calendar),
  };
}

/** How far a reading has come. */
export interface ReadingProgress {
  readonly bytes: number;
  readonly rows: number;
}

/** Reads a file of delimited text into the typed table a report's entry describes. */
export async function readTable(
  entry: TableEntry,
  bytes: ByteSource,
  onProgress: (progress: ReadingProgress) => void = () => {},
): Promise<Table> {
  let read = 0;
  const text = decode(bytes, (count) => (read = count));
  const raw = await readCsv(entry.source.file, text, entry.columns, (rows) => onProgress({ bytes: read, rows }));
  return makeTable(raw, entry);
}
