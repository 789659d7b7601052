import { Problem, thousands } from '../problem';
import { listedFirst, listedMonthOf, listedStart, listedWeekday, type FiscalMonths } from './fiscalMonths';
import { dayOfWeek, weekMonthOf, weekMonthStart, type FiscalWeeks } from './fiscalWeeks';
import { WEEKDAYS, type Weekday } from './workdays';
import { addMonths, civilOf, dayOf, isoDay, MONTH_NAMES, writtenDay, type Day } from './day';

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
  /** Fiscal years of whole weeks, in place of `fiscalYearStart` and `weekStart`. */
  readonly weeks?: FiscalWeeks;
  /** Fiscal months that are listed, in place of any rule. */
  readonly months?: FiscalMonths;
}

/** What a calendar says of its fiscal years. */
export type FiscalYears = Pick<FiscalCalendar, 'fiscalYearStart' | 'weekStart' | 'weeks' | 'months'>;

/** Whether fiscal months begin on other days than those of the calendar. */
export const hasOwnMonths = ({ weeks, months }: Pick<FiscalCalendar, 'weeks' | 'months'>): boolean =>
  weeks !== undefined || months !== undefined;

/** Whether fiscal months are of whole weeks. */
export const hasWholeWeeks = ({ weeks, months }: Pick<FiscalCalendar, 'weeks' | 'months'>): boolean =>
  months ? listedWeekday(months) !== null : weeks !== undefined;

/** The calendar with years of the calendar's own months. */
export function withPlainMonths({ weeks: _, months: __, ...plain }: FiscalCalendar): FiscalCalendar {
  return plain;
}

export const PLAIN_CALENDAR: FiscalCalendar = { fiscalYearStart: 1, fiscalYearNamed: 'end', weekStart: 'monday' };

/** Both ends belong to the span. */
export interface Span {
  readonly from: Day;
  readonly to: Day;
}

/** The month that a fiscal year begins with, 1–12. */
export const firstMonth = ({ fiscalYearStart, weeks, months }: Omit<FiscalYears, 'weekStart'>): number =>
  months ? listedFirst(months) : weeks ? (weeks.of % 12) + 1 : fiscalYearStart;

/** Whether quarters and years of both begin on the same days. */
export const haveSameYears = (a: FiscalCalendar, b: FiscalCalendar): boolean =>
  firstMonth(a) === firstMonth(b) && JSON.stringify([a.weeks, a.months]) === JSON.stringify([b.weeks, b.months]);

/** The name of the fiscal year that holds a day. */
export function fiscalYear(day: Day, calendar: FiscalCalendar): number {
  const { year, month } = monthOf(day, calendar);
  const startsIn = month >= firstMonth(calendar) ? year : year - 1;
  return startsIn + nameShift(calendar);
}

/** A year that starts in January ends in the year it starts. */
function nameShift(calendar: FiscalCalendar): number {
  return calendar.fiscalYearNamed === 'end' && firstMonth(calendar) > 1 ? 1 : 0;
}

/** First day of the fiscal year of that name. */
export function fiscalYearStart(name: number, calendar: FiscalCalendar): Day {
  return monthStart({ year: name - nameShift(calendar), month: firstMonth(calendar) }, calendar);
}

/** 1–4. */
export function fiscalQuarter(day: Day, calendar: FiscalCalendar): number {
  return Math.floor(((monthOf(day, calendar).month - firstMonth(calendar) + 12) % 12) / 3) + 1;
}

/** A month by its name: March 2026. */
export interface NamedMonth {
  readonly year: number;
  /** 1–12 */
  readonly month: number;
}

/** A month by how many lie before it from the year 0 on. */
const monthAt = (place: number): NamedMonth => ({
  year: Math.floor(place / 12),
  month: place - Math.floor(place / 12) * 12 + 1,
});

/** The month that holds a day. Fiscal months of weeks, and listed ones, bear the names of the calendar's months, in their order. */
export function monthOf(day: Day, { weeks, months }: FiscalCalendar): NamedMonth {
  if (months) return monthAt(listedMonthOf(months, day));
  if (!weeks) return civilOf(day);
  const { year, place } = weekMonthOf(weeks, day);
  return monthAt(year * 12 + weeks.of - 12 + place);
}

/** First day of a month; a number beyond 1–12 is a month of another year. */
export function monthStart({ year, month }: NamedMonth, { weeks, months }: FiscalCalendar): Day {
  if (months) return listedStart(months, year * 12 + month - 1);
  if (weeks) return weekMonthStart(weeks, { year, place: month - 1 - weeks.of + 12 });
  const on = Math.floor((month - 1) / 12);
  return dayOf(year + on, month - 12 * on, 1);
}

/** First day of the grain's period that holds the day. */
export function startOf(grain: Grain, day: Day, calendar: FiscalCalendar): Day {
  switch (grain) {
    case 'day':
      return day;
    case 'week':
      return day - dayOfWeek({ ends: weekEnds(calendar) }, day);
    case 'month':
      return monthStart(monthOf(day, calendar), calendar);
    case 'quarter': {
      const { year, month } = monthOf(day, calendar);
      return monthStart({ year, month: month - ((month - firstMonth(calendar) + 12) % 3) }, calendar);
    }
    case 'year':
      return fiscalYearStart(fiscalYear(day, calendar), calendar);
  }
}

/** The weekday on which weeks end: that of the fiscal months where these are of weeks. */
function weekEnds({ weekStart, weeks, months }: Omit<FiscalYears, 'fiscalYearStart'>): Weekday {
  const begins = months ? listedWeekday(months) : null;
  if (begins !== null) return WEEKDAYS[(begins + 6) % 7]!;
  if (weeks && !months) return weeks.ends;
  return weekStart === 'sunday' ? 'saturday' : 'sunday';
}

/** The weekday on which weeks begin, 0 Monday … 6 Sunday. */
export const weekBegins = (calendar: Omit<FiscalYears, 'fiscalYearStart'>): number =>
  (WEEKDAYS.indexOf(weekEnds(calendar)) + 1) % 7;

/** The start of a period, n periods on from one that starts at `start`. */
export function step(grain: Grain, start: Day, n: number, calendar: FiscalCalendar): Day {
  switch (grain) {
    case 'day':
      return start + n;
    case 'week':
      return start + 7 * n;
    default:
      return monthsOn(start, MONTHS[grain] * n, calendar);
  }
}

/** Months in a period. */
export const MONTHS = { month: 1, quarter: 3, year: 12 } as const;

/**
 * The same day some months on: of months of the calendar the same day of the month, of fiscal months of their own the day as far from
 * their first; the last one where the month is too short for that (29 Feb → 28 Feb).
 */
export function monthsOn(day: Day, months: number, calendar: FiscalCalendar): Day {
  if (!hasOwnMonths(calendar)) return addMonths(day, months);
  const { year, month } = monthOf(day, calendar);
  const there = { year, month: month + months };
  const from = monthStart(there, calendar);
  const to = monthStart({ year, month: there.month + 1 }, calendar) - 1;
  return Math.min(from + day - monthStart({ year, month }, calendar), to);
}

/** Last day of the grain's period that holds the day. */
export function endOf(grain: Grain, day: Day, calendar: FiscalCalendar): Day {
  return step(grain, startOf(grain, day, calendar), 1, calendar) - 1;
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
      `each ${grain} from ${isoDay(from)} to ${isoDay(to)} makes about ${thousands(about)} steps, more than the ${thousands(MOST_STEPS)} that are computed`,
      { in: 'brief' },
      'ask for a shorter period, or for longer steps',
    );
  for (let start = startOf(grain, from, calendar); start <= to; start = step(grain, start, 1, calendar))
    starts.push(start);
  return starts;
}

/** `2026-03`. */
export const monthCode = ({ year, month }: NamedMonth) =>
  `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}`;

/** How a step is written in files: `2026-03-18`, `2026-03`, `2026-Q3`, `2026` (quarter and year in fiscal terms). */
export function stepCode(grain: Grain, start: Day, calendar: FiscalCalendar): string {
  switch (grain) {
    case 'day':
    case 'week':
      return isoDay(start);
    case 'month':
      return monthCode(monthOf(start, calendar));
    case 'quarter':
      return `${fiscalYear(start, calendar)}-Q${fiscalQuarter(start, calendar)}`;
    case 'year':
      return String(fiscalYear(start, calendar));
  }
}

/** How a step is shown to people: `18 Mar 2026`, `Mar 2026`, `Q3 2026`, `2026`. */
export function stepName(grain: Grain, start: Day, calendar: FiscalCalendar): string {
  switch (grain) {
    case 'day':
      return writtenDay(start);
    case 'week':
      return `week of ${writtenDay(start)}`;
    case 'month': {
      const { year, month } = monthOf(start, calendar);
      return `${MONTH_NAMES[month - 1]!.slice(0, 3)} ${year}`;
    }
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
