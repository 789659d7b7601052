import type { Condition } from '../brief';
import { type FiscalCalendar, type Span } from '../calendar';
import { power } from '../number';
import { Problem } from '../problem';
import { noField, type Query } from '../query';
import { codedField, columnOf, dayCounts, type Codes, type DateColumn, type Table } from '../table';
import { placements, type Placements } from './placement';

/** A condition on rows as plain data. */
export type RowFilter =
  /** Days from one to another, both included. */
  | { readonly kind: 'days'; readonly days: Int32Array; readonly from: number; readonly to: number }
  /** Codes that are marked with 1; others are marked with 0. */
  | { readonly kind: 'codes'; readonly codes: Codes; readonly marks: Uint8Array }
  /** Numbers in [low, high), scaled as the column is; blanks never are. */
  | { readonly kind: 'between'; readonly values: Float64Array; readonly low: number; readonly high: number };

/** What a query looks at in a table, whoever does it: which rows, and where each falls. */
export interface Scope {
  /** Rows that can count: from one up to, but without, another. */
  readonly from: number;
  readonly to: number;
  readonly filters: readonly RowFilter[];
  readonly places: Placements;
  /** The column that places rows in time, where the query asks for dates. */
  readonly date: DateColumn | null;
  /** Rows that have no date, where the query asks for dates. */
  readonly undated: number;
}

/** Throws a `Problem` for a field the table lacks, and for a period of a table without dates. */
export function scopeOf(table: Table, query: Query, calendar: FiscalCalendar): Scope {
  const date = dateColumn(table);
  const timed = query.span !== null || query.grain !== null;
  if (timed && !date) {
    throw new Problem(
      'no-date',
      `table “${table.id}” has no date column, so a period cannot be cut out of it`,
      { in: `table “${table.id}”` },
      'leave out “during” and “each”, or name its date column in the report',
    );
  }
  const days = timed ? daysRead(date!, query.span) : null;
  const [from, to] = rowRange(table, date, days);
  const filters = query.where.map((condition) => filterFor(table, condition));
  if (timed && !table.inDateOrder) filters.unshift({ kind: 'days', days: date!.days, from: days!.from, to: days!.to });
  return {
    from,
    to,
    filters,
    places: placements(table, query, calendar, date, days),
    date: timed ? date : null,
    undated: timed ? date!.blank : 0,
  };
}

function dateColumn(table: Table): DateColumn | null {
  const column = table.date === null ? undefined : columnOf(table, table.date);
  return column?.kind === 'date' ? column : null;
}

/** The days a query reads: its span, within the days there are. */
function daysRead(date: DateColumn, span: Span | null): Span {
  const known = dayCounts(date).span ?? { from: Infinity, to: -Infinity };
  return span ? { from: Math.max(span.from, known.from), to: Math.min(span.to, known.to) } : known;
}

/** The rows to look at: where rows are in date order, only those of the span. */
function rowRange(table: Table, date: DateColumn | null, span: Span | null): [number, number] {
  if (!span || !date || !table.inDateOrder) return [0, table.rows];
  if (span.from > span.to) return [0, 0];
  return [firstAtLeast(date.days, span.from), firstAtLeast(date.days, span.to + 1)];
}

/** The first of sorted days that is not before a day; how many there are when there is none. */
export function firstAtLeast(sorted: Int32Array, value: number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (sorted[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

function filterFor(table: Table, condition: Condition): RowFilter {
  const column = columnOf(table, condition.field);
  if (!column) throw noField(table.id, condition.field);
  if ('value' in condition) {
    if (column.kind !== 'number')
      throw new Problem(
        'wrong-type',
        `“${condition.field}” is not a number, so it cannot be ${condition.kind} ${condition.value}`,
        { in: 'brief' },
        'use “is” with its members',
      );
    const bound = condition.value * power(column.decimals ?? 0);
    const [low, high] = condition.kind === 'at least' ? [bound, Infinity] : [-Infinity, bound];
    return { kind: 'between', values: column.values, low, high };
  }
  const { members, codes } = codedField(column);
  const named = new Set(condition.members.map((member) => member ?? ''));
  const marks = Uint8Array.from(members, (member) => (named.has(member) === (condition.kind === 'is') ? 1 : 0));
  return { kind: 'codes', codes, marks };
}
