import { openedSource } from '../query';
import { columnarSource } from '../source';
import { vocabularyOf, type Report } from '../report';
import { makeTable, withPeriods, type Table } from '../table';
import type { OpenReport } from './workspace';

/**
 * A report with tables that are as it describes them but for dates and orders, as a page's file carries them: whatever was looked up,
 * computed or read as something else stands in their columns.
 */
export function carriedWorkspace(report: Report, carried: ReadonlyMap<string, Table>): OpenReport {
  const { calendar } = report;
  const tables = new Map(
    [...carried].map(([id, table]) => {
      const entry = report.tables.find((one) => one.id === id);
      const settled = new Map(
        entry?.columns?.flatMap(({ name, read }) => (read === undefined ? [] : [[name, read] as const])),
      );
      return [id, withPeriods(entry ? makeTable(table, entry) : table, calendar, settled)];
    }),
  );
  const source = columnarSource(tables, calendar);
  return {
    report,
    tables,
    vocabulary: vocabularyOf(report, source.factsAt),
    source: openedSource(source, source.factsAt),
  };
}
