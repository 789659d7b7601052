import type { CarriedNames } from '../handover';
import type { Report } from '../report';
import { makeTable, type Table } from '../table';
import { opened, type OpenReport } from './opened';

/**
 * A report with tables that are as it describes them but for the order of members, as a page's file carries them: whatever was looked
 * up, computed or read as something else stands in their columns, and dates lie where the report's calendar has them.
 */
export function carriedWorkspace(report: Report, carried: ReadonlyMap<string, Table>, names: CarriedNames): OpenReport {
  const tables = new Map(
    [...carried].map(([id, table]) => {
      const entry = report.tables.find((one) => one.id === id);
      return [id, entry ? makeTable(table, entry) : table];
    }),
  );
  const open = opened(report, tables);
  const { vocabulary } = open;
  const both = (here: readonly string[], own: readonly string[] = []) => [...new Set([...here, ...own])];
  return {
    ...open,
    vocabulary: {
      ...vocabulary,
      fields: both(names.fields, vocabulary.fields),
      numbers: both(names.numbers, vocabulary.numbers),
      members: (field) => (Object.hasOwn(names.members, field) ? names.members[field]! : vocabulary.members(field)),
    },
  };
}
