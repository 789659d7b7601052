import { addMonths, MONTH_NAMES, type Day, type Grain } from '../calendar';
import { EXACT_LIMIT, power, type Decimals } from '../number';
import { Problem } from '../problem';
import {
  ASIDE,
  columnAt,
  lineOf,
  severalUnits,
  type Column,
  type NumberColumn,
  type RawTable,
  type Wide,
} from '../table';
import { monthNamed } from './months';
import { DATE_PATTERNS, patternsFor } from './readDate';
import { namesFrom } from './columnNames';

/** A period that a column is named after. */
interface Named {
  /** The period's first day; of a month without a year its number. */
  readonly at: number;
  readonly grain: Grain;
  readonly dated: boolean;
  /** What the name says beside the period. */
  readonly rest: string;
}

/** How many columns of one kind make a table wide. */
const ENOUGH = 3;

/** The period in a column's name: all of it, or its beginning or end. */
function periodIn(name: string): Named | null {
  const whole = periodOf(name);
  if (whole) return { ...whole, rest: '' };
  const words = name.split(/[\s_/:-]+|\s+-\s+/).filter((word) => word !== '');
  for (let n = words.length - 1; n > 0; n--) {
    for (const [period, rest] of [
      [words.slice(0, n), words.slice(n)],
      [words.slice(-n), words.slice(0, -n)],
    ] as const) {
      const found = periodOf(period.join(' ')) ?? periodOf(period.join('-'));
      if (found) return { ...found, rest: rest.join(' ') };
    }
  }
  return null;
}

/** The period that a text is the name of; null where it is none. */
export function periodOf(text: string): Omit<Named, 'rest'> | null {
  const trimmed = text.trim();
  for (const i of patternsFor(trimmed)) {
    const { grain, strict, read, take } = DATE_PATTERNS[i]!;
    if (grain === 'day' || (strict && read !== 'yyyy')) continue;
    const day = take(trimmed);
    if (!Number.isNaN(day)) return { at: day, grain, dated: true };
  }
  const year = /^CY\s?['’]?((?:19|20)?\d{2})$/i.exec(trimmed);
  if (year) return { ...periodOf(year[1]!.length === 2 ? `20${year[1]}` : year[1]!)! };
  const month = /^\p{L}{3,10}\.?$/u.test(trimmed) ? monthNamed(trimmed) : undefined;
  return month ? { at: month, grain: 'month', dated: false } : null;
}

/** Recognises columns that are named after months, quarters or years and hold numbers; null for other tables. */
export function wideIn({ columns }: Pick<RawTable, 'columns'>): Wide | null {
  const groups = new Map<string, { name: string; grain: Grain; dated: boolean; columns: string[] }>();
  for (const { name, kind, blank, ...column } of columns) {
    const period = periodIn(name);
    // A month that has not come yet is blank from top to bottom, and then text.
    const isEmpty = kind === 'text' && 'codes' in column && column.codes.length === blank;
    if (!period || (kind !== 'number' && !isEmpty)) continue;
    const key = JSON.stringify([period.rest.toLowerCase(), period.grain, period.dated]);
    const group = groups.get(key);
    if (group) group.columns.push(name);
    else groups.set(key, { name: period.rest, grain: period.grain, dated: period.dated, columns: [name] });
  }
  const enough = [...groups.values()].filter((group) => group.columns.length >= ENOUGH);
  const first = enough.sort((a, b) => b.columns.length - a.columns.length)[0];
  if (!first) return null;
  const like = enough.filter(({ grain, dated }) => grain === first.grain && dated === first.dated);
  const taken = new Set(like.flatMap((group) => group.columns));
  const free = (name: string) => {
    let found = name;
    for (let n = 2; columns.some((column) => column.name === found && !taken.has(found)); n++) found = `${name} ${n}`;
    return found;
  };
  return {
    name: free(first.grain),
    grain: first.grain,
    dated: first.dated,
    values: like.map(({ name, columns: of }) => ({ name: free(name === '' ? 'value' : name), columns: of })),
  };
}

/** What a report says of a wide table: the names of the period column and, where there is one kind of number, of that. */
export interface LongWish {
  readonly name: string;
  readonly value?: string;
}

/** A wide table with a row for each row and period that has a value. Throws a `Problem` for a table that is not wide. */
export function madeLong(raw: RawTable, { name, value }: LongWish, file: string): RawTable {
  const wide = wideIn(raw);
  if (!wide)
    throw new Problem(
      'not-wide',
      'no three columns are named after periods, so they cannot become rows',
      { in: file },
      'take “long” out of the report, or name the columns like Jan 2026, 2026-Q1 or 2026',
    );
  const column = new Map(raw.columns.map((one) => [one.name, one]));
  const gone = new Set(wide.values.flatMap(({ columns }) => columns));
  // The periods, and for each value the column that holds it then.
  const periods = new Map<number, (NumberColumn | null)[]>();
  wide.values.forEach(({ columns }, v) => {
    for (const of of columns) {
      const { at } = periodIn(of)!;
      const known = periods.get(at) ?? wide.values.map(() => null);
      const found = column.get(of)!;
      known[v] = found.kind === 'number' ? found : null;
      periods.set(at, known);
    }
  });
  const ordered = [...periods].sort(([a], [b]) => a - b);
  let rows = 0;
  const each = (take: (row: number, period: number) => void) => {
    for (let row = 0; row < raw.rows; row++)
      ordered.forEach(([, columns], period) => {
        if (columns.some((one) => one && !Number.isNaN(one.values[row]!))) take(row, period);
      });
  };
  each(() => void rows++);
  const from = new Uint32Array(rows);
  const when = new Uint16Array(rows);
  let at = 0;
  each((row, period) => {
    from[at] = row;
    when[at++] = period;
  });
  const ats = ordered.map(([day]) => day);
  const made: Column[] = [
    wide.dated ? periodDays(name, wide.grain, ats, when) : monthNames(name, ats, when),
    ...wide.values.map(({ name: own }, v) =>
      valuesOf(
        wide.values.length === 1 && value !== undefined ? value : own,
        ordered.map(([, columns]) => columns[v]!),
        from,
        when,
      ),
    ),
  ];
  const first = raw.columns.findIndex((one) => gone.has(one.name));
  const sums = totalsAmong(raw, wide);
  const stays = (one: Column) => !gone.has(one.name) && !sums.includes(one.name);
  const before = raw.columns.slice(0, first).filter(stays);
  const after = raw.columns.slice(first).filter(stays);
  const columns = [...before.map((one) => columnAt(one, from)), ...made, ...after.map((one) => columnAt(one, from))];
  const names = namesFrom(columns.map((one) => one.name));
  const lines = new Uint32Array(rows);
  let line = 0;
  let last = -1;
  for (let i = 0; i < rows; i++) {
    if (from[i] !== last) line = lineOf((last = from[i]!), raw);
    lines[i] = line;
  }
  return {
    ...raw,
    rows,
    columns: columns.map((one, i) => (one.name === names[i] ? one : { ...one, name: names[i]! })),
    lines,
    leftOutCounts: [...raw.leftOutCounts, ...sums.map((sum) => ({ column: sum, reason: ASIDE.sum, count: raw.rows }))],
    wide: null,
  };
}

/** Sums may be rounded. */
const ROUNDED = 0.51;

/**
 * Columns of numbers that are, in every row, the sum of columns named after periods: of all of one kind, or of those within the longer
 * period that they are named after. As rows they would be repeated, and counted as often.
 */
function totalsAmong({ columns, rows }: RawTable, { values, grain }: Wide): string[] {
  const byName = new Map(columns.map((column) => [column.name, column]));
  const taken = new Set(values.flatMap((one) => one.columns));
  const isSumOf = (of: NumberColumn, names: readonly string[]): boolean => {
    const parts = names.flatMap((name) => {
      const part = byName.get(name);
      return part?.kind === 'number' ? [part] : [];
    });
    if (parts.length < 2 || rows === 0) return false;
    const scale = power(of.decimals ?? 0);
    let filled = 0;
    for (let row = 0; row < rows; row++) {
      const told = of.values[row]! / scale;
      if (Number.isNaN(told)) continue;
      filled++;
      let sum = 0;
      for (const part of parts) {
        const value = part.values[row]!;
        if (!Number.isNaN(value)) sum += value / power(part.decimals ?? 0);
      }
      // By the last digit that is written, once for each part that may have been rounded.
      if (Math.abs(sum - told) > (ROUNDED * parts.length) / scale) return false;
    }
    return filled > 0 && of.values.some((value) => value !== 0 && !Number.isNaN(value));
  };
  return columns.flatMap((column) => {
    if (column.kind !== 'number' || taken.has(column.name)) return [];
    const period = periodIn(column.name);
    const found = values.some(({ columns: names }) => {
      const within =
        period?.dated && LONGER[period.grain] > LONGER[grain]
          ? names.filter((name) => {
              const { at } = periodIn(name)!;
              return at >= period.at && at < addMonths(period.at, LONGER[period.grain]);
            })
          : [];
      return isSumOf(column, names) || isSumOf(column, within);
    });
    return found ? [column.name] : [];
  });
}

/** Months of a period; of shorter ones none. */
const LONGER: Readonly<Record<Grain, number>> = { day: 0, week: 0, month: 1, quarter: 3, year: 12 };

function periodDays(name: string, grain: Grain, days: readonly Day[], when: Uint16Array): Column {
  const read = grain === 'month' ? 'yyyy-MM' : grain === 'quarter' ? 'yyyy-Qn' : 'yyyy';
  return {
    kind: 'date',
    name,
    days: Int32Array.from(when, (period) => days[period]!),
    grain,
    blank: 0,
    read,
    convention: `${grain}s named by the columns`,
  };
}

function monthNames(name: string, months: readonly number[], when: Uint16Array): Column {
  const members = ['', ...months.map((month) => MONTH_NAMES[month - 1]!)];
  return {
    kind: 'text',
    name,
    members,
    codes: Uint8Array.from(when, (period) => period + 1),
    blank: 0,
    convention: 'months named by the columns',
  };
}

function valuesOf(
  name: string,
  columns: readonly (NumberColumn | null)[],
  from: Uint32Array,
  when: Uint16Array,
): NumberColumn {
  const known = columns.filter((one) => one !== null);
  let decimals: Decimals = known.some((one) => one.decimals === null)
    ? null
    : Math.max(0, ...known.map((one) => one.decimals!));
  const magnitude = known.reduce(
    (sum, one) =>
      sum + one.values.reduce((s, v) => (Number.isNaN(v) ? s : s + Math.abs(v)), 0) / power(one.decimals ?? 0),
    0,
  );
  if (decimals !== null && magnitude * power(decimals) >= EXACT_LIMIT) decimals = null;
  // A scaled integer at the decimals of all; a double where one of them is.
  const factor = columns.map((one) =>
    one === null ? NaN : decimals === null ? 1 / power(one.decimals ?? 0) : power(decimals - one.decimals!),
  );
  let blank = 0;
  const values = Float64Array.from(from, (row, i) => {
    const value = (columns[when[i]!]?.values[row] ?? NaN) * factor[when[i]!]!;
    if (Number.isNaN(value)) blank++;
    return value;
  });
  const units = new Set(known.map((one) => one.unit));
  const unit = units.size === 1 ? [...units][0] : undefined;
  const several = severalUnits(new Set(known.flatMap((one) => one.units ?? one.unit ?? [])));
  return {
    kind: 'number',
    name,
    values,
    decimals,
    blank,
    convention: known[0]?.convention ?? '',
    ...(unit === undefined ? {} : { unit }),
    ...(several ? { units: several } : {}),
  };
}
