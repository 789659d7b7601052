import type { View } from '../brief';
import { stepCode, type Day, type Span } from '../calendar';
import { columnsOf } from '../measure';
import { combine, finer, total as sumOf, type Decimals } from '../number';
import type { Benchmark } from '../report';
import type { Held } from './benchmark/asked';
import { kindBeneath } from './benchmark/benchmark';
import type { Cells, CellState } from './cells';
import { compare, standingCode } from './compare';
import { landingOf } from './landing';
import { actualSpan, aggregated, type Context } from './context';
import type { Member, Whole } from './members';
import type { Stepping } from './stepping';
import { groupKey, valuesOf, type Values, orBlank } from './values';
import { ranksOf, shareOf, viewOver } from './views';

/** What an expression over the measure's table is for every chosen member and step. A problem says whose expression it is. */
export async function expressionOfRows(
  context: Context,
  chosen: readonly Member[],
  steps: readonly (Day | null)[],
  expression: string,
  who: string,
): Promise<Float64Array> {
  const { brief, source, measure, calendar } = context;
  const of = aggregated(source, measure.table, expression, who, { calendar, currency: measure.currency });
  const shape = { by: brief.by, grain: brief.grain, span: actualSpan(context), where: brief.only };
  const values = await valuesOf(source, of, shape);
  return Float64Array.from(
    chosen.flatMap(({ members }) => steps.map((step) => values.at.get(groupKey(members, step))?.value ?? NaN)),
  );
}

/** What is due of a view's benchmark: of a running sum, what came before the step and what is due of the step. */
function duesOver(
  view: View,
  dues: readonly number[],
  benchmarks: readonly number[] | null,
  decimals: Decimals,
): readonly number[] | null {
  if (view.kind === 'plain' || view.kind === 'rank') return dues;
  if (view.kind !== 'cumulative' || !benchmarks) return null;
  // Before its first target a running sum is blank: nothing came before.
  return dues.map((due, s) =>
    s === 0 || Number.isNaN(due) || Number.isNaN(benchmarks[s - 1]!) ? due : combine(benchmarks[s - 1]!, due, decimals),
  );
}

/** Whether a view's benchmark covers what the view is made of: of a running sum all steps so far, of a share all members. */
function coveredOver(view: View, { covered }: Member, everyone: readonly Member[]): readonly boolean[] {
  if (view.kind === 'share') return covered.map((_, s) => everyone.every((member) => member.covered[s]));
  if (view.kind !== 'cumulative') return covered;
  const first = covered.indexOf(false);
  return first < 0 ? covered : covered.map((_, s) => s < first);
}

/** What a figure's answer is put together from. */
export interface Packing {
  readonly context: Context;
  readonly benchmark: Benchmark | null;
  readonly held: Held | null;
  readonly due: Held | null;
  readonly steps: readonly (Day | null)[];
  readonly everyone: readonly Member[];
  readonly chosen: readonly Member[];
  readonly whole: Whole;
  /** The whole of what is shown, where a selection has left members away. */
  readonly shown: Whole | null;
  readonly actual: Values;
  readonly stepping: Stepping;
  /** Of the step before the one that is cut as many days as that has: each member's actual and benchmark. */
  readonly before: (member: Member) => { readonly actual: number; readonly benchmark: number };
  /** The measure and its benchmark step by step for all members, where the whole is not their sum; null where it is. */
  readonly wholeSteps: { readonly actuals: readonly number[]; readonly before: number } | null;
  readonly values: Cells['values'];
  readonly lit: Cells['lit'];
  readonly extras: Cells['extras'];
}

/** Everything in typed arrays: for each chosen member its steps in order. */
export function pack({
  context,
  benchmark,
  held,
  due,
  steps,
  everyone,
  chosen,
  whole,
  shown: shownWhole,
  actual,
  stepping,
  before,
  wholeSteps,
  values,
  lit,
  extras,
}: Packing): Cells {
  const { brief, measure, asOf, of, choices } = context;
  const view = brief.views[0]!;
  const width = steps.length;
  const count = chosen.length * width;
  const numbers = () => new Float64Array(count).fill(NaN);
  const heldDecimals = held?.values.decimals ?? null;
  const dueDecimals = due ? finer(heldDecimals, due.values.decimals) : null;
  // A share, a change in a share or a mean is no longer a multiple of the measure's smallest unit.
  const viewDecimals = view.kind === 'share' || view.kind === 'smoothed' ? null : actual.decimals;
  // The steps before the period are those that its first ones look back to.
  const leads = stepping.line.until - stepping.until;
  const line = Array.from({ length: leads + width }, (_, s) => s);
  const stepTotals = (pick: (member: Member) => readonly number[] | null, decimals: Decimals) =>
    line.map((s) =>
      sumOf(
        everyone.map((member) => pick(member)?.[s] ?? NaN),
        decimals,
      ),
    );
  // Where members do not add up to the whole, shares are of the whole.
  const totals = of.addsUp || brief.grain ? stepTotals((member) => member.actuals, actual.decimals) : [whole.actual];
  const heldTotals = held ? stepTotals((member) => member.benchmarks, heldDecimals) : [];
  const isOver = view.kind === 'change' || view.kind === 'smoothed';

  /** A member's values as the view sees them. */
  const seen = (list: readonly number[], decimals: Decimals, asMuchBefore: number, wholes: readonly number[]) =>
    view.kind === 'share'
      ? list.map((value, s) => shareOf(value, wholes[s]!))
      : viewOver(view, list, decimals, stepping.line, asMuchBefore, choices.window).slice(leads);
  const actualsOf = (member: Member) => seen(member.actuals, actual.decimals, before(member).actual, totals);
  const benchmarksOf = (member: Member) => {
    if (!member.benchmarks) return null;
    const { cut } = stepping.line;
    const { dues } = member;
    // A change of what is cut is held against what is due of it; changes and means of what is not all there are blank.
    const list = isOver
      ? member.benchmarks.map((value, s) =>
          !member.covered[s] ? NaN : s === cut && dues && !Number.isNaN(dues[s]!) ? dues[s]! : value,
        )
      : member.benchmarks;
    // The benchmark of a running sum runs on to the end.
    const runsOn = view.kind === 'cumulative' ? { ...stepping, until: width } : stepping.line;
    return view.kind === 'share'
      ? list.map((value, s) => shareOf(value, heldTotals[s]!))
      : viewOver(view, list, heldDecimals, runsOn, before(member).benchmark, choices.window).slice(leads);
  };

  const hasDue =
    chosen.some((member) => member.dues) &&
    (view.kind === 'plain' || view.kind === 'cumulative' || view.kind === 'rank');
  const hasInterval =
    view.kind === 'plain' && chosen.some(({ within }) => within?.some(({ low }) => !Number.isNaN(low)));
  const hasShare = of.additive && brief.by.length > 0 && !isOver;
  const out = {
    actual: numbers(),
    benchmarks: held ? numbers() : null,
    due: hasDue ? numbers() : null,
    low: hasInterval ? numbers() : null,
    high: hasInterval ? numbers() : null,
    gap: held ? numbers() : null,
    gapPercent: held ? numbers() : null,
    standing: held ? new Uint8Array(count) : null,
    dueGap: hasDue ? numbers() : null,
    dueGapPercent: hasDue ? numbers() : null,
    dueStanding: hasDue ? new Uint8Array(count) : null,
    rank: brief.by.length > 0 ? numbers() : null,
    benchmarkRank: view.kind === 'rank' && held ? numbers() : null,
    rankChange: brief.by.length > 0 && (brief.grain || benchmark?.kind === 'period') ? numbers() : null,
    landing: choices.landing && hasDue && of.additive && !brief.grain && view.kind === 'plain' ? numbers() : null,
    share: hasShare ? numbers() : null,
    rows: new Float64Array(count),
    state: [] as CellState[],
  };
  // Ranks are among all members, also those that are not kept, and rank what the view shows of them.
  const everyoneSeen = out.rank ? everyone.map(actualsOf) : [];
  const everyoneHeld = out.rank && held ? everyone.map(benchmarksOf) : [];
  // While a step runs, nearest is who is nearest to what is due by now.
  const everyoneJudged = everyoneHeld.map((list, i) => {
    const dues = hasDue && everyone[i]!.dues ? duesOver(view, everyone[i]!.dues!, list, dueDecimals) : null;
    return list!.map((value, s) => (dues && !Number.isNaN(dues[s]!) ? dues[s]! : value));
  });
  const ranked = (inStep: readonly number[], held: readonly number[] | null) => {
    const found = ranksOf(inStep, measure.aim, held, choices.rank);
    return new Map(found.map((rank, i) => [everyone[i]!, rank]));
  };
  const ranks = out.rank
    ? steps.map((_, s) =>
        ranked(
          everyoneSeen.map((list) => list[s]!),
          held && everyoneJudged.map((list) => list[s]!),
        ),
      )
    : [];
  const heldRanks = out.benchmarkRank
    ? steps.map((_, s) =>
        ranked(
          everyoneHeld.map((list) => list![s]!),
          null,
        ),
      )
    : null;
  const ranksBefore =
    out.rankChange && !brief.grain
      ? ranked(
          everyone.map((member) => member.benchmarks?.[0] ?? NaN),
          null,
        )
      : null;
  const runningTotals = view.kind === 'cumulative' ? viewOver(view, totals, actual.decimals, stepping, NaN) : totals;
  chosen.forEach((member, m) => {
    const actuals = actualsOf(member);
    const benchmarks = benchmarksOf(member);
    const dues = member.dues && duesOver(view, member.dues, benchmarks, dueDecimals);
    const covered = coveredOver(view, member, everyone).slice(leads);
    // What is due of a running sum rests on the steps before, all of which are over.
    const coveredDue =
      view.kind === 'cumulative'
        ? member.coveredDue.map((is, s) => is && (s === 0 || covered[s - 1]!))
        : member.coveredDue;
    steps.forEach((_, s) => {
      const i = m * width + s;
      out.actual[i] = actuals[s]!;
      out.rows[i] = member.rows[s + leads]!;
      out.state.push(Number.isFinite(actuals[s]!) ? 'actual' : 'blank');
      if (out.rank) out.rank[i] = ranks[s]!.get(member) ?? NaN;
      if (out.benchmarkRank) out.benchmarkRank[i] = heldRanks![s]!.get(member) ?? NaN;
      if (out.rankChange) {
        const then = ranksBefore ? ranksBefore.get(member) : ranks[s - 1]?.get(member);
        out.rankChange[i] = (then ?? NaN) - out.rank![i]!;
      }
      if (out.share)
        out.share[i] =
          view.kind === 'cumulative'
            ? shareOf(actuals[s]!, runningTotals[s]!)
            : shareOf(member.actuals[s]!, totals[s]!);
      if (!benchmarks) return;
      out.benchmarks![i] = benchmarks[s]!;
      if (hasInterval) {
        out.low![i] = member.within?.[s]!.low ?? NaN;
        out.high![i] = member.within?.[s]!.high ?? NaN;
      }
      if (covered[s]) {
        const comparison = compare(actuals[s]!, benchmarks[s]!, measure, viewDecimals, heldDecimals);
        out.gap![i] = comparison.gap;
        out.gapPercent![i] = comparison.gapPercent;
        out.standing![i] = standingCode(comparison.standing);
      }
      if (!dues || !hasDue) return;
      out.due![i] = dues[s]!;
      if (out.landing) out.landing[i] = landingOf(actuals[s]!, benchmarks[s]!, dues[s]!, choices.landing);
      if (!coveredDue[s]) return;
      const toDate = compare(actuals[s]!, dues[s]!, measure, viewDecimals, dueDecimals);
      out.dueGap![i] = toDate.gap;
      out.dueGapPercent![i] = toDate.gapPercent;
      out.dueStanding![i] = standingCode(toDate.standing);
    });
  });
  const isInfinite = (list: Float64Array | null, i: number) => Math.abs(list?.[i] ?? 0) === Infinity;
  const isUnknown = Uint8Array.from(out.actual, (_, i) =>
    [out.actual, out.benchmarks, out.due].some((list) => isInfinite(list, i)) ? 1 : 0,
  );
  // What rests on a rate that is missing is blank.
  for (const list of Object.values(out))
    if (list instanceof Float64Array) list.forEach((value, i) => (list[i] = orBlank(value)));
  /** A whole with its gaps. */
  const compared = (given: Whole & { readonly step?: Day | null }): Cells['total'] => {
    const one = {
      ...given,
      actual: orBlank(given.actual),
      benchmark: orBlank(given.benchmark),
      due: orBlank(given.due),
    };
    const comparison = one.isCovered
      ? compare(one.actual, one.benchmark, measure, viewDecimals, heldDecimals)
      : NO_COMPARISON;
    const toDate = one.isDueCovered ? compare(one.actual, one.due, measure, viewDecimals, dueDecimals) : NO_COMPARISON;
    return {
      actual: one.actual,
      benchmark: one.benchmark,
      due: one.due,
      rows: one.rows,
      step: one.step ?? null,
      ...comparison,
      dueGap: toDate.gap,
      dueGapPercent: toDate.gapPercent,
      dueStanding: toDate.standing,
    };
  };
  /** A whole as the view sees it: its part of everything, or what the last step with a value is. */
  const viewed = (one: Whole, members: readonly Member[]): Whole & { readonly step?: Day | null } => {
    if (view.kind === 'share')
      return {
        ...one,
        actual: shareOf(one.actual, whole.actual),
        benchmark: shareOf(one.benchmark, whole.benchmark),
        due: NaN,
      };
    if (!isOver) return one;
    const isAll = members === everyone;
    if (!of.additive && !(isAll && wholeSteps)) return { ...one, actual: NaN, benchmark: NaN, due: NaN };
    const sums = (pick: (member: Member) => number, decimals: Decimals) => sumOf(members.map(pick), decimals);
    const actuals = of.additive
      ? line.map((s) => sums((member) => member.actuals[s]!, actual.decimals))
      : wholeSteps!.actuals;
    const asMuch = of.additive ? sums((member) => before(member).actual, actual.decimals) : wholeSteps!.before;
    const shown = seen(actuals, actual.decimals, asMuch, totals);
    const last = shown.findLastIndex((value) => !Number.isNaN(value));
    const lines = held && of.additive && !Number.isNaN(whole.benchmark) ? members.map(benchmarksOf) : [];
    const benchmark =
      last < 0 || lines.length === 0
        ? NaN
        : sumOf(
            lines.map((list) => list![last]!),
            heldDecimals,
          );
    return {
      ...one,
      actual: last < 0 ? NaN : shown[last]!,
      benchmark,
      due: NaN,
      isCovered: members.every((member) => last < 0 || member.covered[last + leads]),
      step: steps[last] ?? null,
    };
  };
  const total = compared(viewed(whole, everyone));
  const isSelection = shownWhole !== null;
  return {
    brief,
    text: context.text,
    view,
    measure,
    benchmark,
    benchmarkKind: benchmark && kindBeneath(context, benchmark),
    calendar: context.calendar,
    asOf,
    dated: context.dated,
    period: context.period,
    benchmarkPeriod: benchmarkSpan(context, benchmark, held),
    fields: brief.by,
    grain: brief.grain,
    count,
    members: brief.by.map((_, f) => chosen.flatMap((member) => steps.map(() => member.members[f]!))),
    steps: brief.grain ? Int32Array.from(chosen.flatMap(() => steps as Day[])) : null,
    isRest: Uint8Array.from(chosen.flatMap((member) => steps.map(() => (member.isRest ? 1 : 0)))),
    isPart: brief.grain ? Uint8Array.from(chosen.flatMap(() => stepping.isWhole.map((is) => (is ? 0 : 1)))) : null,
    cutBefore: view.kind === 'change' ? stepping.cutBefore : null,
    ...out,
    isUnknown,
    values,
    lit,
    extras,
    total,
    shown: shownWhole ? compared(viewed(shownWhole, chosen)) : total,
    isSelection,
    everyone: everyone.length,
    decimals: viewDecimals,
    additive: of.additive,
    addsUp: of.addsUp,
    leftOut: leftOutOf(context, actual),
    checks: context.checks,
    stacked: null,
  };
}

const NO_COMPARISON = { gap: NaN, gapPercent: NaN, standing: null };

function benchmarkSpan({ period, brief }: Context, benchmark: Benchmark | null, held: Held | null): Span | null {
  if (benchmark?.kind !== 'period') return null;
  return held?.span ?? (brief.grain ? { from: period.from, to: period.to } : null);
}

/** Rows that did not get into the numbers, by reason. */
function leftOutOf({ of }: Context, actual: Values): { reason: string; rows: number }[] {
  const read = new Set(columnsOf(of.expression));
  const list = of.table.leftOut
    .filter(({ column }) => column === null || read.has(column) || column === of.table.date)
    .map(({ column, reason, count }) => ({ reason: column === null ? reason : `“${column}”: ${reason}`, rows: count }));
  if (actual.undated > 0) list.push({ reason: 'no date', rows: actual.undated });
  return list;
}

/** How a step is written in files. */
export function stepOfRow(cells: Cells, row: number): string | null {
  return cells.steps && cells.grain ? stepCode(cells.grain, cells.steps[row]!, cells.calendar) : null;
}
