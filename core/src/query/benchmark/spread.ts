import {
  monthsOn,
  endOf,
  isWorkday,
  length,
  overlap,
  startOf,
  stepName,
  workdaysIn,
  workweekText,
  type Day,
  type FiscalCalendar,
  type Grain,
  type Span,
} from '../../calendar';
import { counted } from '../../problem';
import type { Benchmark, Spread } from '../../report';
import { conditionsFor, note, type Context } from '../context';
import { valuesOf, type Entry } from '../values';
import type { BenchmarkRequest } from './asked';

export type TableBenchmark = Benchmark & { kind: 'table' };

/** How targets are spread over their days. */
const SPREADS: Readonly<Record<Spread, string>> = {
  even: 'evenly by days',
  workdays: 'by working days',
  'last year': 'in last year’s daily proportions',
  none: '',
};

/**
 * How targets are spread over their days, in words.
 * @param target the days of one of them, of which the holidays are counted
 */
export function spreadSaid(spread: Spread, calendar: FiscalCalendar, target?: Span): string {
  if (spread !== 'workdays') return SPREADS[spread];
  const week = `${SPREADS[spread]}, ${workweekText(calendar)}`;
  if (!target) return (calendar.holidays ?? []).length === 0 ? week : `${week} without holidays`;
  const holidays = workdaysIn(target, { ...calendar, holidays: [] }) - workdaysIn(target, calendar);
  return holidays === 0 ? week : `${week} less ${counted(holidays, 'holiday')}`;
}

/** Tells how much of a target counts: of what is held against, or of what is due of it by now. */
export function spreadNote(
  context: Context,
  benchmark: TableBenchmark,
  grain: Grain,
  start: number,
  target: Span,
  { period }: BenchmarkRequest,
): void {
  const days = overlap(target, period);
  const isDue = period.to !== context.period.to;
  const of = `the ${stepName(grain, start, context.calendar)} target of “${benchmark.name}”`;
  const many = `${days} of ${counted(length(target), 'day')}`;
  const how = `spread ${spreadSaid(benchmark.spread, context.calendar, target)}`;
  if (isDue) note(context, 'due-spread', 'note', `${many} of ${of} ${days === 1 ? 'is' : 'are'} due by now, ${how}`);
  else note(context, 'spread', 'note', `of ${of}, ${many} ${days === 1 ? 'is' : 'are'} counted, ${how}`);
}

/** What part of a target, 0–1, falls to its days up to one of them. */
export async function shareUpTo(
  context: Context,
  benchmark: TableBenchmark,
  own: readonly string[],
  asked: BenchmarkRequest,
): Promise<(entry: Entry, target: Span, day: Day) => number> {
  const evenly = (target: Span, day: Day) => (day - target.from + 1) / length(target);
  if (benchmark.spread !== 'workdays' && benchmark.spread !== 'last year')
    return (_, target, day) => evenly(target, day);
  const weigh =
    benchmark.spread === 'workdays'
      ? (_: Entry, day: Day) => (isWorkday(day, context.calendar) ? 1 : 0)
      : await lastYearsDays(context, own, asked);
  const running = new Map<Entry, Float64Array>();
  return (entry, target, day) => {
    let sums = running.get(entry);
    if (!sums) {
      sums = new Float64Array(length(target));
      let sum = 0;
      for (let i = 0; i < sums.length; i++) sums[i] = sum += weigh(entry, target.from + i);
      running.set(entry, sums);
    }
    const whole = sums[sums.length - 1]!;
    return whole === 0 ? evenly(target, day) : sums[day - target.from]! / whole;
  };
}

/** What each member sold on the same date a year before; nothing below 0. */
async function lastYearsDays(
  context: Context,
  own: readonly string[],
  asked: BenchmarkRequest,
): Promise<(entry: Entry, day: Day) => number> {
  const { source, of, brief, calendar } = context;
  const yearBack = (day: Day) => monthsOn(day, -12, calendar);
  const from = yearBack(startOf('year', asked.period.from, calendar));
  const span = { from, to: yearBack(endOf('year', asked.period.to, calendar)) };
  const { where } = conditionsFor(brief.only, of.table, (field) => field);
  const daily = await valuesOf(source, of, { by: own, grain: of.table.grain ?? 'day', span, where });
  const byGroup = new Map<string, Map<Day, number>>();
  for (const { members, step, value } of daily.at.values()) {
    const key = members.join('\u0000');
    let days = byGroup.get(key);
    if (!days) byGroup.set(key, (days = new Map()));
    days.set(step!, Number.isNaN(value) ? 0 : Math.max(0, value));
  }
  return ({ members }, day) => byGroup.get(members.join('\u0000'))?.get(yearBack(day)) ?? 0;
}
