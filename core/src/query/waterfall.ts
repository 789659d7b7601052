import { combine, difference, finer, tidy, type Decimals } from '../number';
import { Problem } from '../problem';
import type { Cells } from './cells';

/** One step of a waterfall, from where it starts to where it ends. */
export interface WaterfallStep {
  readonly kind: 'total' | 'step' | 'subtotal';
  readonly name: string;
  /** What the step adds; of a total the total itself. */
  readonly value: number;
  readonly start: number;
  readonly end: number;
  /** A member on one side only. */
  readonly mark: 'new' | 'gone' | null;
}

/** A waterfall that ties out: each step starts where the one before ends, and the last total is the start and all steps. */
export interface Waterfall {
  readonly steps: readonly WaterfallStep[];
  readonly decimals: Decimals;
}

/** A named amount to be added. */
export interface Part {
  readonly name: string;
  readonly value: number;
  readonly mark?: 'new' | 'gone' | null;
  /** Parts of one group follow one another, and end in a subtotal. */
  readonly group?: string;
}

/** Amounts added one after the other from a beginning to a total. Blanks add nothing. */
export function waterfallOf(
  beginning: { readonly name: string; readonly value: number } | null,
  parts: readonly Part[],
  total: string,
  decimals: Decimals,
): Waterfall {
  const steps: WaterfallStep[] = [];
  let at = beginning?.value ?? 0;
  if (beginning) steps.push({ kind: 'total', name: beginning.name, value: at, start: 0, end: at, mark: null });
  parts.forEach(({ name, value, mark = null, group }, i) => {
    const adds = Number.isNaN(value) ? 0 : value;
    const end = combine(at, adds, decimals);
    steps.push({ kind: 'step', name, value, start: at, end, mark });
    at = end;
    const next = parts[i + 1];
    if (group !== undefined && next?.group !== group && next !== undefined)
      steps.push({ kind: 'subtotal', name: group, value: at, start: 0, end: at, mark: null });
  });
  steps.push({ kind: 'total', name: total, value: at, start: 0, end: at, mark: null });
  return { steps, decimals };
}

const nameAt = ({ members }: Cells, row: number) => members.map((names) => names[row]!).join(' · ');

/** Rows of a brief without a grain; a waterfall over time is not one of members. */
function rowsOf({ count, grain }: Cells): number[] {
  if (grain)
    throw new Problem(
      'waterfall-over-time',
      'a waterfall adds members up, not steps in time',
      { in: 'brief' },
      'leave out “each”',
    );
  return Array.from({ length: count }, (_, row) => row);
}

/** Build-up: every member's value in order, to the total of those shown. */
export function buildUp(cells: Cells): Waterfall {
  const parts = rowsOf(cells).map((row) => ({ name: nameAt(cells, row), value: cells.actual[row]! }));
  return waterfallOf(null, parts, 'total', cells.decimals);
}

/**
 * Variance: from the benchmark's total through every member's gap to the actual total. A member that only one side has is
 * new or gone. Throws a `Problem` where the members' benchmarks do not add up to the whole.
 */
export function variance(cells: Cells): Waterfall {
  const { benchmarks, benchmark, total } = cells;
  if (!benchmarks || !benchmark)
    throw new Problem(
      'no-benchmark',
      'a variance needs something to be held against',
      { in: 'brief' },
      'add “against …”',
    );
  const decimals = finer(cells.decimals, exactly(benchmarks));
  const parts = rowsOf(cells).map((row): Part => {
    const [is, was] = [cells.actual[row]!, benchmarks[row]!];
    const mark = Number.isNaN(was) || was === 0 ? (is ? 'new' : null) : Number.isNaN(is) || is === 0 ? 'gone' : null;
    return { name: nameAt(cells, row), value: difference(orZero(is), orZero(was), decimals), mark };
  });
  const held = rowsOf(cells).reduce((sum, row) => combine(sum, orZero(benchmarks[row]!), decimals), 0);
  if (
    !Number.isNaN(total.benchmark) &&
    Math.abs(held - total.benchmark) > 1e-9 * Math.max(1, Math.abs(held)) &&
    isWhole(cells)
  )
    throw new Problem(
      'does-not-tie-out',
      `the members’ “${benchmark.name}” add up to ${tidy(held)} and not to the whole, ${tidy(total.benchmark)}`,
      { in: 'brief' },
      'use a benchmark that adds up over members',
    );
  return waterfallOf({ name: benchmark.name, value: held }, parts, cells.measure.name, decimals);
}

const orZero = (value: number) => (Number.isNaN(value) ? 0 : value);
/** All members are shown: none was left away by a selection without its rest. */
const isWhole = ({ brief }: Cells) => brief.keep === null || brief.keep.rest === true;

/** Decimals all values have, up to 4; null where one needs more. */
function exactly(values: ArrayLike<number>): Decimals {
  for (let d = 0; d <= 4; d++) {
    const scale = 10 ** d;
    let fits = true;
    for (let i = 0; fits && i < values.length; i++) {
      const value = values[i]!;
      fits = Number.isNaN(value) || Math.abs(Math.round(value * scale) / scale - value) === 0;
    }
    if (fits) return d;
  }
  return null;
}

/** A member's value and quantity, now and before; blank where it was not there. */
export interface ValueAndQuantity {
  readonly name: string;
  readonly value: number;
  readonly quantity: number;
  readonly valueBefore: number;
  readonly quantityBefore: number;
}

/** What of a change in value comes from quantity, price, mix, and from members that are new or gone. */
export interface PriceVolumeMix {
  readonly volume: number;
  readonly price: number;
  readonly mix: number;
  readonly new: number;
  readonly gone: number;
}

/**
 * Price–volume–mix over members that are on both sides, with prices p = value ÷ quantity, quantities q and their sums Q:
 * volume = (Q₁ − Q₀) · V₀ ÷ Q₀, price = Σ q₁ (p₁ − p₀), mix = what is left of the gap, Q₁ · Σ (q₁/Q₁ − q₀/Q₀) p₀.
 * All five add up to the gap exactly.
 */
export function priceVolumeMix(members: readonly ValueAndQuantity[], decimals: Decimals): PriceVolumeMix {
  const add = (some: readonly number[]) => some.reduce((sum, value) => combine(sum, value, decimals), 0);
  const there = (value: number, quantity: number) => !Number.isNaN(value) && quantity > 0;
  const both = members.filter((m) => there(m.value, m.quantity) && there(m.valueBefore, m.quantityBefore));
  const rest = members.filter((m) => !both.includes(m));
  const isNew = (m: ValueAndQuantity) => !there(m.valueBefore, m.quantityBefore);
  const gained = add(rest.filter(isNew).map((m) => difference(orZero(m.value), orZero(m.valueBefore), decimals)));
  const lost = add(
    rest.filter((m) => !isNew(m)).map((m) => difference(orZero(m.value), orZero(m.valueBefore), decimals)),
  );
  const [now, before] = [
    both.reduce((sum, m) => sum + m.quantity, 0),
    both.reduce((sum, m) => sum + m.quantityBefore, 0),
  ];
  const valueBefore = add(both.map((m) => m.valueBefore));
  const gap = difference(add(both.map((m) => m.value)), valueBefore, decimals);
  const held = (value: number) =>
    decimals === null ? tidy(value) : Math.round(value * 10 ** decimals) / 10 ** decimals;
  const volume = before === 0 ? 0 : held(((now - before) * valueBefore) / before);
  const price = held(both.reduce((sum, m) => sum + m.value - (m.quantity * m.valueBefore) / m.quantityBefore, 0));
  // What rounding to the smallest unit leaves goes to the mix, so that the sum is exact.
  return {
    volume,
    price,
    mix: difference(difference(gap, volume, decimals), price, decimals),
    new: gained,
    gone: lost,
  };
}
