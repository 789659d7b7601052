import type { Brief, Vocabulary } from '../brief';
import { endOf, isoDay, stepsWithin, type Day, type Period } from '../calendar';
import { Problem } from '../problem';
import type { Benchmark, Report } from '../report';
import { finer } from '../number';
import type { Asked, Held } from './benchmark/asked';
import { benchmarkValues, isLikeForLike } from './benchmark/benchmark';
import type { Cells } from './cells';
import {
  actualSpan,
  aggregated,
  benchmarkNamed,
  contextFor,
  measureNamed,
  note,
  type Choices,
  type Context,
} from './context';
import { chosenMembers, membersOf, type Member, type Whole } from './members';
import { expressionOfRows, furtherViews, pack } from './pack';
import { priceVolumeMix, type PriceVolumeMix } from './priceVolumeMix';
import type { Source } from './query';
import { fromEntries, groupKey, only, valuesOf, wholeOf, type Values } from './values';

/**
 * Answers a brief: groups, filters and aggregates rows, holds them against the benchmark, applies the view and the
 * selection. Throws a `Problem` where the brief, the report and the data do not fit together.
 */
export async function answerBrief(
  source: Source,
  report: Report,
  brief: Brief,
  vocabulary: Vocabulary,
  choices: Choices = {},
): Promise<Cells> {
  const context = contextFor(source, report, brief, vocabulary, choices);
  refuseWhatCannotBe(context);
  const { of } = context;
  const shape = { by: brief.by, grain: brief.grain, span: actualSpan(context), where: brief.only };
  const actual = await valuesOf(source, of, shape);
  const wholeValues = of.additive ? wholeOf(actual) : await valuesOf(source, of, { ...shape, by: [], grain: null });
  const benchmark = brief.against === null ? null : benchmarkNamed(report, brief.against);
  const held = benchmark && (await benchmarkValues(context, benchmark, asked(context, actual)));
  const due = benchmark && (await dueValues(context, benchmark, asked(context, actual)));
  const whole = await wholeComparison(context, benchmark, wholeValues);

  const steps = brief.grain ? stepsWithin(brief.grain, context.period, context.calendar) : [null];
  const everyone = await membersOf(context, steps, { actual, held, due }, benchmark);
  const chosen = await chosenMembers(context, everyone, whole, steps, { actual, held, due });
  reportGaps(context, benchmark, actual);
  // A look outlives a change of form: only the form that draws them asks for these.
  const quantity = brief.form === 'waterfall' ? choices.quantity : undefined;
  const mix = quantity === undefined ? null : await mixOf(context, benchmark, quantity, actual, held);
  const stops = brief.form === 'dial' ? choices.stops : undefined;
  const { bands, lit } = choices;
  const ofRows = (expression: string, who: string) => expressionOfRows(context, chosen, steps, expression, who);
  return pack(
    context,
    benchmark,
    held,
    steps,
    everyone,
    chosen,
    whole,
    actual,
    await furtherViews(context, chosen, steps),
    mix,
    {
      low: await stopsOf(context, stops?.low, actual, chosen, steps),
      high: await stopsOf(context, stops?.high, actual, chosen, steps),
    },
    {
      lit: lit === undefined ? null : await ofRows(lit, 'the highlight'),
      edges:
        bands?.of === 'expression'
          ? await Promise.all(bands.edges.map((edge) => ofRows(edge, 'bands of the figure')))
          : null,
    },
  );
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
  const { values } = await benchmarkValues(context, benchmarkNamed(context.report, stop), asked(context, actual));
  return Float64Array.from(
    chosen.flatMap(({ members }) => steps.map((step) => values.at.get(groupKey(members, step))?.value ?? NaN)),
  );
}

/** Volume, price and mix of the gap to another period, from the members' values and quantities now and then. */
async function mixOf(
  context: Context,
  benchmark: Benchmark | null,
  quantity: string,
  actual: Values,
  held: Held | null,
): Promise<PriceVolumeMix> {
  const { brief, source, report, measure } = context;
  if (benchmark?.kind !== 'period' || !held || brief.by.length === 0 || brief.grain)
    throw new Problem(
      'mix-needs-period',
      'volume, price and mix tell two periods apart, member by member',
      { in: 'brief' },
      'add a field and “against last year” or another period, and leave out “each”',
    );
  const pieces = measureNamed(report, quantity);
  const of = aggregated(source, pieces.table, pieces.expression, `measure “${quantity}”`);
  if (!of.additive || !context.of.additive)
    throw new Problem(
      'not-additive',
      `“${of.additive ? measure.name : quantity}” does not add up over rows, so there is no volume, price and mix of it`,
      { in: 'look of the figure' },
      'use measures that are sums or counts',
    );
  const now = await valuesOf(source, of, { by: brief.by, grain: null, span: actualSpan(context), where: brief.only });
  const before = await benchmarkValues({ ...context, of, measure: pieces }, benchmark, asked(context, now));
  const keys = new Set([...actual.at.keys(), ...held.values.at.keys()]);
  return priceVolumeMix(
    [...keys].map((key) => ({
      name: key,
      value: actual.at.get(key)?.value ?? NaN,
      quantity: now.at.get(key)?.value ?? NaN,
      valueBefore: held.values.at.get(key)?.value ?? NaN,
      quantityBefore: before.values.at.get(key)?.value ?? NaN,
    })),
    finer(actual.decimals, held.values.decimals),
  );
}

function asked({ brief, period }: Context, actual: Values): Asked {
  return { by: brief.by, grain: brief.grain, period, actual };
}

const FINENESS = { day: 0, week: 1, month: 2, quarter: 3, year: 4 } as const;

function refuseWhatCannotBe({ brief, of, measure }: Context): void {
  const { table } = of;
  if ((brief.grain || brief.period.kind !== 'all time') && table.date === null) {
    throw new Problem(
      'no-date',
      `measure “${measure.name}” reads table “${table.id}”, which has no date column`,
      { in: 'brief' },
      'leave out “during” and “each”, or name its date column in the report',
    );
  }
  if (brief.grain && table.grain && FINENESS[brief.grain] < FINENESS[table.grain]) {
    throw new Problem(
      'grain-too-fine',
      `“${measure.name}” is known for each ${table.grain} only, not for each ${brief.grain}`,
      { in: 'brief' },
      `ask for each ${table.grain}`,
    );
  }
  for (const view of brief.views) {
    if ((view.kind === 'change' || view.kind === 'smoothed') && !brief.grain) {
      throw new Problem(
        'view-needs-grain',
        `“${view.kind === 'change' ? 'change in' : 'smoothed'}” compares steps in time, and the brief has none`,
        { in: 'brief' },
        'add a grain, such as “each month”',
      );
    }
    if ((view.kind === 'cumulative' || view.kind === 'share') && !of.additive) {
      throw new Problem(
        'not-additive',
        `“${view.measure}” does not add up over rows, so there is no ${view.kind === 'share' ? 'share of it' : 'running sum of it'}`,
        { in: 'brief' },
        'use a measure that is a sum or a count',
      );
    }
  }
}

async function wholeComparison(context: Context, benchmark: Benchmark | null, values: Values): Promise<Whole> {
  const ask = { by: [], grain: null, period: context.period, actual: values };
  const held = benchmark && (await benchmarkValues(context, benchmark, ask));
  const due = benchmark && (await dueValues(context, benchmark, ask));
  return {
    actual: only(values),
    rows: values.at.get('')?.rows ?? 0,
    benchmark: held ? only(held.values) : NaN,
    due: due ? only(due) : NaN,
  };
}

/** What of the benchmark is due by the as-of date; null where the period is over or the benchmark is cut there anyway. */
async function dueValues(context: Context, benchmark: Benchmark, ask: Asked): Promise<Values | null> {
  const { period, asOf, brief, calendar } = context;
  const runsOn = brief.views[0]!.kind === 'cumulative' && ask.grain !== null;
  if (!period.partial || period.from > asOf || (isLikeForLike(context, benchmark) && !runsOn)) return null;
  const toDate: Period = { ...period, to: asOf, partial: false, whole: false };
  const checks = context.checks.length;
  const { values } = await benchmarkValues(context, benchmark, { ...ask, period: toDate });
  // How a target was cut is told once, for the benchmark itself.
  if (brief.grain) context.checks.length = checks;
  if (!ask.grain) return values;
  const running = [...values.at.values()].filter(({ step }) => endOf(ask.grain!, step!, calendar) > asOf);
  return fromEntries(running, values.decimals);
}

/** Checks that follow from the period and the rows left out. */
function reportGaps(context: Context, benchmark: Benchmark | null, actual: Values): void {
  const { period, asOf, of } = context;
  // A running sum is held against what should be there by then, step by step.
  const runs = context.brief.views[0]!.kind === 'cumulative';
  if (benchmark && period.partial && period.from <= asOf && !runs && !isLikeForLike(context, benchmark)) {
    note(
      context,
      'part-period-against-whole',
      'warning',
      `the period runs to ${isoDay(period.to)} and actuals only to ${isoDay(asOf)}: gaps are to the whole ${benchmark.name}, and what was due by then is shown beside it`,
    );
  }
  if (actual.undated > 0)
    note(
      context,
      'rows-without-date',
      'warning',
      `${actual.undated} rows of “${of.table.id}” have no date and are not in the period`,
    );
}
