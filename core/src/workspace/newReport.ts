import { isInDatabase, likelyMain, type KnownTable, type Report } from '../report';
import type { Table } from '../table';
import { bareReport } from './bare';

/** A report with the tables it was read with. */
export interface NewReport {
  readonly report: Report;
  readonly tables: ReadonlyMap<string, Table>;
}

/**
 * A report to be kept with its tables.
 * @param given null makes a report for the tables
 * @param known every table that was read, with what the report says of it from now on
 */
export function newReport(given: Report | null, known: readonly KnownTable[]): NewReport {
  if (!given) {
    const sorted = likelyMain(known);
    return {
      report: bareReport(sorted[0]!.entry.id, sorted),
      tables: new Map(sorted.map(({ entry, table }) => [entry.id, table])),
    };
  }
  const read = new Map(known.map((one) => [one.entry.id, one]));
  return {
    // Rows in a database stay there.
    report: {
      ...given,
      tables: given.tables.map((entry) => (isInDatabase(entry) ? entry : read.get(entry.id)!.entry)),
    },
    tables: new Map(known.map(({ entry, table }) => [entry.id, table])),
  };
}
