import { type FiscalCalendar, type Grain, type Span } from '../../calendar';
import {
  currencyColumns,
  farDays,
  grainOf,
  knownSpan,
  type DateColumn,
  type KnownSpan,
  type Table,
  type TableFacts,
} from '../../table';
import { leafOf } from './conditions';
import { textOf } from './expression';
import type { SqlWriter } from './dialect';
import type { TableInSql } from './tableInSql';

/** Names of a field that are known without asking; of more, those are searched that are asked for. */
const MOST_MEMBERS = 2000;
/** Days of a table that are looked at one by one. */
const MOST_DAYS = 200_000;

/** The days on which a table has rows, in order, and how many. */
export interface Days {
  readonly days: Int32Array;
  readonly counts: Float64Array;
}

/** What has been asked of a table once. */
export interface Known {
  readonly facts: TableFacts;
  readonly days: Days | null;
  readonly undated: number;
}

/** Asks what is known of a table once it is opened. */
export async function lookAt(table: TableInSql, calendar: FiscalCalendar): Promise<Known> {
  const { id, entry, database, from, kinds } = table;
  const date = entry.date ?? null;
  const { begin } = database.dialect;
  const leaf = table.leaf(begin());
  // A computed day may hold values of its own.
  const w = begin();
  const day = date === null ? null : table.leaf(w)(date).sql;
  const undated =
    day === null ? '0' : w.aggregate('count', null, { distinct: false, filter: `${day} is null`, p: null });
  const count = database.ask({ text: `select count(*), ${undated} from ${from}`, values: w.values });
  const perDay =
    day === null
      ? null
      : database.ask({
          text: `select ${w.dayNumber(day)}, count(*) from ${from} where ${day} is not null group by ${first(w, w.dayNumber(day))} order by ${first(w, w.dayNumber(day))} limit ${MOST_DAYS}`,
          values: w.values,
        });
  const named = [...kinds].flatMap(([name, kind]) => (kind === 'text' || kind === 'yesno' ? [name] : []));
  const listed = named.map(async (name): Promise<readonly [string, readonly string[] | null]> => {
    const own = begin();
    const text = textOf(table.leaf(own)(name), own);
    const found = await database.ask({
      text: `select ${text}, count(*) from ${from} where ${text} is not null group by ${first(own, text)} order by count(*) desc, ${first(own, text)} limit ${MOST_MEMBERS + 1}`,
      values: own.values,
    });
    const names = found.map(([member]) => member!).sort(byLetters);
    return [name, names.length > MOST_MEMBERS ? null : names];
  });
  const [[counted], dayRows, members] = await Promise.all([count, perDay, Promise.all(listed)]);
  const days: Days | null = dayRows && {
    days: Int32Array.from(dayRows, ([of]) => Number(of)),
    counts: Float64Array.from(dayRows, ([, rows]) => Number(rows)),
  };
  const grain: Grain | null = days ? (entry.grain ?? grainOf(days.days)) : null;
  const calendared = days && daysTable(days, grain!);
  const orders = Object.fromEntries((entry.columns ?? []).flatMap(({ name, order }) => (order ? [[name, order]] : [])));
  const far = calendared && farDays(calendared);
  const facts: TableFacts = {
    id,
    rows: Number(counted![0]),
    columns: kinds,
    members: new Map(members),
    decimals: new Map([...kinds].flatMap(([name, kind]) => (kind === 'number' ? [[name, leaf(name).decimals]] : []))),
    derived: entry.derived ?? [],
    date,
    grain,
    span: calendared && knownSpan(calendared, calendar),
    periods: calendar,
    orders,
    leftOut: [],
    duplicates: null,
    far: far && { ...far, rows: [], lines: [], count: countIn(days, far) },
    currencies: currencyColumns(members),
  };
  return { facts, days, undated: Number(counted![1]) };
}

/** The first of what is selected, where it is grouped or ordered by. */
const first = (w: SqlWriter, sql: string): string => w.grouped([sql], [1]);

/** In the order of their letters. */
export const byLetters = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

const countIn = ({ days, counts }: Days, { from, to }: Span): number =>
  days.reduce((sum, day, i) => (day >= from && day <= to ? sum + counts[i]! : sum), 0);

/** Rows that stand for all of a table where only its days matter: as many of a day as its part of all, at least one. */
const SAMPLE = 50_000;
function daysTable({ days, counts }: Days, grain: Grain, has?: Uint8Array): Table {
  const all = counts.reduce((sum, rows) => sum + rows, 0);
  const rows = (i: number) => Math.max(1, Math.round((counts[i]! / Math.max(1, all)) * Math.min(all, SAMPLE)));
  const spread: number[] = [];
  const marks: number[] = [];
  days.forEach((day, i) => {
    for (let k = rows(i); k > 0; k--) {
      spread.push(day);
      marks.push(has?.[i] ?? 1);
    }
  });
  const common = { convention: '', blank: 0 };
  const date: DateColumn = { ...common, kind: 'date', name: 'day', days: Int32Array.from(spread), grain, read: '' };
  const codes = Uint8Array.from(marks, (mark) => (mark ? 2 : 0));
  const blank = marks.length - marks.reduce((sum, mark) => sum + mark, 0);
  return {
    id: 'days',
    rows: spread.length,
    columns: [date, { ...common, kind: 'yesno', name: 'has', members: ['', 'no', 'yes'], codes, blank }],
    date: 'day',
    grain,
    inDateOrder: true,
    orders: {},
    leftOut: [],
    leftOutCounts: [],
    firstLine: 1,
    emptyLines: 0,
    doubts: [],
    wide: null,
  } as unknown as Table;
}

/** First and last day on which one of some columns has a value. */
export async function spanOf(
  table: TableInSql,
  { facts, days }: Known,
  columns: readonly string[],
  calendar: FiscalCalendar,
): Promise<KnownSpan | null> {
  if (columns.length === 0 || days === null) return facts.span;
  const w = table.database.dialect.begin();
  const day = table.leaf(w)(facts.date!).sql;
  const filled = columns.map((name) => `${leafOf(table, name, w).sql} is not null`).join(' or ');
  const found = await table.database.ask({
    text: `select ${w.dayNumber(day)} from ${table.from} where ${day} is not null and (${filled}) group by ${first(w, w.dayNumber(day))}`,
    values: w.values,
  });
  const those = new Set(found.map(([of]) => Number(of)));
  const has = Uint8Array.from(days.days, (one) => (those.has(one) ? 1 : 0));
  return knownSpan(daysTable(days, facts.grain!, has), calendar, ['has']);
}
