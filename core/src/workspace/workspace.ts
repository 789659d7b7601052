import type { Vocabulary } from '../brief';
import { DRAWN_FORMS } from '../figure';
import { columnarSource, withDerived, type Source } from '../query';
import { vocabularyOf, type Report, type TableEntry } from '../report';
import { readFile, type SourceFile } from '../reading';
import { makeTable, type Table } from '../table';

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
