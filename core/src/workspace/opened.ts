import { openedSource, type Workspace } from '../query';
import { vocabularyOf, type Report, type TableEntry } from '../report';
import { columnarSource, type ScanHelper } from '../source';
import type { Table } from '../table';

/** A report with its tables, ready to answer. */
export interface OpenReport extends Workspace {
  readonly tables: ReadonlyMap<string, Table>;
}

/** Columns of dates of which the report says how they are read. */
export const settledIn = (entry: TableEntry | undefined): ReadonlyMap<string, string> =>
  new Map(entry?.columns?.flatMap(({ name, read }) => (read === undefined ? [] : [[name, read]])));

/** A report with its tables as it describes them. */
export function opened(
  report: Report,
  tables: ReadonlyMap<string, Table>,
  helpers?: readonly ScanHelper[],
): OpenReport {
  const source = columnarSource(tables, report.calendar, helpers);
  return {
    report,
    tables,
    vocabulary: vocabularyOf(report, source.factsAt),
    source: openedSource(source, source.factsAt),
  };
}
