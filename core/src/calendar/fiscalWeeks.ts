import { civilOf, dayOf, monthLength, weekday, type Day } from './day';
import { WEEKDAYS, type Weekday } from './workdays';

export const PATTERNS = ['4-4-5', '4-5-4', '5-4-4'] as const;

/**
 * Fiscal years of whole weeks, as retailers and factories keep them: four quarters of 13 weeks, in each three months of 4, 4 and 5
 * weeks in some order. A year ends on a certain weekday: the last one of a month, or the one nearest to the month's end; where that
 * makes 53 weeks, the last month has one more.
 */
export interface FiscalWeeks {
  readonly pattern: (typeof PATTERNS)[number];
  /** The weekday on which weeks and years end. */
  readonly ends: Weekday;
  readonly on: 'last' | 'nearest';
  /** The month about whose end years end, 1–12. */
  readonly of: number;
}

/** A fiscal month by its place in its year. */
export interface WeekMonth {
  /** Years are counted by the calendar year in which their last month begins. */
  readonly year: number;
  /** 0–11 */
  readonly place: number;
}

/** Last day of the fiscal year whose last month is month `of` of that calendar year. */
function yearEnd({ ends, on, of }: FiscalWeeks, year: number): Day {
  const last = dayOf(year, of, monthLength(year, of));
  const back = (weekday(last) - WEEKDAYS.indexOf(ends) + 7) % 7;
  // The one before is at most three days away, or the one after is nearer.
  return on === 'last' || back <= 3 ? last - back : last - back + 7;
}

/** First day of that fiscal year. */
const yearStart = (weeks: FiscalWeeks, year: number): Day => yearEnd(weeks, year - 1) + 1;

/** Weeks of a year before each of its months. */
function weeksBefore({ pattern }: FiscalWeeks, place: number): number {
  const lengths = pattern.split('-').map(Number);
  const inQuarter = lengths.slice(0, place % 3).reduce((sum, n) => sum + n, 0);
  return Math.floor(place / 3) * 13 + inQuarter;
}

/** First day of a fiscal month; a place beyond its year is one of another year. */
export function weekMonthStart(weeks: FiscalWeeks, { year, place }: WeekMonth): Day {
  const on = Math.floor(place / 12);
  return yearStart(weeks, year + on) + 7 * weeksBefore(weeks, place - 12 * on);
}

/** The fiscal month that holds a day. */
export function weekMonthOf(weeks: FiscalWeeks, day: Day): WeekMonth {
  let { year } = civilOf(day);
  while (yearEnd(weeks, year) < day) year++;
  while (yearStart(weeks, year) > day) year--;
  const week = Math.floor((day - yearStart(weeks, year)) / 7);
  let place = 11;
  while (place > 0 && weeksBefore(weeks, place) > week) place--;
  return { year, place };
}

/** How many days of a week lie before a day, in weeks that end on `ends`. */
export const dayOfWeek = ({ ends }: Pick<FiscalWeeks, 'ends'>, day: Day): number =>
  (weekday(day) - WEEKDAYS.indexOf(ends) + 6) % 7;
