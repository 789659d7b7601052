import {
  hasWholeWeeks,
  length,
  readIsoDay,
  shiftBack,
  spanOf,
  step as stepOn,
  stepsWithin,
  type Alignment,
  type Back,
  writtenSpan,
  type Day,
  type Period,
  type Span,
} from '../../calendar';
import { finer, total } from '../../number';
import { counted, Problem } from '../../problem';
import type { Benchmark } from '../../report';
import { note, type Context } from '../context';
import { withNothingThen } from '../nothingSold';
import { refuseRange } from '../refused';
import { fromEntries, valuesOf, type Entry, type Values } from '../values';
import type { BenchmarkRequest, Held } from './asked';
import { daysOfStep, withPeriodWithin } from './coverage';

/** The same measure in another period, like for like: cut at the same elapsed point while the current period runs. */
export async function periodValues(
  context: Context,
  benchmark: Benchmark & { kind: 'period' },
  asked: BenchmarkRequest,
): Promise<Held> {
  const { source, of, brief } = context;
  const { period } = asked;
  const at = (span: Span) => valuesOf(source, of, { by: asked.by, grain: null, span, where: brief.only });
  const within = async (held: Held, spanAt: (step: Day | null) => Span | undefined, steps: readonly (Day | null)[]) =>
    withPeriodWithin(
      context,
      benchmark.name,
      await withNothingThen(context, held, asked.actual, spanAt),
      spanAt,
      steps,
    );
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
    refuseRange(context, benchmark.name, range);
    return within({ values: await at(range), span: range }, () => range, [null]);
  }
  const back = benchmark.back ?? { periods: 1 };
  const align = benchmark.align ?? 'date';
  const parts = wholeSpans(context, period, back, align);
  const span = { from: parts[0]!.from, to: parts.at(-1)!.to };
  if (benchmark.activeDays && 'periods' in back && period.from === period.to && !asked.grain) {
    const day = await activeDayBefore(context, period.from, back.periods);
    if (day === null) return { values: fromEntries([], of.additive ? 0 : null), span: null };
    const span = { from: day, to: day };
    return within({ values: await at(span), span }, () => span, [null]);
  }
  if (!asked.grain) {
    tellWeeks(context, benchmark.name, period, span);
    const values = await (of.additive ? summedOver(parts, at) : at(span));
    return within({ values, span }, () => span, [null]);
  }
  const spans = stepSpans(context, { grain: asked.grain, period }, back, align);
  tellEdges(context, spans, span);
  const held: Held = { values: await stepValues(context, asked, spans), span };
  const spanAt = new Map(spans.map(({ start, span: days }) => [start, days]));
  return within(held, (step) => spanAt.get(step!), [...spanAt.keys()]);
}

/**
 * The days that the whole of a period is compared with. Where each step is held against the one before, these are all that its steps are
 * held against, so that the rows add up to the whole: of steps that the period cuts there may be days between them that none is held
 * against, and the days are several spans.
 */
function wholeSpans(context: Context, period: Period, back: Back, align: Alignment): readonly Span[] {
  const { brief, asOf, calendar } = context;
  if (brief.grain && 'periods' in back && brief.views[0]!.kind !== 'cumulative') {
    const parts: Span[] = [];
    for (const { span } of stepSpans(context, { grain: brief.grain, period }, back, align)) {
      const last = parts.at(-1);
      if (span.from > span.to) continue;
      if (last && span.from === last.to + 1) parts[parts.length - 1] = { from: last.from, to: span.to };
      else parts.push(span);
    }
    if (parts.length > 0) return parts;
  }
  return [shiftBack(period, back, align, asOf, calendar)];
}

/** The sums over several spans of a measure that adds up. */
async function summedOver(spans: readonly Span[], at: (span: Span) => Promise<Values>): Promise<Values> {
  const [first, ...others] = await Promise.all(spans.map(at));
  return others.reduce((sum, values) => {
    const decimals = finer(sum.decimals, values.decimals);
    const all = new Map(sum.at);
    for (const [key, entry] of values.at) {
      const before = all.get(key);
      const added = before && {
        value: total([before.value, entry.value], decimals),
        rows: before.rows + entry.rows,
      };
      all.set(key, { ...entry, ...added });
    }
    return { ...sum, decimals, at: all, undated: sum.undated + values.undated };
  }, first!);
}

/** Tells that weeks are compared with whole weeks, which together are other days than the whole is compared with. */
function tellEdges(context: Context, spans: readonly Compared[], whole: Span): void {
  const [first, last] = [spans[0], spans.at(-1)];
  if (context.brief.grain !== 'week' || !first || !last) return;
  const [from, to] = [first.span.from, last.span.to];
  if (from === whole.from && to === whole.to) return;
  note(
    context,
    'like-for-like',
    'note',
    `weeks are compared with whole weeks, ${writtenSpan({ from, to })}; all of them together with ${writtenSpan(whole)}`,
  );
}

/** Tells, in fiscal years of weeks, that a period is compared with one of more or fewer weeks or days. */
function tellWeeks(context: Context, name: string, period: Period, span: Span): void {
  const { calendar, asOf } = context;
  const now = length({ from: period.from, to: Math.min(period.to, asOf) });
  const then = length(span);
  if (!hasWholeWeeks(calendar) || now === then || period.from > asOf) return;
  const ofWeeks = now % 7 === 0 && then % 7 === 0;
  const counts = ofWeeks ? [counted(now / 7, 'week'), then / 7] : [counted(now, 'day'), then];
  note(context, 'like-for-like', 'note', `${counts[0]} are compared with ${counts[1]} of “${name}”`);
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

type Stepped = Pick<BenchmarkRequest, 'grain' | 'period'>;

/** For each step the span it is compared with; of a step that is only partly in the period, as much. */
function stepSpans(context: Context, asked: Stepped, back: Back, align: Alignment): Compared[] {
  const { brief, calendar } = context;
  const grain = asked.grain!;
  if (brief.views[0]!.kind === 'cumulative') return runningSpans(context, asked, back, align);
  const { asOf } = context;
  return stepsWithin(grain, asked.period, calendar).flatMap((start) => {
    if (start > asOf) return [];
    const { from, to } = daysOfStep(asked, start, context);
    const isAll = from === start && to === stepOn(grain, start, 1, calendar) - 1;
    // A day looks back to a day, also 29 February.
    const days = { from, to, partial: to > asOf, whole: isAll && grain !== 'day', unit: { grain, count: 1 } };
    return [{ start, span: shiftBack(days, back, align, asOf, calendar) }];
  });
}

/**
 * For each step of a running sum the days that come to what it is held against: up to a step's end all days of the period there, from
 * its first to the same point, so that none is left out and none counted twice, and the last step comes to the whole. A step that has
 * no days of its own there, as 29 February or a 53rd week, adds nothing. It runs on to the end of what is asked for.
 */
function runningSpans(context: Context, asked: Stepped, back: Back, align: Alignment): Compared[] {
  const { calendar } = context;
  const { from, to: end } = asked.period;
  // Days that are no whole months are held against as many before them, wherever a step ends among them.
  const unit =
    asked.period.unit ?? ('periods' in back ? ({ grain: 'day', count: length(asked.period) } as const) : null);
  const until = (to: Day): Span =>
    shiftBack({ from, to, partial: false, whole: to === end && asked.period.whole, unit }, back, align, end, calendar);
  let next = until(end).from;
  return stepsWithin(asked.grain!, asked.period, calendar).map((start) => {
    const { to } = until(daysOfStep(asked, start, context).to);
    const span = { from: next, to };
    next = Math.max(next, to + 1);
    return { start, span };
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
  const filled = spans.filter(({ span }) => span.from <= span.to);
  const isWhole = ({ span }: { span: Span }) => {
    const period = spanOf(grain, span.from, calendar);
    return period.from === span.from && period.to === span.to;
  };
  const whole = filled.filter(isWhole);
  const others = filled.filter((item) => !isWhole(item));
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
      note(context, 'like-for-like', 'note', `the ${grain} that is running is compared with ${writtenSpan(span)}`);
  }
  return fromEntries(entries, decimals);
}
