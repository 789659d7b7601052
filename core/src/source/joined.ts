import { NO_DAY } from '../calendar';
import { listed, Problem } from '../problem';
import { power, total } from '../number';
import {
  asWhole,
  codedField,
  codesFor,
  columnOf,
  once,
  unknownColumn,
  type Column,
  type Joined,
  type JoinedName,
  type Joining,
  type KeysNotFound,
  type NumberColumn,
  type Table,
} from '../table';

/** Keys that are told by name. */
const TOLD_KEYS = 200;
const NOT_FOUND = -1;

/** A lookup that is followed: which row of the other table each row finds. */
interface Followed {
  /** A row of the other table for each row, or −1. */
  readonly found: () => Int32Array;
  /** Keys that stand several times in the other table, with their lines. */
  readonly twice: readonly { readonly key: string; readonly rows: number }[];
  /** For a lookup by one column without days: the row for each code of that column. */
  readonly byCode: { readonly codes: ArrayLike<number>; readonly rows: Int32Array } | null;
}

/** How a key's parts stand in a sentence. */
const keyText = (parts: readonly string[]) => parts.map((part) => (part === '' ? 'blank' : part)).join(' · ');

function keyColumns(table: Table, names: readonly string[]): Column[] {
  return names.map((name) => {
    const column = columnOf(table, name);
    if (column) return column;
    throw unknownColumn(
      name,
      table.columns.map((one) => one.name),
      table.id,
    );
  });
}

/** Finds for each row the row of the other table. */
function follow(table: Table, other: Table, { columns, on, since }: Joining): Followed {
  const here = keyColumns(table, columns);
  const there = keyColumns(other, on);
  if (here.length !== there.length)
    throw new Problem(
      'lookup-keys',
      `the lookup in “${other.id}” has ${here.length} columns here and ${there.length} there`,
      { in: `table “${table.id}”` },
      '“columns” and “on” name as many columns, in the same order',
    );
  const days = since === undefined ? null : keyColumns(other, [since])[0]!;
  if (days && days.kind !== 'date')
    throw new Problem(
      'not-a-date',
      `“${since}” does not hold the days from which a row is valid`,
      { in: `table “${other.id}”` },
      'name a column of dates in “since”',
    );
  const ownDays = table.date === null ? undefined : columnOf(table, table.date);
  if (days && ownDays?.kind !== 'date')
    throw new Problem(
      'no-dates',
      `rows of “${table.id}” have no date, so nobody can say which row of “${other.id}” is valid for them`,
      { in: `table “${table.id}”` },
      'choose its date column, or leave “since” out',
    );

  // Each part of a key is a code here, and is looked up there by its text.
  const parts = here.map((column, i) => {
    const to = codedField(there[i]!);
    const from = codedField(column);
    const isMixed = column.kind !== there[i]!.kind;
    const text = (written: string) => (isMixed ? asWhole(written) : written);
    const codeOf = new Map<string, number>();
    to.members.forEach((member, code) => {
      if (code > 0 && !codeOf.has(text(member))) codeOf.set(text(member), code);
    });
    const same = Int32Array.from(to.members, (member, code) => (code === 0 ? 0 : codeOf.get(text(member))!));
    return {
      there: to.codes,
      members: to.members,
      same,
      size: to.members.length,
      here: from.codes,
      to: Int32Array.from(from.members, (member, code) => (code === 0 ? 0 : (codeOf.get(text(member)) ?? 0))),
    };
  });
  // Keys of several parts are numbered as they come, part by part, so that no number grows too large.
  const numbers = parts.map(() => new Map<number, number>());
  const numbered = (codeOf: (part: (typeof parts)[number]) => number, isNew: boolean): number => {
    let key = 0;
    for (let i = 0; i < parts.length; i++) {
      const part = parts[i]!;
      const code = codeOf(part);
      if (code === 0) return NOT_FOUND;
      if (i === 0) {
        key = code;
        continue;
      }
      const pair = key * part.size + code;
      const known = numbers[i]!.get(pair);
      if (known === undefined && !isNew) return NOT_FOUND;
      key = known ?? numbers[i]!.size;
      if (known === undefined) numbers[i]!.set(pair, key);
    }
    return key;
  };
  const rowsOf = new Map<number, number[]>();
  for (let row = 0; row < other.rows; row++) {
    const key = numbered((part) => part.same[part.there[row]!]!, true);
    if (key === NOT_FOUND) continue;
    const known = rowsOf.get(key);
    if (known) known.push(row);
    else rowsOf.set(key, [row]);
  }
  const dayOf = (row: number) => (days as Extract<Column, { kind: 'date' }>).days[row]!;
  const twice: { key: string; rows: number }[] = [];
  for (const rows of rowsOf.values()) {
    if (days) rows.sort((a, b) => dayOf(a) - dayOf(b) || a - b);
    const again = days ? rows.filter((row, i) => i > 0 && dayOf(rows[i - 1]!) === dayOf(row)).length : rows.length - 1;
    if (again > 0)
      twice.push({ key: keyText(parts.map((part) => part.members[part.there[rows[0]!]!]!)), rows: again + 1 });
  }
  const only = parts.length === 1 && !days ? parts[0]! : null;
  const byCode = only && {
    codes: only.here,
    rows: Int32Array.from(only.to, (code) => (code === 0 ? NOT_FOUND : (rowsOf.get(code)?.[0] ?? NOT_FOUND))),
  };
  const found = once(() => {
    const rows = new Int32Array(table.rows);
    if (byCode) {
      for (let row = 0; row < rows.length; row++) rows[row] = byCode.rows[byCode.codes[row]!]!;
      return rows;
    }
    for (let row = 0; row < rows.length; row++) {
      const candidates = rowsOf.get(numbered((part) => part.to[part.here[row]!]!, false));
      rows[row] = !candidates
        ? NOT_FOUND
        : days
          ? latest(candidates, dayOf, (ownDays as Extract<Column, { kind: 'date' }>).days[row]!)
          : candidates[0]!;
    }
    return rows;
  });
  return { found, twice, byCode };
}

/** The last of some rows in order of their days whose day is not after another; −1 where all are, or there is no day. */
function latest(rows: readonly number[], dayOf: (row: number) => number, day: number): number {
  if (day === NO_DAY) return NOT_FOUND;
  let [low, high] = [0, rows.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (dayOf(rows[middle]!) > day) high = middle;
    else low = middle + 1;
  }
  return low === 0 ? NOT_FOUND : rows[low - 1]!;
}

/** A column of the other table for the rows of this one. Its values are brought over when something reads them. */
function broughtOver(
  name: string,
  of: Column,
  { found, byCode }: Followed,
  rows: number,
  convention: string,
  refuse: () => void,
): Column {
  /** One value for each row: from the code of its key where that is enough. */
  function values<T extends { [row: number]: number; readonly length: number }>(
    into: T,
    at: ArrayLike<number>,
    missing: number,
  ): T {
    refuse();
    if (byCode) {
      const perCode = Array.from(byCode.rows, (row) => (row < 0 ? missing : at[row]!));
      for (let row = 0; row < into.length; row++) into[row] = perCode[byCode.codes[row]!]!;
    } else {
      const from = found();
      for (let row = 0; row < into.length; row++) into[row] = from[row]! < 0 ? missing : at[from[row]!]!;
    }
    return into;
  }
  const blanks = (all: ArrayLike<number>, isBlank: (value: number) => boolean) => {
    let count = 0;
    for (let row = 0; row < all.length; row++) if (isBlank(all[row]!)) count++;
    return count;
  };
  const base = { name, convention };
  switch (of.kind) {
    case 'text':
    case 'yesno': {
      const codes = once(() =>
        values(of.kind === 'yesno' ? new Uint8Array(rows) : codesFor(of.members.length, rows), of.codes, 0),
      );
      const blank = once(() => blanks(codes(), (code) => code === 0));
      return {
        ...base,
        kind: of.kind,
        members: of.members,
        get codes() {
          return codes();
        },
        get blank() {
          return blank();
        },
      } as Column;
    }
    case 'date': {
      const days = once(() => values(new Int32Array(rows), of.days, NO_DAY));
      const written = of.written && once(() => values(new Int32Array(rows), of.written!, NO_DAY));
      const blank = once(() => blanks(days(), (day) => day === NO_DAY));
      return {
        ...base,
        kind: 'date',
        grain: of.grain,
        read: of.read,
        ...(written
          ? {
              get written() {
                return written();
              },
            }
          : {}),
        get days() {
          return days();
        },
        get blank() {
          return blank();
        },
      };
    }
    case 'number': {
      const { decimals, isTooLarge } = exactness(of, rows);
      const scale = decimals === of.decimals ? 1 : power(of.decimals ?? 0);
      const numbers = once(() => {
        const all = values(new Float64Array(rows), of.values, NaN);
        if (scale !== 1) for (let row = 0; row < rows; row++) all[row] = all[row]! / scale;
        return all;
      });
      const blank = once(() => blanks(numbers(), Number.isNaN));
      return {
        ...base,
        kind: 'number',
        decimals,
        ...(of.unit === undefined ? {} : { unit: of.unit }),
        ...(isTooLarge ? { tooLarge: true as const } : {}),
        get values() {
          return numbers();
        },
        get blank() {
          return blank();
        },
      };
    }
  }
}

/** A number that stands in so many rows may be too large to be added up to the last digit. */
function exactness({ values, decimals, tooLarge }: NumberColumn, rows: number) {
  if (decimals === null) return { decimals, isTooLarge: tooLarge === true };
  const most = values.reduce((most, value) => (Math.abs(value) > most ? Math.abs(value) : most), 0);
  const isTooLarge = most * rows > Number.MAX_SAFE_INTEGER;
  return { decimals: isTooLarge ? null : decimals, isTooLarge };
}

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
  const sums = (some: readonly number[]) =>
    Object.fromEntries(
      table.columns.flatMap((column) => {
        if (column.kind !== 'number') return [];
        const values = Float64Array.from(some, (row) => column.values[row]!);
        const { decimals } = column;
        const sum = decimals === null ? total(values, null) : total(values, 0) / power(decimals);
        return Number.isNaN(sum) ? [] : [[column.name, sum] as const];
      }),
    );
  return {
    rows: rows.length,
    sums: sums(rows),
    keys: keys.size,
    first: [...keys]
      .sort(([, a], [, b]) => b.length - a.length)
      .slice(0, TOLD_KEYS)
      .map(([key, some]) => ({ key, rows: some.length, sums: sums(some) })),
  };
}

/**
 * The table with the columns of its lookups: each row finds at most one row of the other table, so that nothing is multiplied. A
 * column is named as it is where no other is called so, else behind its table's name; `products.family` always finds it.
 * @param tableOf the other tables, with their own lookups
 * @throws {Problem} for columns and tables that are not there. Keys that stand twice are a problem of whoever reads a column.
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
    const refuse = () => {
      if (followed.twice.length > 0) throw keysTwice(table.id, joining, followed.twice);
    };
    for (const column of columns) {
      const name = times.get(column.name) === 1 ? column.name : `${prefix}.${column.name}`;
      const made = broughtOver(
        name,
        column,
        followed,
        table.rows,
        `${column.name} of ${joining.to}, looked up by ${listed(joining.columns, 'and')}`,
        refuse,
      );
      all.push(made);
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
      notFound: once(() => notFound(table, joining.columns, followed.found())),
    });
  }
  return { ...table, columns: all, aliases, joined, orders: { ...orders, ...table.orders } };
}

function keysTwice(table: string, { to, on, since }: Joining, twice: Joined['twice']): Problem {
  const named = twice.slice(0, 5).map(({ key, rows }) => `“${key}” in ${rows} rows`);
  const more = twice.length - named.length;
  return new Problem(
    'keys-twice',
    `“${to}” has more than one row for ${twice.length === 1 ? 'a key' : `${twice.length} keys`}: ${named.join(', ')}${more > 0 ? ` and ${more} more` : ''}`,
    { in: `lookup of “${table}” in “${to}” by ${listed(on, 'and')}` },
    since === undefined
      ? `leave one row for each in “${to}”, add a column that tells them apart, or say from which day each is valid (“since”)`
      : `leave one row for each key and day in “${to}”`,
  );
}
