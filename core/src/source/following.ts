import { NO_DAY } from '../calendar';
import { Problem } from '../problem';
import {
  asWhole,
  codedField,
  columnOf,
  once,
  unknownColumn,
  type Column,
  type Joined,
  type Joining,
  type Table,
} from '../table';

/** Stands for a row that finds none. */
const NOT_FOUND = -1;

/** A lookup that is followed: which row of the other table each row finds. */
export interface Followed {
  /** A row of the other table for each row, or −1. */
  readonly found: () => Int32Array;
  /** Keys that stand several times in the other table. */
  readonly twice: Joined['twice'];
  /** Rows are valid from a day on there, and those here have none: nothing is found. */
  readonly undated: boolean;
  /** For a lookup by one column without days: the row for each code of that column. */
  readonly byCode: { readonly codes: ArrayLike<number>; readonly rows: Int32Array } | null;
}

/** How a key's parts stand in a sentence. */
export const keyText = (parts: readonly string[]) => parts.map((part) => (part === '' ? 'blank' : part)).join(' · ');

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

/**
 * Finds for each row the row of the other table whose key it holds: with `since`, of several the latest that is not after its day.
 * @throws {Problem} where a column is not there
 */
export function follow(table: Table, other: Table, { columns, on, since }: Joining): Followed {
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
  const own = table.date === null ? undefined : columnOf(table, table.date);
  const ownDays = own?.kind === 'date' ? own : null;
  const undated = days !== null && ownDays === null;

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
    if (undated) return rows.fill(NOT_FOUND);
    if (byCode) {
      for (let row = 0; row < rows.length; row++) rows[row] = byCode.rows[byCode.codes[row]!]!;
      return rows;
    }
    for (let row = 0; row < rows.length; row++) {
      const candidates = rowsOf.get(numbered((part) => part.to[part.here[row]!]!, false));
      rows[row] = !candidates ? NOT_FOUND : days ? latest(candidates, dayOf, ownDays!.days[row]!) : candidates[0]!;
    }
    return rows;
  });
  return { found, twice, undated, byCode };
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
