import { readBrief } from '../brief';
import { numbersOf } from '../figure';
import { answerBrief } from '../query';
import { readCsv } from '../reading';
import { checkReport, type Report } from '../report';
import { cellText, columnOf, makeTable, type Table } from '../table';
import { workspaceFor, type OpenReport } from '.';

// A report over tables of a few lines, and what can be read of it.

const REPORT = { boldRuler: 1, name: 'r', measures: [{ name: 'net', table: 'orders', expression: 'sum(net)' }] };

/** Opens a report whose tables are these lines. */
export async function open(
  files: Readonly<Record<string, readonly string[]>>,
  tables: object[],
  more = {},
): Promise<OpenReport> {
  const report: Report = checkReport({
    ...REPORT,
    tables: tables.map((one) => ({ source: { file: `${(one as { id: string }).id}.csv` }, ...one })),
    ...more,
  });
  const read = new Map<string, Table>();
  for (const entry of report.tables)
    read.set(entry.id, makeTable(await readCsv(entry.id, files[entry.id]!.join('\n')), entry));
  return workspaceFor(report, read);
}

/** The cells of a column, blank as ''. */
export const cells = ({ tables }: OpenReport, table: string, column: string): string[] => {
  const made = tables.get(table)!;
  const found = columnOf(made, column)!;
  return Array.from({ length: made.rows }, (_, row) => cellText(found, row));
};
/** The rows of a brief: members, then the actual. */
export const rowsOf = async (desk: OpenReport, brief: string) =>
  numbersOf(await answerBrief(desk, readBrief(brief, desk.vocabulary))).rows.map(({ key, actual }) => [
    ...Object.values(key),
    actual,
  ]);
