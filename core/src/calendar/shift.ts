import type { Day } from './day';
import { hasWholeWeeks, MONTHS, monthOf, monthsOn, monthStart, type FiscalCalendar, type Span } from './fiscal';
import { monthsIn, type Period } from './period';
import { isWorkday, workdaysIn } from './workdays';

/** How far back a comparison reaches. */
export type Back = { readonly years: number } | { readonly periods: number };

/** By which days two periods are held against each other. */
export const ALIGNMENTS = ['date', 'weekday', 'workday'] as const;
export type Alignment = (typeof ALIGNMENTS)[number];

/**
 * The span a number is compared with: the same period some years back, or some periods back, like for like.
 * A partial period is cut at the same elapsed point: its last day is the same day of the month as the as-of date
 * (29 Feb → 28 Feb), or 364 days earlier a year when weekdays are to be kept, or the day by which as many workdays have gone by.
 * Whole periods stay whole, whichever way they are written and also on their last day: what runs from 1 January to 28 February 2025
 * is compared with all of February 2024. In fiscal years of weeks days are the same days of the same weeks, and the 53rd week is
 * compared with the last one of a year that has 52; days and weeks are compared with as many, months, quarters and years with whole
 * ones. By weekday every week is compared with the one 52 weeks before.
 */
export function shiftBack(period: Period, back: Back, align: Alignment, asOf: Day, calendar: FiscalCalendar): Span {
  const cut = period.partial && period.from <= asOf;
  const current: Span = { from: period.from, to: cut ? asOf : period.to };
  const isWhole = (period.whole && !cut) || monthsIn(current, calendar) !== null;
  const there =
    'years' in back && align === 'weekday'
      ? daysBack(current, 364 * back.years)
      : shifted(period, current, back, isWhole, calendar);
  if (align !== 'workday' || isWhole) return there;
  return { from: there.from, to: sameWorkday(current, there, calendar) };
}

function shifted({ unit }: Period, current: Span, back: Back, isWhole: boolean, calendar: FiscalCalendar): Span {
  if ('years' in back) {
    const months = 12 * back.years;
    if (!hasWholeWeeks(calendar) || (unit?.grain !== 'week' && unit?.grain !== 'day'))
      return monthsBack(current, months, isWhole, calendar);
    // Days and weeks are held against as many.
    const to = sameWeek(current.to, months, calendar);
    return { from: to - (current.to - current.from), to };
  }
  if (unit === null) return daysBack(current, (current.to - current.from + 1) * back.periods);
  const { grain, count } = unit;
  if (grain === 'day' || grain === 'week') return daysBack(current, (grain === 'week' ? 7 : 1) * count * back.periods);
  return monthsBack(current, MONTHS[grain] * count * back.periods, isWhole, calendar);
}

const daysBack = ({ from, to }: Span, days: number): Span => ({ from: from - days, to: to - days });

function monthsBack(span: Span, months: number, whole: boolean, calendar: FiscalCalendar): Span {
  if (hasWholeWeeks(calendar)) return weeksBack(span, months, calendar);
  const there = (day: Day) => monthsOn(day, -months, calendar);
  // Whole periods stay whole: all of February is held against all of February, whether it has 28 or 29 days.
  return { from: there(span.from), to: whole ? there(span.to + 1) - 1 : there(span.to) };
}

/**
 * Some months back in fiscal years of weeks: months, quarters and years whole; of other days the same days of the same weeks. A week
 * that its month has not there is the last one it has; of more than that week, what there is of it.
 */
function weeksBack({ from, to }: Span, months: number, calendar: FiscalCalendar): Span {
  const there = (day: Day) => monthsOn(day, -months, calendar);
  if (monthsIn({ from, to }, calendar) !== null) return { from: there(from), to: there(to + 1) - 1 };
  const start = sameWeek(from, months, calendar);
  return { from: start, to: start === there(from) ? there(to) : sameWeek(to, months, calendar) };
}

/** The same day some months back in fiscal years of weeks; of a week that its month has not there, the same day of the last one it has. */
function sameWeek(day: Day, months: number, calendar: FiscalCalendar): Day {
  const { year, month } = monthOf(day, calendar);
  const from = monthStart({ year, month: month - months }, calendar);
  const length = monthStart({ year, month: month - months + 1 }, calendar) - from;
  let place = day - monthStart({ year, month }, calendar);
  while (place >= length) place -= 7;
  return from + place;
}

/** The day of another span by which as many workdays have gone by as of this one. */
function sameWorkday(current: Span, there: Span, calendar: FiscalCalendar): Day {
  const wanted = workdaysIn(current, calendar);
  let day = there.from - 1;
  for (let gone = 0; gone < wanted;) if (isWorkday(++day, calendar)) gone++;
  // Free days that have gone by here go by there.
  if (!isWorkday(current.to, calendar)) while (!isWorkday(day + 1, calendar)) day++;
  return Math.max(there.from, day);
}
