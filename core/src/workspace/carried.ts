import type { Report } from '../report';
import { makeTable, withPeriods, type Table } from '../table';
import { opened, settledIn, type OpenReport } from './opened';

/**
 * A report with tables that are as it describes them but for dates and orders, as a page's file carries them: whatever was looked up,
 * computed or read as something else stands in their columns.
 */
export function carriedWorkspace(report: Report, carried: ReadonlyMap<string, Table>): OpenReport {
  const tables = new Map(
    [...carried].map(([id, table]) => {
      const entry = report.tables.find((one) => one.id === id);
      return [id, withPeriods(entry ? makeTable(table, entry) : table, report.calendar, settledIn(entry))];
    }),
  );
  return opened(report, tables);
}
