import type { FiscalCalendar } from '../calendar';
import type { Groups, Query } from '../query';
import type { Table } from '../table';
import { accumulatorFor } from './accumulator';
import { collect } from './collect';
import {
  BLOCK,
  countRows,
  keepBetween,
  keepDays,
  keepMarked,
  laned,
  lanes,
  newBlock,
  pickBetween,
  pickDays,
  pickMarked,
} from './kernels';
import { hashing } from './placement';
import { firstAtLeast, scopeOf, type RowFilter, type Scope } from './scope';
import { runTogether, vectorEngine, vectorPlan, type ScanHelper, type Sharing, type VectorEngine } from './vector';

/** Above this many possible groups, those that occur are found by hashing instead of by place. */
const DENSE_GROUPS = 1 << 22;

/**
 * Answers a query from a columnar table in one pass over its rows, block by block.
 * @param engine runs exact sums and counts; without one, as where WebAssembly may not run, everything is done here
 */
export function scan(
  table: Table,
  query: Query,
  calendar: FiscalCalendar,
  engine: VectorEngine | null = vectorEngine(),
): Groups {
  const scope = scopeOf(table, query, calendar);
  const planned = engine && vectorPlan(table, query, scope);
  if (planned) return planned.groups(engine.run(planned.plan, [[scope.from, scope.to]]));
  return scanInTurn(table, query, scope);
}

/** The same, where other threads do a part of it. */
export async function scanTogether(
  table: Table,
  query: Query,
  calendar: FiscalCalendar,
  helpers: readonly ScanHelper[],
  sharing?: Sharing,
): Promise<Groups> {
  const scope = scopeOf(table, query, calendar);
  const engine = vectorEngine();
  const planned = engine && vectorPlan(table, query, scope);
  if (!planned) return scanInTurn(table, query, scope);
  return planned.groups(await runTogether(engine, planned.plan, [scope.from, scope.to], helpers, sharing));
}

/** The same without the engine. */
function scanInTurn(
  table: Table,
  query: Query,
  { from, to, filters: conditions, places, date, undated }: Scope,
): Groups {
  const filters = conditions.map(filterOf);
  const hashed = places.size > DENSE_GROUPS ? hashing() : null;
  const possible = hashed ? null : places.size;
  const accumulators = query.aggregates.map((aggregate) => accumulatorFor(table, aggregate, possible));
  // Groups found by hashing grow in number; more than the kernels keep lanes for, so that a group's place never moves.
  let size = hashed ? DENSE_GROUPS / 64 : places.size;
  let counts: Float64Array = new Float64Array(lanes(size));
  accumulators.forEach((a) => a.grow(size));
  const collected = () =>
    collect(
      query,
      places,
      hashed && hashed.seen,
      hashed ? hashed.count : places.size,
      (place) => laned(counts, place, size),
      accumulators,
      undated,
    );

  const block = newBlock();
  const inRuns = filters.length === 0 && query.by.length === 0 && accumulators.every((a) => a.takeRange?.(0, 0, 0));
  if (inRuns && places.starts && table.inDateOrder) {
    // Each step is a run of consecutive rows.
    places.starts.forEach((_, step, starts) => {
      const first = step === 0 ? from : firstAtLeast(date!.days, starts[step]!);
      const next = step + 1 < starts.length ? firstAtLeast(date!.days, starts[step + 1]!) : to;
      counts[step]! += next - first;
      accumulators.forEach((a) => a.takeRange!(first, next, step));
    });
    return collected();
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
    countRows(block, size, counts);
    accumulators.forEach((a) => a.take(block));
  }
  return collected();
}

interface Filter {
  /** Those of `n` consecutive rows for which it holds, into `rows`; returns how many. */
  pick(from: number, n: number, rows: Int32Array): number;
  /** Those of the first `n` of `rows`. */
  keep(rows: Int32Array, n: number): number;
}

function filterOf(filter: RowFilter): Filter {
  switch (filter.kind) {
    case 'days': {
      const { days, from, to } = filter;
      return {
        pick: (first, n, rows) => pickDays(days, from, to, first, n, rows),
        keep: (rows, n) => keepDays(days, from, to, rows, n),
      };
    }
    case 'codes': {
      const { codes, marks } = filter;
      return {
        pick: (first, n, rows) => pickMarked(codes, marks, first, n, rows),
        keep: (rows, n) => keepMarked(codes, marks, rows, n),
      };
    }
    case 'between': {
      const { values, low, high } = filter;
      return {
        pick: (first, n, rows) => pickBetween(values, low, high, first, n, rows),
        keep: (rows, n) => keepBetween(values, low, high, rows, n),
      };
    }
  }
}
