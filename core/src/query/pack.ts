import type { View } from '../brief';
import { stepCode, type Day, type Span } from '../calendar';
import { columnsOf } from '../measure';
import { combine, total as sumOf, type Decimals } from '../number';
import type { Benchmark } from '../report';
import type { Held } from './benchmark/asked';
import type { Cells, CellState } from './cells';
import { compare, standingCode } from './compare';
import { landingOf } from './landing';
import { actualSpan, aggregated, dataSpan, measureNamed, type Context } from './context';
import type { Member, Whole } from './members';
import { groupKey, only, valuesOf, wholeOf, type Values } from './values';
import { ranksOf, shareOf, viewOver } from './views';

/** Values of the further views of a brief, for every chosen member and step. */
export async function furtherViews(
  context: Context,
  chosen: readonly Member[],
  steps: readonly (Day | null)[],
): Promise<Cells['values']> {
  const { brief, source, report } = context;
  if (brief.views.length < 2) return [];
  return Promise.all(
    brief.views.slice(1).map(async (view) => {
      const measure = measureNamed(report, view.measure);
      const of = aggregated(source, measure.table, measure.expression, `measure “${measure.name}”`);
      const span = actualSpan({ ...context, known: dataSpan(source, of) ?? context.known });
      const values = await valuesOf(source, of, { by: brief.by, grain: brief.grain, span, where: brief.only });
      const whole = only(
        of.additive ? wholeOf(values) : await valuesOf(source, of, { by: [], grain: null, span, where: brief.only }),
      );
      const rows = chosen.flatMap(({ members }) => {
        const plain = steps.map((step) => values.at.get(groupKey(members, step))?.value ?? NaN);
        return seen(context, view, plain, values.decimals, steps.length, () => whole);
      });
      const ranked = view.kind === 'rank' ? ranksOf(rows, measure.aim, null, context.choices.rank) : rows;
      return {
        view,
        measure,
        of: Float64Array.from(ranked),
        total: view.kind === 'share' ? shareOf(whole, whole) : whole,
      };
    }),
  );
}

/** What an expression over the measure's table is for every chosen member and step. A problem says whose expression it is. */
export async function expressionOfRows(
  context: Context,
  chosen: readonly Member[],
  steps: readonly (Day | null)[],
  expression: string,
  who: string,
): Promise<Float64Array> {
  const { brief, source, measure } = context;
  const of = aggregated(source, measure.table, expression, who);
  const shape = { by: brief.by, grain: brief.grain, span: actualSpan(context), where: brief.only };
  const values = await valuesOf(source, of, shape);
  return Float64Array.from(
    chosen.flatMap(({ members }) => steps.map((step) => values.at.get(groupKey(members, step))?.value ?? NaN)),
  );
}

function seen(
  { choices }: Context,
  view: View,
  values: readonly number[],
  decimals: Decimals,
  until: number,
  whole: (step: number) => number,
): number[] {
  return view.kind === 'share'
    ? values.map((value, s) => shareOf(value, whole(s)))
    : viewOver(view, values, decimals, until, choices.window);
}

/** What is due of a view's benchmark: of a running sum, what came before the step and what is due of the step. */
function duesOver(
  view: View,
  dues: readonly number[],
  benchmarks: readonly number[] | null,
  decimals: Decimals,
): readonly number[] | null {
  if (view.kind === 'plain') return dues;
  if (view.kind !== 'cumulative' || !benchmarks) return null;
  return dues.map((due, s) => (s === 0 || Number.isNaN(due) ? due : combine(benchmarks[s - 1]!, due, decimals)));
}

/** Everything in typed arrays: for each chosen member its steps in order. */
export function pack(
  context: Context,
  benchmark: Benchmark | null,
  held: Held | null,
  steps: readonly (Day | null)[],
  everyone: readonly Member[],
  chosen: readonly Member[],
  whole: Whole,
  actual: Values,
  values: Cells['values'],
  mix: Cells['mix'],
  stops: Cells['stops'],
  expressions: Pick<Cells, 'lit' | 'edges'>,
): Cells {
  const { brief, measure, asOf, of, choices } = context;
  const view = brief.views[0]!;
  const width = steps.length;
  const count = chosen.length * width;
  const numbers = () => new Float64Array(count).fill(NaN);
  const until = steps.filter((step) => step === null || step <= asOf).length;
  const heldDecimals = held?.values.decimals ?? null;
  // A share, a change in a share or a mean is no longer a multiple of the measure's smallest unit.
  const viewDecimals = view.kind === 'share' || view.kind === 'smoothed' ? null : actual.decimals;
  const stepTotals = (pick: (member: Member) => readonly number[] | null, decimals: Decimals) =>
    steps.map((_, s) =>
      sumOf(
        everyone.map((member) => pick(member)?.[s] ?? NaN),
        decimals,
      ),
    );
  const totals = stepTotals((member) => member.actuals, actual.decimals);
  const heldTotals = held ? stepTotals((member) => member.benchmarks, heldDecimals) : [];

  const hasDue = chosen.some((member) => member.dues);
  const hasInterval =
    view.kind === 'plain' && chosen.some(({ within }) => within?.some(({ low }) => !Number.isNaN(low)));
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
    rankChange: brief.by.length > 0 && (brief.grain || benchmark?.kind === 'period') ? numbers() : null,
    landing: choices.landing && hasDue && of.additive && !brief.grain && view.kind === 'plain' ? numbers() : null,
    share: of.additive && brief.by.length > 0 ? numbers() : null,
    rows: new Float64Array(count),
    state: [] as CellState[],
  };
  // Ranks are among all members, also those that are not kept.
  const ranks = steps.map((_, s) => {
    const inStep = everyone.map((member) => member.actuals[s]!);
    return new Map(
      ranksOf(inStep, measure.aim, held && everyone.map((member) => member.benchmarks![s]!), context.choices.rank).map(
        (rank, i) => [everyone[i]!, rank],
      ),
    );
  });
  const ranksBefore =
    out.rankChange && !brief.grain ? rankedBy(everyone, (member) => member.benchmarks?.[0] ?? NaN) : null;
  function rankedBy(members: readonly Member[], value: (member: Member) => number) {
    const found = ranksOf(members.map(value), measure.aim, null, choices.rank);
    return new Map(found.map((rank, i) => [members[i]!, rank]));
  }
  chosen.forEach((member, m) => {
    const actuals = seen(context, view, member.actuals, actual.decimals, until, (s) => totals[s]!);
    const benchmarks =
      member.benchmarks && seen(context, view, member.benchmarks, heldDecimals, width, (s) => heldTotals[s]!);
    const dues = member.dues && duesOver(view, member.dues, benchmarks, heldDecimals);
    steps.forEach((_, s) => {
      const i = m * width + s;
      out.actual[i] = actuals[s]!;
      out.rows[i] = member.rows[s]!;
      out.state.push(Number.isNaN(actuals[s]!) ? 'blank' : 'actual');
      if (out.rank) out.rank[i] = ranks[s]!.get(member) ?? NaN;
      if (out.rankChange) {
        const before = ranksBefore ? ranksBefore.get(member) : ranks[s - 1]?.get(member);
        out.rankChange[i] = (before ?? NaN) - out.rank![i]!;
      }
      if (out.share) out.share[i] = shareOf(member.actuals[s]!, totals[s]!);
      if (!benchmarks) return;
      const comparison = compare(actuals[s]!, benchmarks[s]!, measure, viewDecimals, heldDecimals);
      out.benchmarks![i] = benchmarks[s]!;
      if (hasInterval) {
        out.low![i] = member.within?.[s]!.low ?? NaN;
        out.high![i] = member.within?.[s]!.high ?? NaN;
      }
      out.gap![i] = comparison.gap;
      out.gapPercent![i] = comparison.gapPercent;
      out.standing![i] = standingCode(comparison.standing);
      if (!dues || !hasDue) return;
      const toDate = compare(actuals[s]!, dues[s]!, measure, null, null);
      out.due![i] = dues[s]!;
      if (out.landing) out.landing[i] = landingOf(actuals[s]!, benchmarks[s]!, dues[s]!, choices.landing);
      out.dueGap![i] = toDate.gap;
      out.dueGapPercent![i] = toDate.gapPercent;
      out.dueStanding![i] = standingCode(toDate.standing);
    });
  });
  const shown =
    view.kind === 'share'
      ? {
          ...whole,
          actual: shareOf(whole.actual, whole.actual),
          benchmark: shareOf(whole.benchmark, whole.benchmark),
          due: NaN,
        }
      : whole;
  const toDate = compare(shown.actual, shown.due, measure, null, null);
  return {
    brief,
    text: context.text,
    view,
    measure,
    benchmark,
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
    ...out,
    values,
    mix,
    stops,
    ...expressions,
    total: {
      ...shown,
      ...compare(shown.actual, shown.benchmark, measure, viewDecimals, heldDecimals),
      dueGap: toDate.gap,
      dueGapPercent: toDate.gapPercent,
      dueStanding: toDate.standing,
    },
    decimals: actual.decimals,
    leftOut: leftOutOf(context, actual),
    checks: context.checks,
    stacked: null,
  };
}

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
