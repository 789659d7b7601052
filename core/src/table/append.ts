import { NO_DAY, type Day } from '../calendar';
import { EXACT_LIMIT, power, type Decimals } from '../number';
import { Problem } from '../problem';
import {
  codesFor,
  LEFT_OUT_KEPT,
  type Column,
  type LeftOutCount,
  type NumberColumn,
  type Told,
  type Table,
} from './column';
import { lineOf, partsLeft } from './lines';
import { severalUnits } from './rates';
import { columnAt } from './rowsAt';
import type { RawTable } from './table';

/** A column of blanks, of the kind of another. */
function blankLike(of: Column, rows: number): Column {
  switch (of.kind) {
    case 'text':
      return { ...of, members: [''], codes: new Uint8Array(rows), blank: rows };
    case 'yesno':
      return { ...of, codes: new Uint8Array(rows), blank: rows };
    case 'number':
      return { ...of, values: new Float64Array(rows).fill(NaN), decimals: 0, blank: rows };
    case 'date': {
      const { written, ...date } = of;
      const days = new Int32Array(rows).fill(NO_DAY);
      return { ...date, days, blank: rows, ...(written ? { written: days } : {}) };
    }
  }
}

function joinedNumbers(a: NumberColumn, b: NumberColumn): NumberColumn {
  let decimals: Decimals = a.decimals === null || b.decimals === null ? null : Math.max(a.decimals, b.decimals);
  const magnitude = [a, b].reduce(
    (sum, { values, decimals: own }) =>
      sum + values.reduce((all, value) => (Number.isNaN(value) ? all : all + Math.abs(value)), 0) / power(own ?? 0),
    0,
  );
  const tooLarge = decimals !== null && magnitude * power(decimals) >= EXACT_LIMIT;
  if (tooLarge) decimals = null;
  const values = new Float64Array(a.values.length + b.values.length);
  let at = 0;
  for (const { values: own, decimals: of } of [a, b]) {
    const factor = decimals === null ? 1 / power(of ?? 0) : power(decimals - (of ?? 0));
    for (let row = 0; row < own.length; row++)
      values[at++] = decimals === null ? own[row]! * factor : Math.round(own[row]! * factor);
  }
  const { unit: _, units: __, tooLarge: ___, ...base } = a;
  const unit =
    a.blank === a.values.length ? b.unit : b.blank === b.values.length || a.unit === b.unit ? a.unit : undefined;
  const several = severalUnits(new Set([a, b].flatMap((one) => one.units ?? one.unit ?? [])));
  return {
    ...base,
    values,
    decimals,
    blank: a.blank + b.blank,
    ...(unit === undefined ? {} : { unit }),
    ...(several ? { units: several } : {}),
    ...(tooLarge || a.tooLarge || b.tooLarge ? { tooLarge: true as const } : {}),
  };
}

/** Two columns of one name, one below the other. Throws a `Problem` where they hold other kinds of values. */
function joinedColumns(one: Column, other: Column, rows: readonly [number, number], file: string): Column {
  const isBlank = ({ blank }: Column, i: number) => blank === rows[i];
  const a = isBlank(one, 0) && one.kind !== other.kind ? blankLike({ ...other, name: one.name }, rows[0]!) : one;
  const b = isBlank(other, 1) && a.kind !== other.kind ? blankLike(a, rows[1]!) : other;
  const blank = a.blank + b.blank;
  if (a.kind === 'text' && b.kind === 'text') {
    const members = [...a.members];
    const codeOf = new Map(members.map((member, code) => [member, code]));
    const to = b.members.map((member) => {
      let code = codeOf.get(member);
      if (code === undefined) codeOf.set(member, (code = members.push(member) - 1));
      return code;
    });
    const codes = codesFor(members.length, rows[0]! + rows[1]!);
    codes.set(a.codes);
    for (let row = 0; row < rows[1]!; row++) codes[rows[0]! + row] = to[b.codes[row]!]!;
    return { ...a, members, codes, blank };
  }
  if (a.kind === 'yesno' && b.kind === 'yesno') {
    const codes = new Uint8Array(rows[0]! + rows[1]!);
    codes.set(a.codes);
    codes.set(b.codes, rows[0]!);
    return { ...a, codes, blank };
  }
  if (a.kind === 'number' && b.kind === 'number') return joinedNumbers(a, b);
  if (a.kind === 'date' && b.kind === 'date') {
    const join = (x: Int32Array, y: Int32Array) => {
      const days = new Int32Array(x.length + y.length);
      days.set(x);
      days.set(y, x.length);
      return days;
    };
    const written = a.written || b.written ? { written: join(a.written ?? a.days, b.written ?? b.days) } : {};
    return { ...a, days: join(a.days, b.days), blank, grain: a.grain === b.grain ? a.grain : 'day', ...written };
  }
  throw new Problem(
    'kinds-differ',
    `column “${one.name}” holds ${KINDS[one.kind]} elsewhere and ${KINDS[other.kind]} here`,
    { in: file },
    'say in the report as what it is read, or mend the file',
  );
}

const KINDS = { text: 'text', number: 'numbers', date: 'dates', yesno: 'yes and no' } as const;

/** What is told of one kind is told once, with the first places of all. */
function joinedTold(one: readonly Told[], other: readonly Told[]): Told[] {
  const joined = one.map((told) => {
    const same = other.find(({ what }) => what === told.what);
    return same
      ? { ...told, count: told.count + same.count, first: [...told.first, ...same.first].slice(0, LEFT_OUT_KEPT) }
      : told;
  });
  return [...joined, ...other.filter(({ what }) => !one.some((told) => told.what === what))];
}

/**
 * Rows of one layout below one another. A column that one of them lacks is blank there.
 * @param files the names of both files, for what was left out and for problems
 * @throws {Problem} where they have no column in common, or a column holds other kinds of values
 */
export function appendRows(one: RawTable, other: RawTable, files: readonly [string, string]): RawTable {
  const names = new Set(one.columns.map(({ name }) => name));
  if (!other.columns.some(({ name }) => names.has(name)))
    throw new Problem(
      'other-layout',
      `it has none of the columns of ${files[0]}: ${[...names].slice(0, 6).join(', ')}`,
      { in: files[1] },
      'put files of one layout together only',
    );
  const rows = [one.rows, other.rows] as const;
  const columns = [
    ...one.columns.map((column) => {
      const same = other.columns.find(({ name }) => name === column.name) ?? blankLike(column, rows[1]);
      return joinedColumns(column, same, rows, files[1]);
    }),
    ...other.columns
      .filter(({ name }) => !names.has(name))
      .map((column) => joinedColumns(blankLike(column, rows[0]), column, rows, files[1])),
  ];
  const counts = new Map<string, LeftOutCount>();
  for (const { column, reason, count } of [...one.leftOutCounts, ...other.leftOutCounts]) {
    const key = JSON.stringify([column, reason]);
    const known = counts.get(key);
    if (known) known.count += count;
    else counts.set(key, { column, reason, count });
  }
  const partsOf = (table: RawTable, file: string) => table.parts ?? [{ file, rows: table.rows }];
  const leftOutOf = (table: RawTable, file: string) => table.leftOut.map((entry) => ({ file, ...entry }));
  const toldOf = ({ told = [] }: RawTable, file: string) =>
    told.map((one) => ({ ...one, first: one.first.map((place) => ({ file, ...place })) }));
  const lines = new Uint32Array(rows[0] + rows[1]);
  for (let row = 0; row < rows[0]; row++) lines[row] = lineOf(row, one);
  for (let row = 0; row < rows[1]; row++) lines[rows[0] + row] = lineOf(row, other);
  const told = joinedTold(toldOf(one, files[0]), toldOf(other, files[1]));
  return {
    ...one,
    rows: rows[0] + rows[1],
    columns,
    leftOut: [...leftOutOf(one, files[0]), ...leftOutOf(other, files[1])].slice(0, LEFT_OUT_KEPT),
    leftOutCounts: [...counts.values()],
    emptyLines: one.emptyLines + other.emptyLines,
    doubts: [
      ...one.doubts,
      ...other.doubts.filter(({ column }) => !one.doubts.some((doubt) => doubt.column === column)),
    ],
    ...(told.length > 0 ? { told } : {}),
    lines,
    parts: [...partsOf(one, files[0]), ...partsOf(other, files[1])],
    skipped: [],
    wide: null,
    marks: null,
  };
}

/** Days of which both of two tables have rows. */
export interface Overlap {
  readonly days: number;
  readonly from: Day;
  readonly to: Day;
  /** Rows on these days, there and here. */
  readonly rows: readonly [old: number, now: number];
}

type Dated = Pick<Table, 'columns' | 'rows' | 'date'>;
const daysOf = ({ columns, date }: Dated): Int32Array | null => {
  const column = date === null ? undefined : columns.find(({ name }) => name === date);
  return column?.kind === 'date' ? column.days : null;
};

/** The days that are in both tables; null where there are none. */
export function overlapOf(old: Dated, now: Dated): Overlap | null {
  const [before, after] = [daysOf(old), daysOf(now)];
  if (!before || !after) return null;
  const known = new Set(before);
  known.delete(NO_DAY);
  const both = new Set<Day>();
  let here = 0;
  for (const day of after)
    if (known.has(day)) {
      both.add(day);
      here++;
    }
  if (both.size === 0) return null;
  let there = 0;
  for (const day of before) if (both.has(day)) there++;
  let [from, to] = [Infinity, -Infinity];
  for (const day of both) {
    if (day < from) from = day;
    if (day > to) to = day;
  }
  return { days: both.size, from, to, rows: [there, here] };
}

/** What becomes of days that are in both: the rows there were, those that come, or both. */
export type AddedRows = 'old' | 'new' | 'both';

/**
 * A table with the rows of another below its own.
 * @param keep of days that are in both, whose rows are kept
 */
export function withRowsAdded(old: Table, now: Table, keep: AddedRows, files: readonly [string, string]): RawTable {
  const [before, after] = [daysOf(old), daysOf(now)];
  const without = (table: Table, own: Int32Array | null, others: Int32Array | null): RawTable => {
    if (!own || !others) return table;
    const known = new Set(others);
    known.delete(NO_DAY);
    const rows = Uint32Array.from(Array.from(own.keys()).filter((row) => !known.has(own[row]!)));
    if (rows.length === table.rows) return table;
    const parts = partsLeft(table, rows);
    return {
      ...table,
      ...(parts ? { parts } : {}),
      rows: rows.length,
      columns: table.columns.map((column) => columnAt(column, rows)),
      lines: Uint32Array.from(rows, (row) => lineOf(row, table)),
      skipped: [],
    };
  };
  return appendRows(
    keep === 'new' ? without(old, before, after) : old,
    keep === 'old' ? without(now, after, before) : now,
    files,
  );
}
