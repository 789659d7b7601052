import { saysWorkdays, spanOf, workdaysIn } from '../calendar';
import { tidy } from '../number';
import type { Cells } from './cells';

/** Where a running sum is heading, and what it would take to reach the benchmark. Blank is NaN. */
export interface Landing {
  readonly key: Readonly<Record<string, string>>;
  readonly toDate: number;
  readonly benchmarkToDate: number;
  readonly benchmarkEnd: number;
  /** To date ÷ benchmark to date; 1 where that is not used or cannot be told. */
  readonly pace: number;
  /** To date + (benchmark at the end − benchmark to date) × pace. */
  readonly landing: number;
  readonly daysLeft: number;
  /** What each day that is left must bring to reach the benchmark at the end. */
  readonly neededPerDay: number;
  /** The same for workdays, where the report says which these are. */
  readonly workdaysLeft?: number;
  readonly neededPerWorkday?: number;
}

export type LandingKind = 'as so far' | 'as planned';

/** What each workday that is left must bring. */
function workdays({ calendar, period }: Cells, missing: number, daysLeft: number) {
  if (!saysWorkdays(calendar)) return {};
  const workdaysLeft = workdaysIn({ from: period.to - daysLeft + 1, to: period.to }, calendar);
  return { workdaysLeft, neededPerWorkday: workdaysLeft === 0 ? NaN : tidy(missing / workdaysLeft) };
}

/** To date ÷ benchmark to date; 1 where the rest comes in as planned, or where that cannot be told. */
function paceOf(toDate: number, benchmarkToDate: number, kept: LandingKind): number {
  const ratio = toDate / benchmarkToDate;
  return kept === 'as planned' || !Number.isFinite(ratio) ? 1 : ratio;
}

/** Where a sum to date will land: to date + (benchmark at the end − benchmark to date) × pace. */
export function landingOf(
  toDate: number,
  benchmarkEnd: number,
  benchmarkToDate: number,
  kept: LandingKind = 'as so far',
): number {
  return tidy(toDate + (benchmarkEnd - benchmarkToDate) * paceOf(toDate, benchmarkToDate, kept));
}

/** What of the benchmark is due by the as-of date, which lies in the last of some steps; blank where that is not known. */
function dueBy({ benchmarks, due, steps, grain, calendar, period, asOf }: Cells, from: number, last: number): number {
  const runs = Math.min(spanOf(grain!, steps![last]!, calendar).to, period.to) > asOf;
  if (!runs) return benchmarks![last]!;
  if (due === null) return NaN;
  if (!Number.isNaN(due[last]!)) return due[last]!;
  // A step that runs and has none due brings nothing by then. Before its first target a running sum is blank: nothing came before.
  const before = last > from ? benchmarks![last - 1]! : 0;
  return Number.isNaN(before) ? 0 : before;
}

/**
 * Landings of a figure of running sums held against a benchmark, one a member; none for other figures.
 * @param kept the rest comes in as it has so far (`as so far`), or as the benchmark says (`as planned`).
 */
export function landingsOf(cells: Cells, kept: LandingKind = 'as so far'): Landing[] {
  const { view, grain, benchmarks, steps, asOf, period, fields, members, actual } = cells;
  if (view.kind !== 'cumulative' || !grain || !benchmarks || !steps) return [];
  const found: Landing[] = [];
  for (let from = 0; from < cells.count;) {
    let to = from + 1;
    while (to < cells.count && steps[to]! > steps[to - 1]!) to++;
    let last = -1;
    for (let i = from; i < to; i++) if (steps[i]! <= asOf) last = i;
    const toDate = last < 0 ? NaN : actual[last]!;
    const benchmarkEnd = benchmarks[to - 1]!;
    const benchmarkToDate = last < 0 || Number.isNaN(benchmarkEnd) ? NaN : dueBy(cells, from, last);
    const pace = paceOf(toDate, benchmarkToDate, kept);
    const daysLeft = Math.max(0, period.to - Math.max(asOf, period.from - 1));
    found.push({
      key: Object.fromEntries(fields.map((field, f) => [field, members[f]![from]!])),
      toDate,
      benchmarkToDate,
      benchmarkEnd,
      pace: tidy(pace),
      landing: landingOf(toDate, benchmarkEnd, benchmarkToDate, kept),
      daysLeft,
      neededPerDay: daysLeft === 0 ? NaN : tidy((benchmarkEnd - toDate) / daysLeft),
      ...workdays(cells, benchmarkEnd - toDate, daysLeft),
    });
    from = to;
  }
  return found;
}
