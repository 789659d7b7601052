import { Problem } from '../problem';
import type { Weekday } from './workdays';
import { addMonths, civilOf, dayOf, isoDay, MONTH_NAMES, weekday, writtenDay, type Day } from './day';

export const GRAINS = ['day', 'week', 'month', 'quarter', 'year'] as const;
export type Grain = (typeof GRAINS)[number];

/** When the fiscal year starts, what it is called, when a week starts. */
export interface FiscalCalendar {
  /** 1–12 */
  readonly fiscalYearStart: number;
  /** A fiscal year bears the calendar year in which it ends or starts. */
  readonly fiscalYearNamed: 'end' | 'start';
  readonly weekStart: 'monday' | 'sunday';
  /** Days of the week on which somebody works; Monday to Friday when left out. */
  readonly workweek?: readonly Weekday[];
  /** Days on which nobody works, YYYY-MM-DD. */
  readonly holidays?: readonly string[];
}

export const PLAIN_CALENDAR: FiscalCalendar = { fiscalYearStart: 1, fiscalYearNamed: 'end', weekStart: 'monday' };

/** Both ends belong to the span. */
export interface Span {
  readonly from: Day;
  readonly to: Day;
}

/** The name of the fiscal year that holds a day. */
export function fiscalYear(day: Day, calendar: FiscalCalendar): number {
  const { year, month } = civilOf(day);
  const startsIn = month >= calendar.fiscalYearStart ? year : year - 1;
  return startsIn + nameShift(calendar);
}

/** A year that starts in January ends in the year it starts. */
function nameShift({ fiscalYearStart, fiscalYearNamed }: FiscalCalendar): number {
  return fiscalYearNamed === 'end' && fiscalYearStart > 1 ? 1 : 0;
}

/** First day of the fiscal year of that name. */
export function fiscalYearStart(name: number, calendar: FiscalCalendar): Day {
  return dayOf(name - nameShift(calendar), calendar.fiscalYearStart, 1);
}

/** 1–4. */
export function fiscalQuarter(day: Day, calendar: FiscalCalendar): number {
  return Math.floor(((civilOf(day).month - calendar.fiscalYearStart + 12) % 12) / 3) + 1;
}

/** First day of the grain's period that holds the day. */
export function startOf(grain: Grain, day: Day, calendar: FiscalCalendar): Day {
  const { year, month } = civilOf(day);
  switch (grain) {
    case 'day':
      return day;
    case 'week':
      return day - (calendar.weekStart === 'monday' ? weekday(day) : (weekday(day) + 1) % 7);
    case 'month':
      return dayOf(year, month, 1);
    case 'quarter':
      return addMonths(dayOf(year, month, 1), -((month - calendar.fiscalYearStart + 12) % 3));
    case 'year':
      return fiscalYearStart(fiscalYear(day, calendar), calendar);
  }
}

/** The start of a period, n periods on from one that starts at `start`. */
export function step(grain: Grain, start: Day, n: number): Day {
  switch (grain) {
    case 'day':
      return start + n;
    case 'week':
      return start + 7 * n;
    case 'month':
      return addMonths(start, n);
    case 'quarter':
      return addMonths(start, 3 * n);
    case 'year':
      return addMonths(start, 12 * n);
  }
}

/** Last day of the grain's period that holds the day. */
export function endOf(grain: Grain, day: Day, calendar: FiscalCalendar): Day {
  return step(grain, startOf(grain, day, calendar), 1) - 1;
}

export function spanOf(grain: Grain, day: Day, calendar: FiscalCalendar): Span {
  return { from: startOf(grain, day, calendar), to: endOf(grain, day, calendar) };
}

/** More steps than these are not computed: nobody could look at them. */
const MOST_STEPS = 40_000;

const SHORTEST: Readonly<Record<Grain, number>> = { day: 1, week: 7, month: 28, quarter: 90, year: 365 };

/** Starts of all periods of the grain that touch the span, in order. Throws a `Problem` where they are too many. */
export function stepsWithin(grain: Grain, { from, to }: Span, calendar: FiscalCalendar): Day[] {
  const starts: Day[] = [];
  const about = Math.floor((to - from) / SHORTEST[grain]);
  if (about > MOST_STEPS)
    throw new Problem(
      'too-many-steps',
      `each ${grain} from ${isoDay(from)} to ${isoDay(to)} makes about ${about.toLocaleString('en')} steps, more than the ${MOST_STEPS.toLocaleString('en')} that are computed`,
      { in: 'brief' },
      'ask for a shorter period, or for longer steps',
    );
  for (let start = startOf(grain, from, calendar); start <= to; start = step(grain, start, 1)) starts.push(start);
  return starts;
}

/** How a step is written in files: `2026-03-18`, `2026-03`, `2026-Q3`, `2026` (quarter and year in fiscal terms). */
export function stepCode(grain: Grain, start: Day, calendar: FiscalCalendar): string {
  switch (grain) {
    case 'day':
    case 'week':
      return isoDay(start);
    case 'month':
      return isoDay(start).slice(0, 7);
    case 'quarter':
      return `${fiscalYear(start, calendar)}-Q${fiscalQuarter(start, calendar)}`;
    case 'year':
      return String(fiscalYear(start, calendar));
  }
}

/** How a step is shown to people: `18 Mar 2026`, `Mar 2026`, `Q3 2026`, `2026`. */
export function stepName(grain: Grain, start: Day, calendar: FiscalCalendar): string {
  const { year, month } = civilOf(start);
  switch (grain) {
    case 'day':
      return writtenDay(start);
    case 'week':
      return `week of ${writtenDay(start)}`;
    case 'month':
      return `${MONTH_NAMES[month - 1]!.slice(0, 3)} ${year}`;
    case 'quarter':
      return `Q${fiscalQuarter(start, calendar)} ${fiscalYear(start, calendar)}`;
    case 'year':
      return String(fiscalYear(start, calendar));
  }
}

/** Calendar days both spans share. */
export function overlap(a: Span, b: Span): number {
  return Math.max(0, Math.min(a.to, b.to) - Math.max(a.from, b.from) + 1);
}

export function length({ from, to }: Span): number {
  return to - from + 1;
}
