import {
  addMonths,
  endOf,
  length,
  overlap,
  spanOf,
  startOf,
  stepsWithin,
  type Day,
  type Grain,
  type Span,
} from '../../calendar';
import { tidy, total } from '../../number';
import { Problem } from '../../problem';
import type { Benchmark } from '../../report';
import { backtest, forecast, stepsNeeded, type ForecastWish, type Interval } from '../../series';
import { note, type Context } from '../context';
import { fromEntries, groupKey, valuesOf, type Entry, type Values } from '../values';
import type { Asked } from './asked';

type ForecastBenchmark = Benchmark & { kind: 'forecast' };

/** Steps of a season: the year, for days the week. */
export const SEASON: Readonly<Record<Grain, number>> = { day: 7, week: 52, month: 12, quarter: 4, year: 1 };

/**
 * What a method expected of a period from the steps before it; the run rate goes on as the period has begun. Without a grain
 * months are forecast and added up; of a month that is only partly in the period its days count.
 */
export async function forecastValues(context: Context, benchmark: ForecastBenchmark, asked: Asked): Promise<Values> {
  const { of, measure, brief } = context;
  // Over the whole period a ratio has no forecast of its own.
  if (!of.additive && !asked.grain && brief.grain && benchmark.method !== 'run rate') return fromEntries([], null);
  if (!of.additive && (!asked.grain || benchmark.method === 'run rate'))
    throw new Problem(
      'forecast-of-ratio',
      `“${measure.name}” does not add up, so “${benchmark.name}” cannot be ${benchmark.method === 'run rate' ? 'a rate a day' : 'added up over the period'}`,
      { in: 'brief' },
      'add a grain, such as “each month”, or use a measure that is a sum',
    );
  if (benchmark.method === 'run rate') return runRate(context, asked);
  const grain = asked.grain ?? coarser('month', of.table.grain);
  const steps = stepsWithin(grain, asked.period, context.calendar);
  const history = await historyBefore(context, asked.by, grain);
  const wish: ForecastWish = {
    method: benchmark.method,
    ...(benchmark.growth === undefined ? {} : { growth: benchmark.growth }),
    ...(benchmark.k === undefined ? {} : { k: benchmark.k }),
    ...(benchmark.season === undefined ? {} : { season: benchmark.season }),
  };
  const wanted: { start: Day; share: number; ahead: number }[] = steps.map((start) => {
    const span = spanOf(grain, start, context.calendar);
    return {
      start,
      share: overlap(span, asked.period) / length(span),
      ahead: stepsWithin(grain, { from: history.next, to: start }, context.calendar).length,
    };
  });
  const horizon = Math.max(0, ...wanted.map(({ ahead }) => ahead));
  const byDay = grain === 'day';
  const entries: Entry[] = [];
  let known = 0;
  for (const { members, values } of history.series) {
    const byDate = wish.method === 'same period last year' && byDay;
    const made = byDate
      ? lastYearsDays(history.at, members, wanted, wish.growth ?? 0)
      : forecast(wish, values, horizon, SEASON[grain]);
    if (!made) continue;
    known++;
    const madeAt = (i: number): Interval => {
      const { ahead, share } = wanted[i]!;
      const { value, low, high } = made[byDate ? i : ahead - 1]!;
      return share === 1
        ? { value, low, high }
        : { value: tidy(value * share), low: tidy(low * share), high: tidy(high * share) };
    };
    if (asked.grain) wanted.forEach(({ start }, i) => entries.push({ members, step: start, rows: 0, ...madeAt(i) }));
    else {
      const sum = wanted.reduce((total, _, i) => total + madeAt(i).value, 0);
      entries.push({ members, step: null, value: tidy(sum), rows: 0 });
    }
  }
  if (known < history.series.length)
    note(
      context,
      'history-too-short',
      'warning',
      `“${benchmark.name}” needs ${stepsNeeded(wish, SEASON[grain])} ${grain}s before the period: ${known === 0 ? 'there are' : `for ${history.series.length - known} of ${history.series.length} members there are`} fewer`,
    );
  const missed = backtest(
    wish,
    sumOfSeries(history.series),
    wish.method === 'same period last year' && byDay ? 365 : SEASON[grain],
  );
  if (missed !== null)
    note(
      context,
      'backtest',
      missed > MOST_MISSED ? 'warning' : 'note',
      `“${benchmark.name}”, made a year earlier, would have missed the ${grain}s that followed by ${Math.round(missed * 1000) / 10}% on average`,
    );
  return fromEntries(entries, null);
}

/** A forecast that would have missed by more than this share on average is a poor one. */
const MOST_MISSED = 0.2;

/** All members together, step by step. */
function sumOfSeries(series: History['series']): number[] {
  return (series[0]?.values ?? []).map((_, step) =>
    total(
      series.map(({ values }) => values[step]!),
      null,
    ),
  );
}

const ORDER: readonly Grain[] = ['day', 'week', 'month', 'quarter', 'year'];

function coarser(grain: Grain, of: Grain | null): Grain {
  return of !== null && ORDER.indexOf(of) > ORDER.indexOf(grain) ? of : grain;
}

interface History {
  /** The first day behind the history. */
  readonly next: Day;
  readonly series: readonly { readonly members: readonly string[]; readonly values: readonly number[] }[];
  readonly at: Values['at'];
}

/** Whole steps before the figure's period, up to the as-of date, for each group. */
async function historyBefore(context: Context, by: readonly string[], grain: Grain): Promise<History> {
  const { source, of, brief, calendar, known, asOf, period } = context;
  const end = Math.min(startOf(grain, period.from, calendar) - 1, asOf);
  // A step that is still running is no history yet.
  const last = endOf(grain, end, calendar) === end ? end : startOf(grain, end, calendar) - 1;
  const span: Span = { from: startOf(grain, known.from, calendar), to: last };
  if (span.from > span.to) return { next: startOf(grain, period.from, calendar), series: [], at: new Map() };
  const { at } = await valuesOf(source, of, { by, grain, span, where: brief.only });
  const steps = stepsWithin(grain, span, calendar);
  const groups = new Map([...at.values()].map(({ members }) => [members.join('\u0000'), members]));
  return {
    next: last + 1,
    series: [...groups.values()].map((members) => ({
      members,
      values: steps.map((step) => at.get(groupKey(members, step))?.value ?? NaN),
    })),
    at,
  };
}

/** Days are held against the same date a year before, not the same weekday. */
function lastYearsDays(
  at: Values['at'],
  members: readonly string[],
  wanted: readonly { readonly start: Day }[],
  growth: number,
): Interval[] {
  return wanted.map(({ start }) => ({
    value: tidy((at.get(groupKey(members, addMonths(start, -12)))?.value ?? 0) * (1 + growth)),
    low: NaN,
    high: NaN,
  }));
}

/** The period's value so far, a day, for every day of it. */
async function runRate(context: Context, asked: Asked): Promise<Values> {
  const { source, of, brief, calendar, asOf, period } = context;
  const toDate: Span = { from: period.from, to: Math.min(period.to, asOf) };
  if (toDate.to < toDate.from) return fromEntries([], null);
  const values = await valuesOf(source, of, { by: asked.by, grain: null, span: toDate, where: brief.only });
  const elapsed = length(toDate);
  const parts = asked.grain
    ? stepsWithin(asked.grain, asked.period, calendar).map((start) => ({
        step: start as Day | null,
        days: overlap(spanOf(asked.grain!, start, calendar), asked.period),
      }))
    : [{ step: null, days: length(asked.period) }];
  return fromEntries(
    [...values.at.values()].flatMap(({ members, value }) =>
      parts.map(({ step, days }) => ({ members, step, value: tidy((value / elapsed) * days), rows: 0 })),
    ),
    null,
  );
}
