import type { FiscalCalendar } from '../calendar';
import { sqlSource, tableInSql, type Database, type ScanHelper } from '../source';
import { isInDatabase, notReached, type Report, type TableEntry } from '../report';
import type { SourceFile } from '../reading';
import { tablesAs } from './described';
import { opened, type OpenReport } from './opened';
import { workspaceOver, type Elsewhere } from './elsewhere';
import { readTable } from './readTable';
import { ratesIn, type Table } from '../table';

/**
 * Joins a report and its tables as they were read.
 * @param helpers other threads that scan tables whose columns they share
 * @throws {Problem} for a wrong derived column, a lookup that cannot be followed, or an entry that its table does not fit
 */
export function workspaceFor(
  report: Report,
  read: ReadonlyMap<string, Table>,
  helpers?: readonly ScanHelper[],
): OpenReport {
  return opened(report, tablesAs(report, read), helpers);
}

/**
 * Opens a report whose tables are files, or stay in databases.
 * @param fileOf the file of a table, or the files that are one table; throws a `Problem` where it is not there
 * @param databaseOf a database by its name; left out where none can be reached
 */
export async function openReportWith(
  report: Report,
  fileOf: (entry: TableEntry) => SourceFile | readonly SourceFile[],
  databaseOf: (name: string) => Database | Promise<Database> = notReached,
): Promise<OpenReport> {
  const tables = new Map<string, Table>();
  const elsewhere = report.tables.filter(isInDatabase);
  // What is in databases is looked at before files are read: that takes longer.
  const there = elsewhere.length === 0 ? null : await elsewhereIn(elsewhere, report.calendar, databaseOf);
  for (const entry of report.tables)
    if (!isInDatabase(entry)) tables.set(entry.id, await readTable(entry, fileOf(entry)));
  return there ? workspaceOver(report, tables, there) : workspaceFor(report, tables);
}

/** Looks at tables in databases. Throws a `Problem` where one is not as the report says. */
export async function elsewhereIn(
  entries: readonly TableEntry[],
  calendar: FiscalCalendar,
  databaseOf: (name: string) => Database | Promise<Database>,
): Promise<Elsewhere> {
  const tables = await Promise.all(
    entries.map(async (entry) => tableInSql(entry, await databaseOf(entry.source.database!), calendar)),
  );
  const source = sqlSource(new Map(tables.map((one) => [one.id, one])), calendar);
  const facts = new Map(await source.facts());
  // Rates are few, and are looked up for the rows of any table: they are read here.
  for (const { id, rates } of entries) {
    const known = facts.get(id);
    if (!rates || !known) continue;
    const rows = await source.extract({
      table: id,
      columns: [rates.currency, rates.rate, ...(known.date === null ? [] : [known.date])],
      span: null,
    });
    const table = { ...rows, date: known.date, grain: known.grain };
    facts.set(id, { ...known, rates: ratesIn(table, rates, known.periods) });
  }
  return { source, facts };
}
