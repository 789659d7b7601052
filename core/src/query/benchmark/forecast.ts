import {
  monthsOn,
  endOf,
  length,
  overlap,
  spanOf,
  startOf,
  stepName,
  stepsWithin,
  type Day,
  type FiscalCalendar,
  type Grain,
  type Span,
} from '../../calendar';
import { tidy, total } from '../../number';
import { Problem, someOf } from '../../problem';
import type { Benchmark } from '../../report';
import { BLANK_MEMBER } from '../../table';
import { backtest, forecast, stepsNeeded, type ForecastWish, type Interval } from '../../series';
import { note, type Context } from '../context';
import { fromEntries, groupKey, valuesOf, type Entry, type Values } from '../values';
import type { BenchmarkRequest } from './asked';

type ForecastBenchmark = Benchmark & { kind: 'forecast' };

/** Steps of a season: the year, for days the week. */
const SEASON: Readonly<Record<Grain, number>> = { day: 7, week: 52, month: 12, quarter: 4, year: 1 };

/**
 * What a method expected of a period from the steps before it; the run rate goes on as the period has begun. Without a grain
 * months are forecast and added up; of a month that is only partly in the period its days count.
 */
export async function forecastValues(
  context: Context,
  benchmark: ForecastBenchmark,
  asked: BenchmarkRequest,
): Promise<Values> {
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
  const history = await historyBefore(context, asked.by, grain, asked.period);
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
  const byDate = wish.method === 'same period last year' && byDay;
  /** What is expected of each wanted step, as a whole one. */
  const expected = (values: readonly number[]): readonly Interval[] | null => {
    if (byDate) return lastYearsDays(history, values, wanted, wish.growth ?? 0, context.calendar);
    const made = forecast(wish, values, horizon, SEASON[grain]);
    return made && wanted.map(({ ahead }) => made[ahead - 1]!);
  };
  const whole = asked.by.length > 0 ? await historyBefore(context, [], grain, asked.period) : history;
  const together = whole.series[0]?.values ?? [];
  const own = history.series.map((one) => ({ ...one, made: expected(one.values) }));
  const isShort = own.some(({ made }) => made === null);
  const all = isShort && of.additive && whole !== history ? expected(together) : null;
  const left = all && whatIsLeft(all, own, SEASON[grain]);
  const entries: Entry[] = [];
  for (const [nth, { members, made: ofOwn }] of own.entries()) {
    const made = ofOwn ?? left?.[nth];
    if (!made) continue;
    const madeAt = (i: number): Interval => {
      const { share } = wanted[i]!;
      const { value, low, high } = made[i]!;
      return share === 1
        ? { value, low, high }
        : { value: tidy(value * share), low: tidy(low * share), high: tidy(high * share) };
    };
    if (asked.grain) wanted.forEach(({ start }, i) => entries.push({ members, step: start, rows: 0, ...madeAt(i) }));
    else {
      // A step that cannot be told leaves the sum untold.
      const parts = wanted.map((_, i) => madeAt(i).value);
      entries.push({ members, step: null, value: parts.some(Number.isNaN) ? NaN : total(parts, null), rows: 0 });
    }
  }
  const known = own.filter(({ made }) => made !== null).length;
  if (isShort) {
    const lacking = own.flatMap(({ made, members }) =>
      made ? [] : [members.map((member) => member || BLANK_MEMBER).join(' · ')],
    );
    const [isOne, who] = [lacking.length === 1, someOf(lacking)];
    const instead = `: ${isOne ? 'it is' : 'they are'} expected to bring what the others leave of the forecast of all`;
    note(
      context,
      'history-too-short',
      'warning',
      `“${benchmark.name}” needs ${stepsNeeded(wish, SEASON[grain])} ${grain}s before the period${known === 0 ? ': there are fewer' : `, and ${who} ${isOne ? 'has' : 'have'} fewer`}${left ? instead : ''}`,
    );
  }
  if (known > 0 && asked.period === context.period)
    note(context, 'forecast-rests-on', 'note', restsOn(context, benchmark, history, grain, wanted));
  const missed = backtest(wish, together, byDate ? 365 : SEASON[grain]);
  // The season of days is a week.
  const earlier = byDay && !byDate ? 'a week' : 'a year';
  if (missed !== null)
    note(
      context,
      'backtest',
      missed > MOST_MISSED ? 'warning' : 'note',
      `“${benchmark.name}”, made ${earlier} earlier, would have missed the ${grain}s that followed by ${Math.round(missed * 1000) / 10}% on average`,
    );
  return fromEntries(entries, null);
}

interface Own {
  readonly values: readonly number[];
  /** What is expected of it by its own history; null where that is too short. */
  readonly made: readonly Interval[] | null;
}

/**
 * Of members with too little history: what the forecast of all leaves beside the others’, in proportion to what each brought in the
 * last season, so that all add up to that of all. Null where the others’ come to more than that of all, or leave nothing.
 */
function whatIsLeft(
  all: readonly Interval[],
  members: readonly Own[],
  season: number,
): Record<number, Interval[]> | null {
  const short = members.flatMap(({ made, values }, nth) => {
    const last = values.slice(-season).filter((value) => !Number.isNaN(value));
    return made ? [] : [{ nth, brought: total(last, null) }];
  });
  const brought = total(
    short.map((one) => one.brought),
    null,
  );
  const left = all.map(({ value }, i) => {
    const others = total(
      members.flatMap(({ made }) => (made ? [made[i]!.value] : [])),
      null,
    );
    return tidy(value - (others || 0));
  });
  // What computing leaves is nothing.
  const isPart = (value: number, i: number) => value * brought > 0 && Math.abs(value) > 1e-9 * Math.abs(all[i]!.value);
  if (!left.every(isPart) || short.some((one) => one.brought * brought < 0)) return null;
  return Object.fromEntries(
    short.map((one) => [
      one.nth,
      left.map((value) => ({ value: tidy((value * one.brought) / brought), low: NaN, high: NaN })),
    ]),
  );
}

/** What a forecast was made from, and how often growth was applied. */
function restsOn(
  { calendar }: Context,
  { name, method, growth = 0, k = 3 }: ForecastBenchmark,
  { next, steps }: History,
  grain: Grain,
  wanted: readonly { readonly start: Day; readonly ahead: number }[],
): string {
  const named = (day: Day) => stepName(grain, day, calendar);
  const before = (count: number) => steps[Math.max(0, steps.length - count)]!;
  const last = steps[steps.length - 1]!;
  const from = (first: Day) => `“${name}” rests on ${named(first)}${first === last ? '' : ` to ${named(last)}`}`;
  if (method === 'average of last k') return `${from(before(k))}, their mean`;
  if (method === 'linear' || method === 'smoothing') return from(steps[0]!);
  const byDate = method === 'same period last year' && grain === 'day';
  const season = byDate ? NaN : SEASON[grain];
  const begins = byDate ? Math.max(steps[0]!, monthsOn(next, -12, calendar)) : before(season);
  const times = ({ start, ahead }: (typeof wanted)[number]) => {
    if (!byDate) return Math.ceil(ahead / season);
    let count = 1;
    for (let day = monthsOn(start, -12, calendar); day >= next; day = monthsOn(day, -12, calendar)) count++;
    return count;
  };
  const most = Math.max(...wanted.map(times));
  const grown = growth === 0 ? ' as it was' : `, with growth of ${Math.round(growth * 1000) / 10}%`;
  if (most <= 1) return `${from(begins)}${grown}`;
  const again = wanted.find((one) => times(one) > 1)!;
  const often =
    growth === 0
      ? `repeated from ${named(again.start)} on`
      : `applied again from ${named(again.start)} on, ${most} times at the end`;
  return `${from(begins)}${grown}, ${often}`;
}

/** A forecast that would have missed by more than this share on average is a poor one. */
const MOST_MISSED = 0.2;

const ORDER: readonly Grain[] = ['day', 'week', 'month', 'quarter', 'year'];

function coarser(grain: Grain, of: Grain | null): Grain {
  return of !== null && ORDER.indexOf(of) > ORDER.indexOf(grain) ? of : grain;
}

interface History {
  /** The first day behind the history. */
  readonly next: Day;
  /** First days of its steps. */
  readonly steps: readonly Day[];
  readonly series: readonly { readonly members: readonly string[]; readonly values: readonly number[] }[];
}

/**
 * Whole steps before the figure's period, and before the days that are asked for, up to the as-of date, for each group. A step in which the data begin is no whole one. A sum
 * without rows is 0 from a group's first step on; any other measure is blank there.
 */
async function historyBefore(context: Context, by: readonly string[], grain: Grain, asked: Span): Promise<History> {
  const { source, of, brief, calendar, known, asOf, period } = context;
  const first = Math.min(period.from, asked.from);
  const end = Math.min(startOf(grain, first, calendar) - 1, asOf);
  // A step that is still running is no history yet.
  const last = endOf(grain, end, calendar) === end ? end : startOf(grain, end, calendar) - 1;
  const begun = startOf(grain, known.from, calendar);
  const span: Span = { from: begun >= known.begins ? begun : endOf(grain, known.from, calendar) + 1, to: last };
  if (span.from > span.to) return { next: startOf(grain, first, calendar), steps: [], series: [] };
  const { at } = await valuesOf(source, of, { by, grain, span, where: brief.only });
  const steps = stepsWithin(grain, span, calendar);
  const groups = new Map([...at.values()].map(({ members }) => [members.join('\u0000'), members]));
  return {
    next: last + 1,
    steps,
    series: [...groups.values()].map((members) => {
      let hasBegun = false;
      const values = steps.map((step) => {
        const value = at.get(groupKey(members, step))?.value;
        hasBegun ||= value !== undefined && !Number.isNaN(value);
        return value ?? (hasBegun && of.additive ? 0 : NaN);
      });
      return { members, values };
    }),
  };
}

/**
 * Days are held against the same date a year before, not the same weekday; of a second year the forecast itself is the year
 * before. What lies before the data is blank.
 */
function lastYearsDays(
  { steps, next }: History,
  values: readonly number[],
  wanted: readonly { readonly start: Day }[],
  growth: number,
  calendar: FiscalCalendar,
): Interval[] {
  const first = steps[0] ?? next;
  const valueOn = (day: Day): number => {
    if (day < next) return values[day - first] ?? NaN;
    return valueOn(monthsOn(day, -12, calendar)) * (1 + growth);
  };
  return wanted.map(({ start }) => ({ value: tidy(valueOn(start)), low: NaN, high: NaN }));
}

/** The period's value so far, a day, for every day of it. */
async function runRate(context: Context, asked: BenchmarkRequest): Promise<Values> {
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
