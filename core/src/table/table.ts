import {
  endOf,
  isoDay,
  NO_DAY,
  readIsoDay,
  startOf,
  type Day,
  type FiscalCalendar,
  type Grain,
  type Span,
} from '../calendar';
import { didYouMean, Problem } from '../problem';
import { power } from '../number';
import type { Column, ColumnKind, DateColumn, KnownSpan, Table } from './column';
import { columnOf, isBlankAt } from './column';
import { keyOf, type Repeats } from './repeats';
import { dayCounts, daysWithin } from './dayCounts';
import { farDays } from './farDays';
import { grainOf, inDateOrder } from './grain';
import { orderedBy } from './members';
import { periodCalendar } from './periods';
import type { RateColumns } from './rates';

/** What a report says about a column. */
export interface ColumnWish {
  readonly name: string;
  readonly type?: ColumnKind;
  /** How its text is read: a date pattern such as `dd.MM.yyyy`, or for numbers `1,234.5` or `1.234,5`. */
  readonly read?: string;
  readonly order?: readonly string[];
  /** The members stand in the order of this column's lowest value beside each. */
  readonly orderBy?: string;
  /** It is set aside: nothing knows it. */
  readonly out?: true;
}

/** What was read from a file, before a report says what it means. */
export type RawTable = Pick<
  Table,
  | 'rows'
  | 'columns'
  | 'leftOut'
  | 'leftOutCounts'
  | 'firstLine'
  | 'skipped'
  | 'lines'
  | 'parts'
  | 'emptyLines'
  | 'doubts'
  | 'told'
  | 'breaks'
  | 'marks'
  | 'wide'
>;

/** What a report says about a table beside its columns' types. */
export interface TableWish {
  readonly id: string;
  readonly date?: string | null;
  readonly grain?: Grain;
  /** It holds rates of currencies: the column of their codes, and that of what a unit is worth. */
  readonly rates?: RateColumns;
  readonly columns?: readonly ColumnWish[];
  readonly repeats?: Repeats;
  /** Columns named after periods have become rows under this name. */
  readonly long?: { readonly name: string };
  /** What gives the table further columns once it is read. */
  readonly derived?: readonly unknown[];
  readonly joins?: readonly unknown[];
}

/** A table from what was read: the date column, its grain, the declared orders. Throws when a named column is not there. */
export function makeTable(raw: RawTable, wish: TableWish): Table {
  const names = raw.columns.map(({ name }) => name);
  const comeLater = (wish.derived?.length ?? 0) + (wish.joins?.length ?? 0) > 0;
  for (const { name, order, orderBy, out } of wish.columns ?? []) {
    // What is left out may as well be missing.
    if (out) continue;
    // What is said of a column that has become rows was said to its reader; of one that is yet to come, it is not said now.
    if ((wish.long && !order && !orderBy) || (comeLater && !names.includes(name))) continue;
    if (!names.includes(name)) throw unknownColumn(name, names, wish.id);
  }
  const left = new Set((wish.columns ?? []).flatMap(({ name, out }) => (out ? [name] : [])));
  const [shown, aside] = [
    raw.columns.filter(({ name }) => !left.has(name)),
    raw.columns.filter(({ name }) => left.has(name)),
  ];
  const dates = shown.filter((column) => column.kind === 'date');
  let date =
    wish.date === undefined
      ? (dates.find(({ name }) => name === wish.long?.name) ?? dates[0])
      : dates.find(({ name }) => name === wish.date);
  if (wish.date === null) date = undefined;
  if (wish.date && !date) {
    if (!names.includes(wish.date)) throw unknownColumn(wish.date, names, wish.id);
    throw new Problem(
      'not-a-date',
      `column “${wish.date}” does not hold dates`,
      { in: `table “${wish.id}”` },
      'give its pattern in “read”, or choose another column as “date”',
    );
  }
  for (const name of wish.rates ? [wish.rates.currency, wish.rates.rate] : [])
    if (!comeLater && !names.includes(name)) throw unknownColumn(name, names, wish.id);
  // Rows that were made of columns are told apart by what they were made of, which was said to their reader.
  const key = wish.long ? undefined : keyOf(wish.repeats);
  for (const name of key ?? []) if (!names.includes(name)) throw unknownColumn(name, names, wish.id);
  return {
    ...raw,
    columns: shown,
    ...(aside.length > 0 ? { aside } : {}),
    id: wish.id,
    ...(key ? { key } : {}),
    ...(wish.rates ? { rates: wish.rates } : {}),
    date: date?.name ?? null,
    grain: date ? (wish.grain ?? (date.grain === 'day' ? grainOf(date.days) : date.grain)) : null,
    inDateOrder: date ? inDateOrder(date.days) : false,
    orders: Object.fromEntries(
      (wish.columns ?? []).filter(({ name }) => names.includes(name)).flatMap((one) => orderOf(one, raw, wish.id)),
    ),
  };
}

/** The table with orders of members that are said of columns which it got after it was read. */
export function withOrders(table: Table, wishes: readonly ColumnWish[]): Table {
  if (wishes.length === 0) return table;
  const names = table.columns.map(({ name }) => name);
  for (const { name } of wishes) if (!names.includes(name)) throw unknownColumn(name, names, table.id);
  const orders = Object.fromEntries(wishes.flatMap((wish) => orderOf(wish, table, table.id)));
  return { ...table, orders: { ...table.orders, ...orders } };
}

function orderOf(
  { name, order, orderBy }: ColumnWish,
  { columns }: Pick<Table, 'columns'>,
  table: string,
): [string, readonly string[]][] {
  if (order) return [[name, order]];
  if (orderBy === undefined) return [];
  const of = columns.find((column) => column.name === name)!;
  const by = columns.find((column) => column.name === orderBy);
  if (!by)
    throw unknownColumn(
      orderBy,
      columns.map((column) => column.name),
      table,
    );
  return of.kind === 'text' ? [[name, orderedBy(of, by)]] : [];
}

export function unknownColumn(name: string, known: readonly string[], table: string): Problem {
  return new Problem(
    'unknown-column',
    `there is no column “${name}”`,
    { in: `table “${table}”` },
    didYouMean(name, known, 'column'),
  );
}

/**
 * The first and the last day with data: rows with a date and, where columns are named, a value in at least one of them.
 * So a month that has a target but no actual yet is no data of the actual. A row that stands for a month reaches to that
 * month's end. Null without such rows.
 */
export function knownSpan(table: Table, calendar: FiscalCalendar, columns: readonly string[] = []): KnownSpan | null {
  const carried = table.spans?.[spanKey(columns)];
  if (carried !== undefined) return carried;
  // Days that are most likely mistakes make no period longer; they are told.
  const others = farDays(table)?.others;
  return (others && spanWithin(table, calendar, columns, others)) ?? spanWithin(table, calendar, columns);
}

function spanWithin(
  table: Table,
  calendar: FiscalCalendar,
  columns: readonly string[],
  within: Span = { from: -Infinity, to: Infinity },
): KnownSpan | null {
  const date = table.date === null ? undefined : columnOf(table, table.date);
  if (date?.kind !== 'date') return null;
  const named = columns.flatMap((name) => columnOf(table, name) ?? []);
  // A column without blanks has a value in every row.
  const needed = named.some(({ blank }) => blank === 0) ? [] : named;
  const found = needed.length === 0 ? daysWithin(date, within) : daysWithValue(table, date, needed, within);
  if (!found) return null;
  const { from, to } = found;
  const grain = table.grain ?? 'day';
  const begins = grain === 'day' ? Math.max(startOf('month', from, calendar), from - quietest(date, from, to)) : from;
  return { from, to: endOf(grain, to, periodCalendar(date, calendar)), begins };
}

/** What tells apart the spans that are known of a table. */
export const spanKey = (columns: readonly string[]) => JSON.stringify(columns);

/** First and last day of rows that have a value in at least one of some columns. */
function daysWithValue(
  { inDateOrder: sorted }: Table,
  date: DateColumn,
  columns: readonly Column[],
  within: Span,
): Span | null {
  const all = daysWithin(date, within);
  if (!all) return null;
  const { days } = date;
  const hasValue = (row: number) => columns.some((column) => !isBlankAt(column, row));
  if (sorted) {
    const isOne = (row: number) => days[row]! >= all.from && days[row]! <= all.to && hasValue(row);
    let row = 0;
    while (row < days.length && !isOne(row)) row++;
    let end = days.length - 1;
    while (end > row && !isOne(end)) end--;
    return row < days.length ? { from: days[row]!, to: days[end]! } : null;
  }
  const [first, last] = [all.from, all.to];
  // Whole numbers all along: a loop over a million rows takes a millisecond then, not forty.
  let from = last + 1;
  let to = first - 1;
  for (let row = 0; row < days.length && (from > first || to < last); row++) {
    const day = days[row]!;
    if (day < first || day > last || (day >= from && day <= to)) continue;
    if (!hasValue(row)) continue;
    if (day < from) from = day;
    if (day > to) to = day;
  }
  return from <= to ? { from, to } : null;
}

/** The longest stretch of days without a row, between two that have one. */
function quietest(date: DateColumn, from: Day, to: Day): number {
  const { span, counts } = dayCounts(date);
  // Only what is shorter than a month matters, and days far apart are not looked at one by one.
  if (to - from > 1 << 20 || !counts) return 31;
  let longest = 0;
  let last = from;
  for (let day = from + 1; day <= to; day++) {
    if (counts[day - span!.from] === 0) continue;
    longest = Math.max(longest, day - last - 1);
    last = day;
  }
  return longest;
}

/** The as-of day: the fixed one, or the last day with data. */
export function asOfDay(setting: string, span: Pick<KnownSpan, 'to'> | null): Day {
  if (setting !== 'auto') return readIsoDay(setting) ?? NO_DAY;
  return span?.to ?? 0;
}

/** A cell as people write it, for grids and messages; empty for blank. */
export function cellText(column: Column, row: number): string {
  switch (column.kind) {
    case 'text':
    case 'yesno':
      return column.members[column.codes[row]!]!;
    case 'number': {
      const value = column.values[row]!;
      if (Number.isNaN(value)) return '';
      return column.decimals ? (value / power(column.decimals)).toFixed(column.decimals) : String(value);
    }
    case 'date': {
      const day = column.days[row]!;
      return day === NO_DAY ? '' : dayText((column.written ?? column.days)[row]!, column.grain);
    }
  }
}

/** A day, or the period it begins, in the notation of ISO 8601; quarters as `2026-Q1`. */
function dayText(day: Day, grain: Grain): string {
  const iso = isoDay(day);
  switch (grain) {
    case 'month':
      return iso.slice(0, 7);
    case 'quarter':
      return `${iso.slice(0, 4)}-Q${Math.ceil(Number(iso.slice(5, 7)) / 3)}`;
    case 'year':
      return iso.slice(0, 4);
    default:
      return iso;
  }
}
