import type { Aggregate } from '../measure';
import { percentile, power, tidy } from '../number';
import { columnOf, type Table } from '../table';
import { computed, truthOf, type Computed } from './derived';
import {
  addAll,
  addCompensated,
  addExact,
  addExactRun,
  addFilled,
  addFilledPicked,
  addMoments,
  keepExtreme,
  keepTrue,
  laned,
  lanes,
  markSeen,
  newBlock,
  pick,
  type Block,
} from './kernels';

/** Gathers one aggregate over the rows of a scan, group by group. */
export interface Accumulator {
  grow(groups: number): void;
  take(block: Block): void;
  /** Adds consecutive rows to one group, without a block; false when this aggregate needs to see rows one by one. */
  takeRange?(from: number, to: number, group: number): boolean;
  /** Value of a group that has rows; scaled where decimals are known. */
  result(group: number, rows: number): number;
  readonly decimals: number | null;
}

function grown(array: Float64Array, groups: number, fill = 0): Float64Array {
  if (array.length >= groups) return array;
  const next = new Float64Array(groups);
  if (fill !== 0) next.fill(fill);
  next.set(array);
  return next;
}

const NONE: Float64Array = new Float64Array(0);

/**
 * The accumulator of an aggregate over a table, its `filter (where …)` applied.
 * @param groups how many groups there can be; null when that is found out on the way.
 */
export function accumulatorFor(table: Table, aggregate: Aggregate, groups: number | null): Accumulator {
  const inner = plainAccumulator(table, aggregate, groups);
  if (!aggregate.filter) return inner;
  // `filter (where …)`: only rows for which it is true are handed on.
  const mask = truthOf(table, aggregate.filter);
  const left = newBlock();
  let counts = NONE;
  return {
    decimals: inner.decimals,
    grow(groups) {
      counts = grown(counts, groups);
      inner.grow(groups);
    },
    take(block) {
      keepTrue(mask, block, left);
      for (let i = 0; i < left.n; i++) counts[left.groups[i]!]!++;
      inner.take(left);
    },
    result: (group) => inner.result(group, counts[group]!),
  };
}

function plainAccumulator(table: Table, aggregate: Aggregate, groups: number | null): Accumulator {
  if (aggregate.of === null)
    return { decimals: 0, grow: () => {}, take: () => {}, takeRange: () => true, result: (_, rows) => rows };
  const argument = computed(table, aggregate.of);
  if (aggregate.distinct) return distinctAccumulator(argument, aggregate, table, groups);
  switch (aggregate.fn) {
    case 'sum':
      return sumAccumulator(argument, (sum) => sum, argument.decimals);
    case 'avg': {
      const scale = power(argument.decimals ?? 0);
      return sumAccumulator(argument, (sum, count) => sum / count / scale, null);
    }
    case 'count':
      return sumAccumulator({ ...argument, decimals: 0 }, (_, count) => count, 0, true);
    case 'min':
      return extremeAccumulator(argument, 1);
    case 'max':
      return extremeAccumulator(argument, -1);
    case 'stddev_samp':
      return deviationAccumulator(argument);
    case 'percentile_cont':
      return percentileAccumulator(argument, aggregate.p ?? 0.5);
  }
}

/** Sums and counts, from which sum, avg and count follow. A count of no values is 0, everything else of none is blank. */
function sumAccumulator(
  { values, decimals, blanks }: Computed,
  finish: (sum: number, count: number) => number,
  resultDecimals: number | null,
  emptyIsZero = false,
): Accumulator {
  let sums = NONE;
  let lost = NONE;
  /** Blanks of an exact column; of another the values that are there. */
  let counts = NONE;
  let size = 0;
  const exact = decimals !== null;
  return {
    decimals: resultDecimals,
    grow(groups) {
      size = groups;
      // Only exact sums spread a group over several lanes; the number of groups is then known from the start.
      const places = exact ? lanes(groups) : groups;
      sums = grown(sums, places);
      counts = grown(counts, places);
      if (!exact) lost = grown(lost, groups);
    },
    take(block) {
      if (!exact) addCompensated(values, pick(block), sums, lost, counts);
      else if (blanks) {
        if (block.dense) addExactRun(values, block, size, sums, counts);
        else addExact(values, block, sums, counts);
      } else if (block.dense) addFilled(values, block, size, sums);
      else addFilledPicked(values, block, size, sums);
    },
    takeRange(from, to, group) {
      if (blanks || !exact) return false;
      sums[group]! += addAll(values, from, to);
      return true;
    },
    result(group, rows) {
      const count = exact ? rows - laned(counts, group, size) : counts[group]!;
      if (count === 0) return emptyIsZero ? 0 : NaN;
      return finish(exact ? laned(sums, group, size) : tidy(sums[group]! + lost[group]!), count);
    },
  };
}

function extremeAccumulator({ values, decimals }: Computed, sign: 1 | -1): Accumulator {
  let best = NONE;
  return {
    decimals,
    grow: (groups) => (best = grown(best, groups, sign * Infinity)),
    take: (block) => keepExtreme(values, sign, pick(block), best),
    result: (group) => (Number.isFinite(best[group]!) ? best[group]! : NaN),
  };
}

function deviationAccumulator({ values, decimals }: Computed): Accumulator {
  let means = NONE;
  let squares = NONE;
  let counts = NONE;
  const scale = power(decimals ?? 0);
  return {
    decimals: null,
    grow(groups) {
      means = grown(means, groups);
      squares = grown(squares, groups);
      counts = grown(counts, groups);
    },
    take: (block) => addMoments(values, pick(block), means, squares, counts),
    result: (group) => (counts[group]! < 2 ? NaN : Math.sqrt(squares[group]! / (counts[group]! - 1)) / scale),
  };
}

/** Values of each group, kept until the end: for percentiles. SQL interpolates between neighbours. */
function percentileAccumulator({ values, decimals }: Computed, p: number): Accumulator {
  const kept = new Map<number, number[]>();
  const scale = power(decimals ?? 0);
  return {
    decimals: null,
    grow: () => {},
    take(block) {
      const { rows, groups, n } = pick(block);
      for (let i = 0; i < n; i++) {
        const value = values[rows[i]!]!;
        if (Number.isNaN(value)) continue;
        const list = kept.get(groups[i]!);
        if (list) list.push(value);
        else kept.set(groups[i]!, [value]);
      }
    },
    result(group) {
      const sorted = kept.get(group)?.sort((a, b) => a - b);
      return sorted ? percentile(sorted, p) / scale : NaN;
    },
  };
}

/** Up to this many pairs of group and text, whether one was seen is a byte. */
const MOST_PAIRS = 1 << 26;

/** An aggregate of values of which no two are the same. */
function ofDifferent(fn: Aggregate['fn'], values: readonly number[], scale: number): number {
  if (fn === 'min' || fn === 'max') return values.reduce((a, b) => (fn === 'min' ? Math.min(a, b) : Math.max(a, b)));
  const sum = values.reduce((a, b) => a + b, 0);
  if (fn === 'sum') return sum;
  const mean = sum / values.length;
  if (fn === 'avg') return mean / scale;
  const squares = values.reduce((all, value) => all + (value - mean) ** 2, 0);
  return values.length < 2 ? NaN : Math.sqrt(squares / (values.length - 1)) / scale;
}

function distinctAccumulator(
  argument: Computed,
  aggregate: Aggregate,
  table: Table,
  groups: number | null,
): Accumulator {
  const column = aggregate.of?.kind === 'column' ? columnOf(table, aggregate.of.name) : undefined;
  if (column?.kind === 'text' && groups !== null && groups * column.members.length <= MOST_PAIRS) {
    const { codes, members } = column;
    const seen = new Uint8Array(groups * members.length);
    const counts = new Float64Array(groups);
    return {
      decimals: 0,
      grow: () => {},
      take: (block) => markSeen(codes, members.length, pick(block), seen, counts),
      result: (group) => counts[group]!,
    };
  }
  // Texts are told apart by their codes, everything else by its value.
  const values =
    column?.kind === 'text' ? Float64Array.from(column.codes, (code) => (code === 0 ? NaN : code)) : argument.values;
  const decimals = column?.kind === 'text' ? 0 : argument.decimals;
  const kept = new Map<number, Set<number>>();
  return {
    decimals: aggregate.fn === 'count' ? 0 : aggregate.fn === 'avg' || aggregate.fn === 'stddev_samp' ? null : decimals,
    grow: () => {},
    take(block) {
      const { rows, groups, n } = pick(block);
      for (let i = 0; i < n; i++) {
        const value = values[rows[i]!]!;
        if (Number.isNaN(value)) continue;
        const set = kept.get(groups[i]!);
        if (set) set.add(value);
        else kept.set(groups[i]!, new Set([value]));
      }
    },
    result(group) {
      const different = [...(kept.get(group) ?? [])];
      if (aggregate.fn === 'count') return different.length;
      return different.length === 0 ? NaN : ofDifferent(aggregate.fn, different, power(decimals ?? 0));
    },
  };
}
