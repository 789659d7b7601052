import { writtenDay } from '../calendar';
import { combine, difference, EXACT_LIMIT, finer, tidy, total, type Decimals } from '../number';
import { listed, Problem } from '../problem';
import { BLANK_MEMBER } from '../table';
import type { Cells } from './cells';
import { comesTo, newOrGone } from './compare';
import { DUE_NOT_KNOWN } from './due';
import type { PriceVolumeMix } from './priceVolumeMix';
import { Refusal } from './refusal';

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
  /** The row of the cells it stands for. */
  readonly row: number | null;
}

/** A waterfall that ties out: each step starts where the one before ends, and the last total is the start and all steps. */
export interface Waterfall {
  readonly steps: readonly WaterfallStep[];
  readonly decimals: Decimals;
}

/** A named amount to be added. */
export interface WaterfallPart {
  readonly name: string;
  readonly value: number;
  readonly mark?: 'new' | 'gone' | null;
  readonly row?: number;
  /** Parts of one group follow one another, and end in a subtotal. */
  readonly group?: string;
}

/** Amounts added one after the other from a beginning to a total. Blanks add nothing. */
export function waterfallOf(
  beginning: { readonly name: string; readonly value: number } | null,
  parts: readonly WaterfallPart[],
  total: string,
  decimals: Decimals,
): Waterfall {
  const steps: WaterfallStep[] = [];
  let at = beginning?.value ?? 0;
  let groupFrom = at;
  if (beginning)
    steps.push({ kind: 'total', name: beginning.name, value: at, start: 0, end: at, mark: null, row: null });
  parts.forEach(({ name, value, mark = null, group, row = null }, i) => {
    if (group !== undefined && parts[i - 1]?.group !== group) groupFrom = at;
    const adds = Number.isNaN(value) ? 0 : value;
    const end = combine(at, adds, decimals);
    steps.push({ kind: 'step', name, value, start: at, end, mark, row });
    at = end;
    // A group ends in what its parts are together, from where they began to where they end.
    if (group !== undefined && parts[i + 1]?.group !== group)
      steps.push({
        kind: 'subtotal',
        name: group,
        value: difference(at, groupFrom, decimals),
        start: groupFrom,
        end: at,
        mark: null,
        row: null,
      });
  });
  steps.push({ kind: 'total', name: total, value: at, start: 0, end: at, mark: null, row: null });
  return { steps, decimals };
}

/** Of several fields the first is the parent: its members follow one another, and each ends in a subtotal. */
function inGroups(cells: Cells, parts: readonly (WaterfallPart & { readonly row: number })[]): WaterfallPart[] {
  const { members, fields } = cells;
  if (fields.length < 2) return parts.map((part) => ({ ...part, name: members[0]?.[part.row] || part.name }));
  const groups = new Map<string, WaterfallPart[]>();
  for (const part of parts) {
    const group = members[0]![part.row]! || BLANK_MEMBER;
    const named = {
      ...part,
      group,
      name: cells.isRest[part.row]
        ? group
        : members
            .slice(1)
            .map((names) => names[part.row]! || BLANK_MEMBER)
            .join(' · '),
    };
    groups.set(group, [...(groups.get(group) ?? []), named]);
  }
  return [...groups.values()].flat();
}

/** The waterfall of a figure: the parts of the gap where a quantity is named, the members' gaps to a benchmark, or what adds up to the total. */
export function waterfallFor(cells: Cells): Waterfall {
  refuseUnknown(cells);
  const { mix } = cells.extras;
  if (mix) return mixSteps(cells, mix);
  return cells.benchmarks ? variance(cells) : buildUp(cells);
}

/** Throws a `Problem` where a row is not known: what cannot be added up ends in no total. */
function refuseUnknown({ isUnknown, members, measure, count }: Cells): void {
  const names = Array.from({ length: count }, (_, row) => row)
    .filter((row) => isUnknown[row] === 1)
    .map((row) => members.map((of) => of[row]! || BLANK_MEMBER).join(' · ') || measure.name);
  if (names.length === 0) return;
  const told = [...names.slice(0, 3), ...(names.length > 3 ? [`${names.length - 3} more`] : [])];
  throw new Problem(
    'rate-missing',
    `exchange rates are missing for ${listed(told, 'and')}, so steps would not add up to what “${measure.name}” is`,
    { in: 'brief' },
    'add the rates to their table, leave these members out with “only”, or draw the figure as bars, which tells what is missing',
  );
}

/** From the benchmark through volume, price, mix, what is new and what is gone to the actual total. */
function mixSteps(cells: Cells, mix: PriceVolumeMix): Waterfall {
  const { shown, benchmark, measure, decimals } = cells;
  const parts = (['volume', 'price', 'mix', 'new', 'gone'] as const).map((name) => ({ name, value: mix[name] }));
  const all = [...parts, ...exchangeStep(cells, decimals)];
  return waterfallOf({ name: benchmark!.name, value: orZero(shown.benchmark) }, all, measure.name, decimals);
}

/** What the step of exchange rates is called. */
export const EXCHANGE = 'exchange rates';

/** The step of what exchange rates did, where it is told apart: amounts as they are, less amounts at the rates of the period before. */
function exchangeStep({ actual, extras: { atRatesBefore } }: Cells, decimals: Decimals): WaterfallPart[] {
  if (!atRatesBefore) return [];
  const effects = Array.from(atRatesBefore, (before, row) =>
    difference(orZero(actual[row]!), orZero(before), decimals),
  );
  return [{ name: EXCHANGE, value: total(effects, decimals) || 0 }];
}

/** Rows of a brief without a grain; a waterfall over time is not one of members. */
function rowsOf({ count, grain, additive, view, measure }: Cells): number[] {
  if (!additive && view.kind !== 'rank')
    throw new Problem(
      'not-additive',
      `“${measure.name}” does not add up over members, so its parts make no total`,
      { in: 'brief' },
      'use a measure that is a sum or a count, or draw it as bars',
    );
  if (view.kind === 'rank')
    throw new Problem('not-additive', 'ranks do not add up', { in: 'brief' }, `use “${measure.name}” itself`);
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
  const parts = rowsOf(cells).map((row) => ({ name: BLANK_MEMBER, row, value: cells.actual[row]! }));
  return waterfallOf(null, [...inGroups(cells, parts), ...notInMembers(cells)], 'total', cells.decimals);
}

/**
 * What the whole has beyond its members, as one step more: of a measure of several terms a member that lacks one of them is blank, and
 * the whole counts the others of its terms.
 */
function notInMembers({ actual, shown, decimals, addsUp }: Cells): WaterfallPart[] {
  if (addsUp || Number.isNaN(shown.actual) || comesTo(actual, shown.actual, decimals)) return [];
  return [{ name: 'of blank members', value: difference(shown.actual, total(actual, decimals) || 0, decimals) }];
}

/**
 * Variance: from the benchmark's total through every member's gap to the actual total; while the period runs, from what is due by
 * now. Of a benchmark that is another period, a member that only one side has is new or gone; who only has a target has sold
 * nothing yet. Throws a `Problem` where the members' benchmarks do not add up to the whole, or it is not known what of them is due.
 */
export function variance(cells: Cells): Waterfall {
  const { benchmark, total, due } = cells;
  const { atRatesBefore } = cells.extras;
  const isDue = due !== null && !Number.isNaN(total.due);
  const benchmarks = isDue ? due : cells.benchmarks;
  const whole = isDue ? total.due : total.benchmark;
  const isThen = cells.benchmarkKind === 'period';
  if (!benchmarks || !benchmark)
    throw new Problem(
      'no-benchmark',
      'a variance needs something to be held against',
      { in: 'brief' },
      'add “against …”',
    );
  if (cells.checks.some(({ code }) => code === DUE_NOT_KNOWN))
    throw new Refusal(
      DUE_NOT_KNOWN,
      `“${benchmark.name}” is not spread over time, so it is not known what of it is due by ${writtenDay(cells.asOf)}, and a waterfall would set all of it against a part`,
      'ask for a period that is over, or say in the benchmark how to spread it: "spread": "even", "workdays" or "last year"',
      (brief) => ({ ...brief, against: null }),
    );
  const decimals = finer(cells.decimals, exactly(benchmarks));
  const parts = rowsOf(cells).map((row) => {
    const [is, was] = [cells.actual[row]!, benchmarks[row]!];
    return {
      name: BLANK_MEMBER,
      row,
      mark: isThen ? newOrGone(is, was) : null,
      value: difference(orZero(atRatesBefore?.[row] ?? is), orZero(was), decimals),
    };
  });
  const held = rowsOf(cells).reduce((sum, row) => combine(sum, orZero(benchmarks[row]!), decimals), 0);
  if (!Number.isNaN(whole) && Math.abs(held - whole) > 1e-9 * Math.max(1, Math.abs(held)) && isWhole(cells))
    throw new Problem(
      'does-not-tie-out',
      `the members’ “${benchmark.name}” add up to ${tidy(held)} and not to the whole, ${tidy(whole)}`,
      { in: 'brief' },
      'use a benchmark that adds up over members',
    );
  const beginning = isDue ? `${benchmark.name} due by now` : benchmark.name;
  const all = [...inGroups(cells, parts), ...notInMembers(cells), ...exchangeStep(cells, decimals)];
  return waterfallOf({ name: beginning, value: held }, all, cells.measure.name, decimals);
}

const orZero = (value: number) => (Number.isNaN(value) ? 0 : value);
/** All members are shown: none was left away by a selection without its rest. */
const isWhole = ({ brief }: Cells) => brief.keep === null || brief.keep.rest === true;

/** Decimals all values have, as parts of targets do; null where one needs more, or their sums would be too large. */
function exactly(values: ArrayLike<number>): Decimals {
  let magnitude = 0;
  for (let i = 0; i < values.length; i++) magnitude += Math.abs(values[i]!) || 0;
  for (let d = 0; d <= 12; d++) {
    const scale = 10 ** d;
    let fits = magnitude * scale < EXACT_LIMIT / 4;
    for (let i = 0; fits && i < values.length; i++) {
      const value = values[i]!;
      fits = Number.isNaN(value) || Math.abs(Math.round(value * scale) / scale - value) === 0;
    }
    if (fits) return d;
  }
  return null;
}
