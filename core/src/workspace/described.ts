import type { FiscalCalendar } from '../calendar';
import { didYouMean, Problem } from '../problem';
import type { Report, TableEntry } from '../report';
import { withDerived, withLookups } from '../source';
import { makeTable, withHeaders, withOrders, withPeriods, withSame, type Table } from '../table';
import { settledIn } from './opened';

interface Described {
  readonly key: string;
  /** The tables whose columns are looked up, as they were. */
  readonly others: readonly Table[];
  readonly table: Table;
}

const described = new WeakMap<Table, Described>();

/**
 * A table with what its entry says: names read as others, date column, grain, orders of members, columns looked up in other tables,
 * derived columns; its quarters and years are those of the calendar. Kept while all of it is the same.
 * @param tableOf the other tables as their entries describe them
 */
function tableAs(
  read: Table,
  entry: TableEntry | undefined,
  calendar: FiscalCalendar,
  tableOf: (id: string) => Table | null,
): Table {
  const key = JSON.stringify([
    entry,
    calendar.fiscalYearStart,
    calendar.fiscalYearNamed,
    calendar.weeks,
    calendar.months,
  ]);
  // Where the rows of a lookup are not kept any more, its columns are not there; everything else is.
  const joins = (entry?.joins ?? []).filter(({ to }) => tableOf(to) !== null);
  const others = joins.map(({ to }) => tableOf(to)!);
  const known = described.get(read);
  if (
    known?.key === key &&
    known.others.length === others.length &&
    known.others.every((other, i) => other === others[i])
  )
    return known.table;
  const { columns = [], derived } = entry ?? {};
  const called = withHeaders(read, columns);
  const own = new Set(called.columns.map(({ name }) => name));
  const made = entry ? makeTable(withSame(called, entry.same), entry) : read;
  const later = (derived ?? []).map(({ name }) => name);
  const looked = withLookups(withPeriods(made, calendar, settledIn(entry)), joins, (id) => tableOf(id)!, later);
  const table = withOrders(
    withDerived(looked, derived),
    columns.filter(({ name, out }) => !out && !own.has(name)),
  );
  described.set(read, { key, others, table });
  return table;
}

/**
 * The tables of a report, each with the columns of those it looks up.
 * @throws {Problem} for a lookup in a table that is not there, or in one that looks up, through others, in the table itself
 */
export function tablesAs(report: Report, read: ReadonlyMap<string, Table>): Map<string, Table> {
  const made = new Map<string, Table>();
  const entryOf = (id: string) => report.tables.find((entry) => entry.id === id);
  const tableOf = (id: string, path: readonly string[]): Table | null => {
    const known = made.get(id);
    if (known) return known;
    const { calendar } = report;
    const looking = path.at(-1);
    if (path.includes(id))
      throw new Problem(
        'lookup-ring',
        `“${id}” looks itself up: ${[...path.slice(path.indexOf(id)), id].map((one) => `“${one}”`).join(' → ')}`,
        { in: 'tables' },
        'take one of these lookups away',
      );
    const rows = read.get(id);
    if (!rows && entryOf(id)) return null;
    if (!rows)
      throw new Problem(
        'unknown-table',
        `there is no table “${id}” to look up in`,
        { in: looking === undefined ? 'tables' : `table “${looking}”` },
        didYouMean(id, [...read.keys()], 'table'),
      );
    const table = tableAs(rows, entryOf(id), calendar, (to) => tableOf(to, [...path, id]));
    made.set(id, table);
    return table;
  };
  return new Map([...read.keys()].map((id) => [id, tableOf(id, [])!]));
}
