import { columnsOf, readExpression } from '../measure';
import { columnOf, once, type Column, type Table } from '../table';
import { broughtOver } from './broughtOver';
import { withDerived } from './derived';
import { follow, type Followed } from './following';
import { refuseLookup } from './refuseLookup';

/** The tables that are looked up in, with their own lookups. */
type TableOf = (id: string) => Table;

/** A name that no file gives a column. */
const DAY = '\u0000day';

/** Whether an expression reads one of some columns; one that cannot be read is told where it is computed. */
function reads(expression: string, names: ReadonlySet<string>, aliases: Table['aliases']): boolean {
  return columnsOf(readExpression(expression)).some((name) => names.has(name) || names.has(aliases?.get(name) ?? ''));
}

/**
 * Columns of a table that hang on a day: those of its lookups that are valid from a day on, through further tables too, and those
 * computed from them.
 */
export function datedColumns(table: Table, tableOf: TableOf): ReadonlySet<string> {
  const dated = new Set<string>();
  for (const { to, since, names } of table.joined ?? []) {
    const there = since === undefined ? datedColumns(tableOf(to), tableOf) : null;
    for (const { name, of } of names) if (!there || there.has(of)) dated.add(name);
  }
  for (const { name, expression } of table.derived ?? []) {
    if (reads(expression, dated, table.aliases)) dated.add(name);
    // A computed column may stand in the place of one that was looked up.
    else dated.delete(name);
  }
  return dated;
}

/**
 * Another table as some rows see it that look up in it: one row for each of theirs, with their day, so that whatever it looks up itself
 * is what was valid on that day.
 * @param followed which row of the other table each row finds
 * @param refuse throws where nothing can be looked up
 */
export function seenFrom(rows: Table, other: Table, followed: Followed, refuse: () => void, tableOf: TableOf): Table {
  const dated = datedColumns(other, tableOf);
  const day = rows.date === null ? undefined : columnOf(rows, rows.date);
  const columns: Column[] = other.columns
    .filter(({ name }) => !dated.has(name))
    .map((column) => broughtOver(column.name, column, followed, rows.rows, column.convention, refuse));
  if (day?.kind === 'date') columns.push(called(DAY, day, day.convention));
  const seen: Table = {
    ...other,
    rows: rows.rows,
    columns,
    date: day?.kind === 'date' ? DAY : null,
    joined: [],
    derived: [],
  };
  for (const joining of other.joined ?? []) {
    const names = joining.names.filter(({ name }) => dated.has(name));
    if (names.length === 0) continue;
    const further = tableOf(joining.to);
    const found = followedLater(() => follow(seen, further, joining));
    const left = datedColumns(further, tableOf);
    const refuseFurther = () => refuseLookup(found.undated ? rows.id : other.id, joining, found);
    const beyond = left.size === 0 ? null : seenFrom(seen, further, found, refuseFurther, tableOf);
    for (const { name, of } of names) {
      const column = columnOf(further, of)!;
      columns.push(
        beyond && left.has(of)
          ? called(name, columnOf(beyond, of)!, column.convention)
          : broughtOver(name, column, found, rows.rows, column.convention, refuseFurther),
      );
    }
  }
  return withDerived(
    seen,
    (other.derived ?? []).filter(({ name }) => dated.has(name)),
  );
}

/** A lookup that is followed when something asks what it finds. */
function followedLater(follow: () => Followed): Followed {
  const followed = once(follow);
  return {
    found: () => followed().found(),
    get twice() {
      return followed().twice;
    },
    get undated() {
      return followed().undated;
    },
    byCode: null,
  };
}

/** A column under another name; nothing of it is computed before something reads it. */
export function called(name: string, column: Column, convention: string): Column {
  const renamed: Record<string, unknown> = { name, convention };
  for (const key of Object.keys(column) as (keyof Column)[])
    if (!Object.hasOwn(renamed, key)) Object.defineProperty(renamed, key, { enumerable: true, get: () => column[key] });
  return renamed as unknown as Column;
}
