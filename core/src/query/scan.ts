import type { Condition } from '../brief';
import { NO_DAY, type FiscalCalendar, type Span } from '../calendar';
import { power } from '../number';
import { Problem } from '../problem';
import { columnOf, type DateColumn, type Table } from '../table';
import { accumulatorFor, type Accumulator } from './accumulator';
import { codedField } from './derived';
import {
  BLOCK,
  countAndAdd,
  countAndAddByCode,
  countRows,
  keepBetween,
  keepDays,
  keepMarked,
  laned,
  LANED_GROUPS,
  lanes,
  newBlock,
  pick,
} from './kernels';
import { hashing, placements, type Placements } from './placement';
import type { Groups, Query } from './query';

/** Above this many possible groups, those that occur are found by hashing instead of by place. */
const DENSE_GROUPS = 1 << 22;

/** Answers a query from a columnar table in one pass over its rows, block by block. */
export function scan(table: Table, query: Query, calendar: FiscalCalendar): Groups {
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
  const places = placements(table, query, calendar, date, days);
  const filters = query.where.map((condition) => filterFor(table, condition));
  if (timed && !table.inDateOrder) filters.unshift((rows, n) => keepDays(date!.days, days!.from, days!.to, rows, n));

  const accumulators = query.aggregates.map((aggregate) => accumulatorFor(table, aggregate));
  const hashed = places.size > DENSE_GROUPS ? hashing() : null;
  // Groups found by hashing grow in number; more than the kernels keep lanes for, so that a group's place never moves.
  let size = hashed ? DENSE_GROUPS / 64 : places.size;
  let counts: Float64Array = new Float64Array(lanes(size));
  accumulators.forEach((a) => a.grow(size));

  const block = newBlock();
  // The first sum of a column without blanks is added up while the rows are counted.
  const summed = hashed ? undefined : accumulators.find((a) => a.filledSum);
  const others = accumulators.filter((a) => a !== summed);
  if (filters.length === 0 && summed && others.length === 0 && places.narrow && size <= LANED_GROUPS) {
    const { values, sums } = summed.filledSum!;
    countAndAddByCode(places.narrow, values, from, to, size, counts, sums());
    return collect(query, places, hashed, (place) => laned(counts, place, size), accumulators, timed ? date!.blank : 0);
  }
  const whole = filters.length === 0 && places.size === 1 && accumulators.every((a) => a.takeRange?.(0, 0));
  for (let start = from; start < to; start += BLOCK) {
    block.dense = true;
    block.from = start;
    block.n = Math.min(BLOCK, to - start);
    if (whole) {
      counts[0]! += block.n;
      accumulators.forEach((a) => a.takeRange!(start, start + block.n));
      continue;
    }
    if (filters.length > 0) {
      pick(block);
      for (const filter of filters) block.n = filter(block.rows, block.n);
      if (block.n === 0) continue;
    }
    if (hashed) {
      hashed.place(places.keys(block), block.groups, block.n);
      if (hashed.count > size) {
        size = Math.max(hashed.count, size * 2);
        const wider = new Float64Array(size);
        wider.set(counts);
        counts = wider;
        accumulators.forEach((a) => a.grow(size));
      }
    } else places.groups(block);
    if (summed && block.dense) {
      countAndAdd(summed.filledSum!.values, block, size, counts, summed.filledSum!.sums());
      others.forEach((a) => a.take(block));
    } else {
      countRows(block, size, counts);
      accumulators.forEach((a) => a.take(block));
    }
  }
  return collect(query, places, hashed, (place) => laned(counts, place, size), accumulators, timed ? date!.blank : 0);
}

function dateColumn(table: Table): DateColumn | null {
  const column = table.date === null ? undefined : columnOf(table, table.date);
  return column?.kind === 'date' ? column : null;
}

/** The days a query reads: its span, within the days there are. */
function daysRead(date: DateColumn, span: Span | null): Span {
  const known = daysKnown(date);
  return span ? { from: Math.max(span.from, known.from), to: Math.min(span.to, known.to) } : known;
}

const known = new WeakMap<DateColumn, Span>();
function daysKnown(date: DateColumn): Span {
  let span = known.get(date);
  if (!span) {
    let from = Infinity;
    let to = -Infinity;
    for (const day of date.days) {
      if (day === NO_DAY) continue;
      if (day < from) from = day;
      if (day > to) to = day;
    }
    known.set(date, (span = { from, to }));
  }
  return span;
}

/** The rows to look at: where rows are in date order, only those of the span. */
function rowRange(table: Table, date: DateColumn | null, span: Span | null): [number, number] {
  if (!span || !date || !table.inDateOrder) return [0, table.rows];
  if (span.from > span.to) return [0, 0];
  return [firstAtLeast(date.days, span.from), firstAtLeast(date.days, span.to + 1)];
}

function firstAtLeast(sorted: Int32Array, value: number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (sorted[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

type Filter = (rows: Int32Array, n: number) => number;

function filterFor(table: Table, condition: Condition): Filter {
  const column = columnOf(table, condition.field);
  if (!column)
    throw new Problem(
      'unknown-field',
      `there is no field “${condition.field}” in table “${table.id}”`,
      { in: 'brief' },
      'choose a field of that table',
    );
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
    return (rows, n) => keepBetween(column.values, low, high, rows, n);
  }
  const { members, codes } = codedField(column);
  const named = new Set(condition.members.map((member) => member ?? ''));
  const marks = Uint8Array.from(members, (member) => (named.has(member) === (condition.kind === 'is') ? 1 : 0));
  return (rows, n) => keepMarked(codes, marks, rows, n);
}

/** The groups that have rows, in order of their codes and steps. */
function collect(
  query: Query,
  places: Placements,
  hashed: ReturnType<typeof hashing> | null,
  rowsIn: (place: number) => number,
  accumulators: readonly Accumulator[],
  undatedRows: number,
): Groups {
  const order: { key: number; place: number }[] = [];
  if (hashed) hashed.seen.forEach((key, place) => order.push({ key, place }));
  else for (let place = 0; place < places.size; place++) if (rowsIn(place) > 0) order.push({ key: place, place });
  if (hashed) order.sort((a, b) => a.key - b.key);
  const count = order.length;
  const codes = query.by.map(() => new Int32Array(count));
  const steps = query.grain ? new Int32Array(count) : null;
  order.forEach(({ key }, i) => {
    const parts = places.parts(key);
    parts.codes.forEach((code, f) => (codes[f]![i] = code));
    if (steps) steps[i] = parts.step!;
  });
  return {
    count,
    fields: codes.map((list, f) => ({ members: places.members[f]!, codes: list })),
    steps,
    rows: Float64Array.from(order, ({ place }) => rowsIn(place)),
    values: accumulators.map((a) => ({
      of: Float64Array.from(order, ({ place }) => a.result(place, rowsIn(place))),
      decimals: a.decimals,
    })),
    undated: undatedRows,
  };
}
