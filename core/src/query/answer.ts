import type { Brief } from '../brief';
import { stepsWithin, type Day, type Period } from '../calendar';
import { isProblem } from '../problem';
import type { Benchmark } from '../report';
import { total as sumOf, type Decimals } from '../number';
import { askedFor, type BenchmarkRequest, type Held } from './benchmark/asked';
import { mixOf } from './mixOf';
import { benchmarkValues, kindBeneath } from './benchmark/benchmark';
import type { Cells } from './cells';
import { tellCurrencies } from './currencies';
import { actualSpan, areSummed, atOnce, benchmarkNamed, contextFor, type Choices, type Context } from './context';
import { chosenMembers, membersOf, overPeriod, type Lead, type Member, type OverPeriod, type Whole } from './members';
import { dueValues } from './due';
import { atRatesBefore } from './exchangeEffect';
import { furtherMembers, furtherViews } from './further';
import { expressionOfRows, pack, type Packing } from './pack';

import type { Workspace } from './query';
import { withNothingSold } from './nothingSold';
import { leadIn, spanFrom, steppingOf, type Stepping } from './stepping';

import { refuseWhatCannotBe } from './refused';
import { reportGaps, tellRunningStep, tellWhatDoesNotAddUp, tellWhatIsNotDrawn } from './told';
import { awaitedLater, isUnknownIn, groupKey, inPeriod, only, valuesOf, wholeOf, type Values } from './values';

/**
 * Answers a brief: groups, filters and aggregates rows, holds them against the benchmark, applies the view and the
 * selection. Throws a `Problem` where the brief, the report and the data do not fit together.
 */
export async function answerBrief(
  { source, report, vocabulary }: Workspace,
  brief: Brief,
  choices: Choices = {},
): Promise<Cells> {
  const context = await contextFor(source, report, brief, vocabulary, choices);
  refuseWhatCannotBe(context);
  const { of } = context;
  const shape = { by: brief.by, grain: brief.grain, span: actualSpan(context), where: brief.only };
  const leads = leadIn(context, brief.views[0]!);
  const all = valuesOf(source, of, { ...shape, span: spanFrom(leads, context) });
  const known = leads.length === 0 ? all : awaitedLater(all.then((values) => inPeriod(values, context)));
  const wholeKnown = awaitedLater(
    of.addsUp ? known.then(wholeOf) : valuesOf(source, of, { ...shape, by: [], grain: null }),
  );
  const benchmark = brief.against === null ? null : benchmarkNamed(report, brief.against);
  const benchmarkKind = benchmark && kindBeneath(context, benchmark);
  const dueOf = (own: Context, ask: BenchmarkRequest) =>
    benchmark ? dueValues(own, benchmark, ask) : Promise.resolve(null);
  const [sold, lead, , held, due, whole, over, others] = await atOnce<
    [
      Values,
      Lead | null,
      Values,
      Held | null,
      Held | null,
      Whole,
      OverPeriod | null,
      readonly (readonly string[])[],
      void,
    ]
  >(
    context,
    () => known,
    (own) => leadOf(own, benchmark, leads, all),
    () => wholeKnown,
    (own) => benchmark && benchmarkValues(own, benchmark, askedFor(own, known)),
    (own) => benchmark && dueValues(own, benchmark, askedFor(own, known)),
    (own) => wholeComparison(own, benchmark, wholeKnown),
    (own) => overPeriod(own, benchmark, dueOf),
    (own) => furtherMembers(own),
    (own) =>
      tellCurrencies(own, of, { who: `“${own.measure.name}”`, by: brief.by, span: shape.span, where: brief.only }),
  );

  const steps = brief.grain ? stepsWithin(brief.grain, context.period, context.calendar) : [null];
  const stepping = steppingOf(context, steps, leads);
  const line = [...leads, ...steps];
  tellRunningStep(context, stepping, steps);
  tellWhatIsNotDrawn(context);
  const actual = withNothingSold(context, sold, held);
  const sources = { actual, held, due };
  const everyone = membersOf(context, line, sources, over, benchmark, others, lead);
  tellWhatDoesNotAddUp(context, everyone, whole.actual, actual.decimals);
  const chosen = await chosenMembers(context, everyone, whole, line, sources, benchmarkKind);
  if (held && (benchmarkKind === 'period' || benchmarkKind === 'forecast') && isUnknownIn(held.values))
    await tellCurrencies(context, of, {
      who: `“${benchmark!.name}”`,
      by: brief.by,
      span: held.span ?? { from: context.known.from, to: Math.min(context.period.to, context.asOf) },
      where: brief.only,
    });
  reportGaps(context, benchmark, actual, { held, due });
  const { quantity, stops, bands, lit, exchange } = choices;
  type Rows = Float64Array | null;
  const ofRows = (own: Context, expression: string, who: string) =>
    expressionOfRows(own, chosen, steps, expression, who);
  const exchanged = exchange ? await atRatesBefore(context, benchmark, chosen, actual, held) : null;
  const [mix, shown, before, wholeSteps, values, ofLit, low, high, edges] = await atOnce<
    [
      Cells['extras']['mix'],
      Whole | null,
      Packing['before'],
      Packing['wholeSteps'],
      Cells['values'],
      Rows,
      Rows,
      Rows,
      readonly Float64Array[] | null,
    ]
  >(
    context,
    (own) =>
      quantity === undefined ? null : mixOf(own, benchmark, quantity, chosen, exchanged?.values ?? actual, held),
    (own) => wholeOfShown(own, benchmark, everyone, chosen, whole, actual.decimals),
    (own) => asMuchBefore(own, benchmark, stepping, chosen, everyone, actual),
    (own) => wholeStepByStep(own, stepping, leads, line),
    (own) => furtherViews(own, chosen, steps),
    (own) => (lit === undefined ? null : ofRows(own, lit, 'the highlight')),
    (own) => stopsOf(own, stops?.low, actual, chosen, steps),
    (own) => stopsOf(own, stops?.high, actual, chosen, steps),
    (own) =>
      bands?.of === 'expression'
        ? Promise.all(bands.edges.map((edge) => ofRows(own, edge, 'bands of the figure')))
        : null,
  );
  return pack({
    context,
    benchmark,
    held,
    due,
    steps,
    everyone,
    chosen,
    whole,
    shown,
    actual,
    stepping,
    before,
    wholeSteps,
    values,
    lit: ofLit,
    extras: { mix, atRatesBefore: exchanged?.rows ?? null, stops: { low, high }, edges },
  });
}

/** What there was in the steps that lead in, and what that is held against; null where none do. */
async function leadOf(
  context: Context,
  benchmark: Benchmark | null,
  leads: readonly Day[],
  all: Promise<Values>,
): Promise<Lead | null> {
  const { brief, period } = context;
  const [first] = leads;
  if (first === undefined) return null;
  const days: Period = { from: first, to: period.from - 1, partial: false, whole: true, unit: null };
  const led: Context = { ...context, period: days, checks: [] };
  try {
    const actual = awaitedLater(all.then((values) => inPeriod(values, led)));
    const ask = { by: brief.by, grain: brief.grain, period: days, actual };
    return { actual: await all, held: benchmark && (await benchmarkValues(led, benchmark, ask)) };
  } catch (error) {
    // What cannot be said of them is blank.
    if (!isProblem(error)) throw error;
    return { actual: await all, held: null };
  }
}

/**
 * The whole of the members that are shown, where a selection without its rest has left others away; null where all are there.
 * Of a measure that does not add up it is computed from the members' rows again.
 */
async function wholeOfShown(
  context: Context,
  benchmark: Benchmark | null,
  everyone: readonly Member[],
  chosen: readonly Member[],
  whole: Whole,
  decimals: Decimals,
): Promise<Whole | null> {
  const { brief, of, source } = context;
  if (chosen.some(({ isRest }) => isRest) || chosen.length === everyone.length) return null;
  const rows = chosen.reduce((sum, member) => sum + member.rows.reduce((a, b) => a + b, 0), 0);
  if (areSummed(of, brief.by)) {
    const add = (pick: (member: Member) => number, at: Decimals) => sumOf(chosen.map(pick), at);
    const adds = !Number.isNaN(whole.benchmark);
    return {
      rows,
      actual: add((member) => member.actual, decimals),
      benchmark: adds ? add((member) => member.benchmark, null) : NaN,
      due: adds ? add((member) => member.due, null) : NaN,
      isCovered: chosen.every((member) => member.isCovered),
      isDueCovered: chosen.every((member) => member.isDueCovered),
    };
  }
  const blank = { rows, actual: NaN, benchmark: NaN, due: NaN, isCovered: true, isDueCovered: true };
  if (brief.by.length !== 1) return blank;
  const members = chosen.map((member) => member.members[0] || null);
  const only = [...brief.only, { kind: 'is' as const, field: brief.by[0]!, members }];
  const narrowed: Context = { ...context, brief: { ...brief, only, by: [], grain: null }, checks: [] };
  const shape = { by: [], grain: null, span: actualSpan(context), where: only };
  return { ...(await wholeComparison(narrowed, benchmark, valuesOf(source, of, shape))), rows };
}

/** Of the step before the one that still runs as many days, for changes: each member's actual and benchmark. */
async function asMuchBefore(
  context: Context,
  benchmark: Benchmark | null,
  { cutBefore }: Stepping,
  chosen: readonly Member[],
  everyone: readonly Member[],
  actual: Values,
): Promise<(member: Member) => { readonly actual: number; readonly benchmark: number }> {
  const { brief, source, of } = context;
  const nothing = { actual: NaN, benchmark: NaN };
  if (brief.views[0]!.kind !== 'change' || !cutBefore) return () => nothing;
  const shape = { by: brief.by, grain: null, span: cutBefore, where: brief.only };
  const known = valuesOf(source, of, shape);
  const period: Period = { ...cutBefore, partial: false, whole: false, unit: { grain: brief.grain!, count: 1 } };
  let held: Held | null = null;
  try {
    const quiet = { ...context, checks: [] };
    held = benchmark && (await benchmarkValues(quiet, benchmark, { by: brief.by, grain: null, period, actual: known }));
  } catch (error) {
    // A target that cannot be cut has no change there.
    if (!isProblem(error)) throw error;
  }
  const values = await known;
  const of1 = new Map<Member, { actual: number; benchmark: number }>();
  for (const member of everyone) {
    const key = groupKey(member.members, null);
    of1.set(member, { actual: values.at.get(key)?.value ?? NaN, benchmark: held?.values.at.get(key)?.value ?? NaN });
  }
  for (const rest of chosen.filter(({ isRest }) => isRest)) {
    const kept = new Set(chosen);
    const left = everyone.filter((member) => !kept.has(member)).map((member) => of1.get(member)!);
    const adds = (pick: (one: { actual: number; benchmark: number }) => number, decimals: Decimals) =>
      of.additive ? sumOf(left.map(pick), decimals) : NaN;
    of1.set(rest, {
      actual: adds((one) => one.actual, actual.decimals),
      benchmark: adds((one) => one.benchmark, held?.values.decimals ?? null),
    });
  }
  return (member) => of1.get(member) ?? nothing;
}

/** The whole in every step, for changes and means of what does not add up over members. */
async function wholeStepByStep(
  context: Context,
  { cutBefore }: Stepping,
  leads: readonly Day[],
  line: readonly (Day | null)[],
): Promise<{ readonly actuals: readonly number[]; readonly before: number } | null> {
  const { brief, source, of } = context;
  const { kind } = brief.views[0]!;
  if (of.additive || (kind !== 'change' && kind !== 'smoothed')) return null;
  const shape = { by: [], where: brief.only };
  const { at } = await valuesOf(source, of, { ...shape, grain: brief.grain, span: spanFrom(leads, context) });
  const before = cutBefore ? only(await valuesOf(source, of, { ...shape, grain: null, span: cutBefore })) : NaN;
  return { actuals: line.map((step) => at.get(groupKey([], step))?.value ?? NaN), before };
}

/** A stop of each row's dial: the same number for all, or what a benchmark is for the row's members. */
async function stopsOf(
  context: Context,
  stop: number | string | undefined,
  actual: Values,
  chosen: readonly Member[],
  steps: readonly (Day | null)[],
): Promise<Float64Array | null> {
  if (stop === undefined) return null;
  if (typeof stop === 'number') return new Float64Array(chosen.length * steps.length).fill(stop);
  const { values } = await benchmarkValues(
    context,
    benchmarkNamed(context.report, stop),
    askedFor(context, Promise.resolve(actual)),
  );
  return Float64Array.from(
    chosen.flatMap(({ members }) => steps.map((step) => values.at.get(groupKey(members, step))?.value ?? NaN)),
  );
}

async function wholeComparison(context: Context, benchmark: Benchmark | null, known: Promise<Values>): Promise<Whole> {
  const ask = { by: [], grain: null, period: context.period, actual: known };
  const [sold, held, due] = await atOnce<[Values, Held | null, Held | null]>(
    context,
    () => known,
    (own) => benchmark && benchmarkValues(own, benchmark, ask),
    (own) => benchmark && dueValues(own, benchmark, ask),
  );
  const values = withNothingSold(context, sold, held);
  return {
    actual: only(values),
    rows: values.at.get('')?.rows ?? 0,
    benchmark: held ? only(held.values) : NaN,
    due: due ? only(due.values) : NaN,
    isCovered: held?.covers?.([], null) ?? true,
    isDueCovered: due?.covers?.([], null) ?? true,
  };
}
