import type { Condition } from '../brief';
import { NO_DAY, type FiscalCalendar, type Span } from '../calendar';
import { power } from '../number';
import { Problem } from '../problem';
import { codedField, columnOf, type DateColumn, type Table } from '../table';
import { accumulatorFor, type Accumulator } from './accumulator';
import {
  BLOCK,
  countAndAdd,
  countAndAddByCode,
  countAndAddTwo,
  countRows,
  keepBetween,
  keepDays,
  keepMarked,
  laned,
  LANED_GROUPS,
  lanes,
  newBlock,
  pickBetween,
  pickDays,
  pickMarked,
} from './kernels';
import { hashing, placements, type Placements } from './placement';
import type { Groups, Query } from '../query';

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
  if (timed && !table.inDateOrder) filters.unshift(dayFilter(date!.days, days!));

  const hashed = places.size > DENSE_GROUPS ? hashing() : null;
  const possible = hashed ? null : places.size;
  const accumulators = query.aggregates.map((aggregate) => accumulatorFor(table, aggregate, possible));
  // Groups found by hashing grow in number; more than the kernels keep lanes for, so that a group's place never moves.
  let size = hashed ? DENSE_GROUPS / 64 : places.size;
  let counts: Float64Array = new Float64Array(lanes(size));
  accumulators.forEach((a) => a.grow(size));

  const block = newBlock();
  // The first exact sum is added up while the rows are counted.
  const summed = hashed ? undefined : accumulators.find((a) => a.exactSum);
  const second =
    summed && !summed.exactSum!.blanks
      ? accumulators.find((a) => a !== summed && a.exactSum?.blanks === false)
      : undefined;
  const others = accumulators.filter((a) => a !== summed && a !== second);
  const narrow = filters.length === 0 && !second && others.length === 0 && size <= LANED_GROUPS ? places.narrow : null;
  if (narrow && summed && !summed.exactSum!.blanks) {
    const { values, sums } = summed.exactSum!;
    countAndAddByCode(narrow, values, from, to, size, counts, sums());
    return collect(query, places, hashed, (place) => laned(counts, place, size), accumulators, timed ? date!.blank : 0);
  }
  const inRuns = filters.length === 0 && query.by.length === 0 && accumulators.every((a) => a.takeRange?.(0, 0, 0));
  if (inRuns && places.starts && table.inDateOrder) {
    // Each step is a run of consecutive rows.
    places.starts.forEach((_, step, starts) => {
      const first = step === 0 ? from : firstAtLeast(date!.days, starts[step]!);
      const next = step + 1 < starts.length ? firstAtLeast(date!.days, starts[step + 1]!) : to;
      counts[step]! += next - first;
      accumulators.forEach((a) => a.takeRange!(first, next, step));
    });
    return collect(query, places, null, (place) => laned(counts, place, size), accumulators, date!.blank);
  }
  const whole = inRuns && places.size === 1;
  for (let start = from; start < to; start += BLOCK) {
    block.dense = true;
    block.from = start;
    block.n = Math.min(BLOCK, to - start);
    if (whole) {
      counts[0]! += block.n;
      accumulators.forEach((a) => a.takeRange!(start, start + block.n, 0));
      continue;
    }
    if (filters.length > 0) {
      block.n = filters[0]!.pick(block.from, block.n, block.rows);
      block.dense = false;
      for (let f = 1; f < filters.length; f++) block.n = filters[f]!.keep(block.rows, block.n);
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
      const { values, sums, missing } = summed.exactSum!;
      if (second) {
        const { values: more, sums: moreSums } = second.exactSum!;
        countAndAddTwo(values, more, block, size, counts, sums(), moreSums());
      } else countAndAdd(values, block, size, counts, sums(), missing());
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

interface Filter {
  /** Those of `n` consecutive rows for which it holds, into `rows`; returns how many. */
  pick(from: number, n: number, rows: Int32Array): number;
  /** Those of the first `n` of `rows`. */
  keep(rows: Int32Array, n: number): number;
}

const dayFilter = (days: Int32Array, span: Span): Filter => ({
  pick: (from, n, rows) => pickDays(days, span.from, span.to, from, n, rows),
  keep: (rows, n) => keepDays(days, span.from, span.to, rows, n),
});

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
    const { values } = column;
    return {
      pick: (from, n, rows) => pickBetween(values, low, high, from, n, rows),
      keep: (rows, n) => keepBetween(values, low, high, rows, n),
    };
  }
  const { members, codes } = codedField(column);
  const named = new Set(condition.members.map((member) => member ?? ''));
  const marks = Uint8Array.from(members, (member) => (named.has(member) === (condition.kind === 'is') ? 1 : 0));
  return {
    pick: (from, n, rows) => pickMarked(codes, marks, from, n, rows),
    keep: (rows, n) => keepMarked(codes, marks, rows, n),
  };
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
