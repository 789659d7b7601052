import { isoDay, NO_DAY, PLAIN_CALENDAR, type Grain } from '../calendar';
import { power, total } from '../number';
import {
  columnsInFile,
  type Column,
  type ColumnKind,
  type Doubt,
  type LeftOut,
  type LeftOutCount,
  type Table,
  type TablePart,
  type Told,
  type Wide,
} from './column';
import { distinctNumbers } from './distinct';
import { farDays } from './farDays';
import { duplicatesIn, type Duplicates } from './duplicates';
import { linesOf } from './lines';
import { sumsOf } from './sumsOf';
import { suspectRows } from './suspects';
import { knownSpan } from './table';

/** What is known of a column without looking at a row. Numbers and ISO days; null where there is nothing. */
export interface ColumnProfile {
  readonly name: string;
  readonly type: ColumnKind;
  readonly convention: string;
  readonly blank: number;
  readonly unread: number;
  readonly members: number;
  readonly lowest: number | string | null;
  readonly highest: number | string | null;
  readonly sum?: number;
  /** `%` or a currency that stands beside the numbers. */
  readonly unit?: string;
}

/** The understanding of a file: see “Fields JSON” in docs/formats.md. */
export interface FieldsProfile {
  readonly file: string;
  readonly rows: number;
  /** The files of a table of several, in their order, with the rows of each. */
  readonly files?: readonly TablePart[];
  readonly date: string | null;
  readonly grain: Grain | null;
  readonly from: string | null;
  readonly to: string | null;
  readonly columns: readonly ColumnProfile[];
  /** Names of the columns that are left out. */
  readonly aside?: readonly string[];
  readonly leftOut: readonly LeftOut[];
  readonly leftOutCounts: readonly Readonly<LeftOutCount>[];
  /** Lines that look like totals among the rows. */
  readonly totalsRows: readonly number[];
  /** Of a table of several files, the file of each of these lines. */
  readonly totalsFiles?: readonly string[];
  /** What these hold in each column of numbers. */
  readonly totalsSums?: Readonly<Record<string, number>>;
  /** Lines at the end of a file that look like notes. */
  readonly noteRows: readonly number[];
  readonly noteFiles?: readonly string[];
  /** Rows that are equal to one above them in all columns, or in those that tell rows apart. */
  readonly duplicates?: Duplicates & { readonly key: readonly string[] | null };
  readonly emptyLines: number;
  /** Quotes that enclose no cell, cells of many lines: nothing of them is left out. */
  readonly told?: readonly Told[];
  /** Lines whose days lie far from all others: the first of them, how many in all, their first and last day, and those of the others. */
  readonly farDays?: {
    readonly lines: readonly number[];
    readonly files?: readonly string[];
    readonly count: number;
    readonly from: string;
    readonly to: string;
    readonly othersFrom: string;
    readonly othersTo: string;
  };
  readonly doubts: readonly Doubt[];
  readonly wide: Wide | null;
}

export function profileTable(table: Table, file: string): FieldsProfile {
  const span = knownSpan(table, PLAIN_CALENDAR);
  const suspects = suspectRows({ ...table, columns: columnsInFile(table) });
  const [totals, notes] = [linesOf(suspects.totals, table), linesOf(suspects.notes, table)];
  const closed = new Set(
    (table.joined ?? [])
      .flatMap(({ names, twice, undated }) => (twice.length > 0 || undated ? names : []))
      .map(({ name }) => name),
  );
  const far = farDays(table);
  const twice = duplicatesIn(table);
  return {
    file,
    rows: table.rows,
    ...(table.parts ? { files: table.parts } : {}),
    date: table.date,
    grain: table.grain,
    from: span && isoDay(span.from),
    to: span && isoDay(span.to),
    columns: table.columns.map((column) =>
      closed.has(column.name)
        ? unknownProfile(column, table.rows)
        : profileColumn(column, unreadIn(table, column.name)),
    ),
    ...(table.aside ? { aside: table.aside.map(({ name }) => name) } : {}),
    leftOut: table.leftOut,
    leftOutCounts: table.leftOutCounts,
    totalsRows: totals.lines,
    ...(totals.files ? { totalsFiles: totals.files } : {}),
    ...(suspects.totals.length > 0 ? { totalsSums: sumsOf(columnsInFile(table), suspects.totals) } : {}),
    noteRows: notes.lines,
    ...(notes.files ? { noteFiles: notes.files } : {}),
    ...(twice ? { duplicates: { ...twice, key: table.key ?? null } } : {}),
    emptyLines: table.emptyLines,
    ...(table.told ? { told: table.told } : {}),
    ...(far
      ? {
          farDays: {
            ...linesOf(far.rows, table),
            count: far.count,
            from: isoDay(far.from),
            to: isoDay(far.to),
            othersFrom: isoDay(far.others.from),
            othersTo: isoDay(far.others.to),
          },
        }
      : {}),
    doubts: table.doubts,
    wide: table.wide,
  };
}

/** Of a column that cannot be looked up, because keys stand twice. */
function unknownProfile({ name, kind, convention }: Column, rows: number): ColumnProfile {
  return { name, type: kind, convention, blank: rows, unread: 0, members: 0, lowest: null, highest: null };
}

function unreadIn(table: Table, column: string): number {
  return table.leftOutCounts.reduce((sum, entry) => sum + (entry.column === column ? entry.count : 0), 0);
}

/** Columns never change, so each is looked through once. */
const known = new WeakMap<Column, ColumnProfile>();

function profileColumn(column: Column, unread: number): ColumnProfile {
  let profile = known.get(column);
  if (profile?.unread !== unread) known.set(column, (profile = lookThrough(column, unread)));
  return profile;
}

function lookThrough(column: Column, unread: number): ColumnProfile {
  const base = {
    name: column.name,
    type: column.kind,
    convention: column.convention,
    blank: column.blank - unread,
    unread,
  };
  switch (column.kind) {
    case 'number': {
      const { values, decimals } = column;
      let lowest = Infinity;
      let highest = -Infinity;
      for (let i = 0; i < values.length; i++) {
        const value = values[i]!;
        if (value < lowest) lowest = value;
        if (value > highest) highest = value;
      }
      const scale = power(decimals ?? 0);
      const none = lowest === Infinity;
      const sum = decimals === null ? total(values, null) : total(values, 0) / scale;
      return {
        ...base,
        members: distinctNumbers(values),
        lowest: none ? null : lowest / scale,
        highest: none ? null : highest / scale,
        ...(none ? {} : { sum }),
        ...(column.unit === undefined ? {} : { unit: column.unit }),
      };
    }
    case 'date': {
      const days = new Set<number>();
      let lowest = Infinity;
      let highest = -Infinity;
      let last = NO_DAY;
      for (let i = 0; i < column.days.length; i++) {
        const day = column.days[i]!;
        if (day === last || day === NO_DAY) continue;
        days.add((last = day));
        if (day < lowest) lowest = day;
        if (day > highest) highest = day;
      }
      const none = days.size === 0;
      return {
        ...base,
        members: days.size,
        lowest: none ? null : isoDay(lowest),
        highest: none ? null : isoDay(highest),
      };
    }
    case 'text':
    case 'yesno': {
      const used = new Uint8Array(column.members.length);
      for (let i = 0; i < column.codes.length; i++) used[column.codes[i]!] = 1;
      used[0] = 0;
      const names = column.members.filter((_, code) => used[code] === 1);
      let [lowest, highest] = [names[0] ?? null, names[0] ?? null];
      for (const name of names) {
        if (name < lowest!) lowest = name;
        if (name > highest!) highest = name;
      }
      return { ...base, members: names.length, lowest, highest };
    }
  }
}
