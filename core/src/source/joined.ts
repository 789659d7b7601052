import { listed } from '../problem';
import {
  codedField,
  columnOf,
  once,
  sumsOf,
  type Column,
  type Joined,
  type JoinedName,
  type Joining,
  type KeysNotFound,
  type Table,
} from '../table';
import { broughtOver } from './broughtOver';
import { called, datedColumns, seenFrom } from './dated';
import { follow, keyText } from './following';
import { refuseLookup } from './refuseLookup';

/** Keys that are told by name. */
const TOLD_KEYS = 200;

/** What rows hold that find nothing, by key; a key that is blank is none. */
function notFound(table: Table, columns: readonly string[], found: Int32Array): KeysNotFound | null {
  const coded = columns.map((name) => codedField(columnOf(table, name)!));
  const keys = new Map<string, number[]>();
  const rows: number[] = [];
  for (let row = 0; row < found.length; row++) {
    if (found[row]! >= 0) continue;
    rows.push(row);
    const key = keyText(coded.map(({ codes, members }) => members[codes[row]!]!));
    const known = keys.get(key);
    if (known) known.push(row);
    else keys.set(key, [row]);
  }
  if (rows.length === 0) return null;
  return {
    rows: rows.length,
    sums: sumsOf(table.columns, rows),
    keys: keys.size,
    first: [...keys]
      .sort(([, a], [, b]) => b.length - a.length)
      .slice(0, TOLD_KEYS)
      .map(([key, some]) => ({ key, rows: some.length, sums: sumsOf(table.columns, some) })),
  };
}

/**
 * The table with the columns of its lookups: each row finds at most one row of the other table, so that nothing is multiplied. A
 * column is named as it is where no other is called so, else behind its table's name; `products.family` always finds it.
 * @param laterNames names of columns that the table is yet to get
 * @param tableOf the other tables, with their own lookups
 * @throws {Problem} for columns and tables that are not there. Keys that stand twice, and rows without the day by which one would be
 *   valid, are a problem of whoever reads a column.
 */
export function withLookups(
  table: Table,
  joins: readonly Joining[] = [],
  tableOf: (id: string) => Table,
  laterNames: readonly string[] = [],
): Table {
  if (joins.length === 0) return table;
  const brought = joins.map((joining) => {
    const other = tableOf(joining.to);
    const left = new Set([...joining.on, joining.since]);
    return { joining, other, columns: other.columns.filter(({ name }) => !left.has(name)) };
  });
  const times = new Map<string, number>();
  for (const name of [
    ...table.columns.map((column) => column.name),
    ...laterNames,
    ...brought.flatMap(({ columns }) => columns.map((column) => column.name)),
  ])
    times.set(name, (times.get(name) ?? 0) + 1);
  const isJoinedTwice = (id: string) => joins.filter(({ to }) => to === id).length > 1;
  const aliases = new Map<string, string>(table.aliases);
  const orders: Record<string, readonly string[]> = {};
  const all: Column[] = [...table.columns];
  const joined: Joined[] = [];
  for (const { joining, other, columns } of brought) {
    const prefix = isJoinedTwice(joining.to) ? joining.columns.join(' ') : joining.to;
    const followed = follow(table, other, joining);
    const names: JoinedName[] = [];
    const refuse = () => refuseLookup(table.id, joining, followed);
    const dayed = datedColumns(other, tableOf);
    // What is valid from a day on is looked up by the day of these rows, over however many tables.
    const seen = once(() => seenFrom(table, other, followed, refuse, tableOf));
    for (const column of columns) {
      const name = times.get(column.name) === 1 ? column.name : `${prefix}.${column.name}`;
      const convention = `${column.name} of ${joining.to}, looked up by ${listed(joining.columns, 'and')}`;
      all.push(
        dayed.has(column.name)
          ? called(name, columnOf(seen(), column.name)!, convention)
          : broughtOver(name, column, followed, table.rows, convention, refuse),
      );
      names.push({ name, of: column.name });
      const order = Object.hasOwn(other.orders, column.name) ? other.orders[column.name] : undefined;
      if (order) orders[name] = order;
      if (name !== `${prefix}.${column.name}`) aliases.set(`${prefix}.${column.name}`, name);
      // What the other table has from further lookups is found behind those tables' names as well.
      for (const [alias, known] of other.aliases ?? [])
        if (known === column.name && !aliases.has(alias)) aliases.set(alias, name);
    }
    joined.push({
      ...joining,
      names,
      twice: followed.twice,
      undated: followed.undated,
      notFound: once(() => notFound(table, joining.columns, followed.found())),
    });
  }
  return { ...table, columns: all, aliases, joined, orders: { ...orders, ...table.orders } };
}
