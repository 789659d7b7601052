import {
  hasWholeWeeks,
  isoDay,
  length,
  readIsoDay,
  shiftBack,
  spanOf,
  step as stepOn,
  stepsWithin,
  type Alignment,
  type Back,
  type Day,
  type Span,
} from '../../calendar';
import { counted, Problem } from '../../problem';
import type { Benchmark } from '../../report';
import { note, type Context } from '../context';
import { fromEntries, valuesOf, type Entry } from '../values';
import type { BenchmarkRequest, Held } from './asked';
import { daysOfStep, withPeriodWithin } from './coverage';

/** The same measure in another period, like for like: cut at the same elapsed point while the current period runs. */
export async function periodValues(
  context: Context,
  benchmark: Benchmark & { kind: 'period' },
  asked: BenchmarkRequest,
): Promise<Held> {
  const { source, of, asOf, brief, period } = context;
  const at = (span: Span) => valuesOf(source, of, { by: asked.by, grain: null, span, where: brief.only });
  if (context.allTime && !benchmark.range) {
    throw new Problem(
      'no-period-before',
      `“${benchmark.name}” needs a period to go back from, and all time has none before it`,
      { in: 'brief' },
      'add a period, such as “during year to date”',
    );
  }
  if (benchmark.range) {
    if (asked.grain)
      throw new Problem(
        'range-over-time',
        `“${benchmark.name}” is one fixed range and cannot be held against each ${asked.grain}`,
        { in: 'brief' },
        'leave out “each”, or use a benchmark some years or periods back',
      );
    const range = { from: readIsoDay(benchmark.range.from)!, to: readIsoDay(benchmark.range.to)! };
    return withPeriodWithin(context, benchmark.name, { values: await at(range), span: range }, () => range, [null]);
  }
  const back = benchmark.back ?? { periods: 1 };
  const align = benchmark.align ?? 'date';
  let span = shiftBack(period, back, align, asOf, context.calendar);
  if (benchmark.activeDays && 'periods' in back && period.from === period.to && !asked.grain) {
    const day = await activeDayBefore(context, period.from, back.periods);
    if (day === null) return { values: fromEntries([], of.additive ? 0 : null), span: null };
    span = { from: day, to: day };
  }
  if (!asked.grain) {
    tellWeeks(context, benchmark.name, span);
    const held: Held = { values: await at(span), span };
    return benchmark.activeDays ? held : withPeriodWithin(context, benchmark.name, held, () => span, [null]);
  }
  const spans = stepSpans(context, asked, back, align);
  const held: Held = { values: await stepValues(context, asked, spans), span };
  const spanAt = new Map(spans.map(({ start, span: days }) => [start, days]));
  const within = (step: Day | null) => spanAt.get(step!);
  return withPeriodWithin(context, benchmark.name, held, within, [...spanAt.keys()]);
}

/** Tells that a period of weeks is compared with one that has more or fewer of them. */
function tellWeeks(context: Context, name: string, span: Span): void {
  const { calendar, period, asOf } = context;
  const now = length({ from: period.from, to: Math.min(period.to, asOf) }) / 7;
  const then = length(span) / 7;
  if (hasWholeWeeks(calendar) && now !== then && Number.isInteger(now) && Number.isInteger(then))
    note(context, 'like-for-like', 'note', `${counted(now, 'week')} are compared with ${then} of “${name}”`);
}

/** The k-th day before one that has rows. */
async function activeDayBefore({ source, of, brief, known }: Context, day: Day, k: number): Promise<Day | null> {
  const values = await valuesOf(source, of, {
    by: [],
    grain: 'day',
    span: { from: known.from, to: day - 1 },
    where: brief.only,
  });
  const days = [...values.at.values()].map(({ step }) => step!).sort((a, b) => b - a);
  return days[k - 1] ?? null;
}

/** A step and the days it is compared with. */
interface Compared {
  readonly start: Day;
  readonly span: Span;
}

/** For each step the span it is compared with; of a step that is only partly in the period, as much. */
function stepSpans(context: Context, asked: BenchmarkRequest, back: Back, align: Alignment): Compared[] {
  const { brief, calendar } = context;
  const grain = asked.grain!;
  const runs = brief.views[0]!.kind === 'cumulative';
  // What a running sum is held against runs on to the end of what is asked for; other steps are compared like for like.
  const asOf = runs ? asked.period.to : context.asOf;
  return stepsWithin(grain, asked.period, calendar).flatMap((start) => {
    if (start > asOf) return [];
    const { from, to } = daysOfStep(asked, start, context);
    const isAll = from === start && to === stepOn(grain, start, 1, calendar) - 1;
    // A day looks back to a day; only days that are added up leave none out, as 29 February beside the 28th.
    const whole = isAll && (grain !== 'day' || runs);
    const days = { from, to, partial: to > asOf, whole, unit: { grain, count: 1 } };
    return [{ start, span: shiftBack(days, back, align, asOf, calendar) }];
  });
}

/**
 * For each step the values of the span it is compared with. Steps whose span is again a whole period of the grain are answered by one
 * query together; one that is cut, or that does not fall on a period, has a query of its own.
 */
async function stepValues(context: Context, asked: BenchmarkRequest, spans: readonly Compared[]) {
  const { source, of, brief, calendar } = context;
  const grain = asked.grain!;
  const asOf = brief.views[0]!.kind === 'cumulative' ? asked.period.to : context.asOf;
  const isWhole = ({ span }: { span: Span }) => {
    const period = spanOf(grain, span.from, calendar);
    return period.from === span.from && period.to === span.to;
  };
  const whole = spans.filter(isWhole);
  const others = spans.filter((item) => !isWhole(item));
  const shape = { by: asked.by, where: brief.only };
  const together = {
    from: Math.min(...whole.map(({ span }) => span.from)),
    to: Math.max(...whole.map(({ span }) => span.to)),
  };
  const [values, ...alone] = await Promise.all([
    whole.length > 0 ? valuesOf(source, of, { ...shape, grain, span: together }) : null,
    ...others.map(({ span }) => valuesOf(source, of, { ...shape, grain: null, span })),
  ]);
  const entries: Entry[] = [];
  let decimals = of.additive ? 0 : null;
  if (values) {
    decimals = values.decimals;
    // 28 and 29 February may both look back to the same day.
    for (const { start, span } of whole) {
      for (const entry of values.at.values()) if (entry.step === span.from) entries.push({ ...entry, step: start });
    }
  }
  for (const [i, { start, span }] of others.entries()) {
    const own = alone[i]!;
    decimals = own.decimals;
    for (const entry of own.at.values()) entries.push({ ...entry, step: start });
    if (stepOn(grain, start, 1, calendar) - 1 > asOf)
      note(
        context,
        'like-for-like',
        'note',
        `the ${grain} that is running is compared with ${isoDay(span.from)} to ${isoDay(span.to)}`,
      );
  }
  return fromEntries(entries, decimals);
}
