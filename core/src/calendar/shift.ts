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
 * ones. By weekday every week is compared with the one 52 weeks before. Weeks of other calendars are compared with whole weeks, those
 * nearest to the same days. By workday a day is compared with one day: the workday of the same number in its month, or, where nobody
 * works, the free day of the same number; some days back, with the workday or free day as many of its kind before. Where there is none
 * the span is empty.
 */
export function shiftBack(period: Period, back: Back, align: Alignment, asOf: Day, calendar: FiscalCalendar): Span {
  const cut = period.partial && period.from <= asOf;
  const current: Span = { from: period.from, to: cut ? asOf : period.to };
  const isWhole = (period.whole && !cut) || monthsIn(current, calendar) !== null;
  const { grain, count } = period.unit ?? {};
  if (align === 'workday' && grain === 'day' && count === 1) return sameKindOfDay(current.from, back, calendar);
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
    if (!hasWholeWeeks(calendar) && unit?.grain === 'week') {
      const days = current.from - monthsOn(current.from, -months, calendar);
      return daysBack(current, 7 * Math.round(days / 7));
    }
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

/** The workday or free day that has the number of this one in its month, or is as many of its kind before. */
function sameKindOfDay(day: Day, back: Back, calendar: FiscalCalendar): Span {
  const kind = isWorkday(day, calendar);
  const isSame = (other: Day) => isWorkday(other, calendar) === kind;
  if ('periods' in back) {
    // There may be none of its kind, where every day is a workday but the holidays.
    let found = day;
    for (let left = back.periods, earliest = day - 366 * (back.periods + 1); left > 0;) {
      if (--found < earliest) return { from: day, to: day - 1 };
      if (isSame(found)) left--;
    }
    return { from: found, to: found };
  }
  const { year, month } = monthOf(day, calendar);
  let left = 0;
  for (let one = monthStart({ year, month }, calendar); one <= day; one++) if (isSame(one)) left++;
  const there = { year, month: month - 12 * back.years };
  const end = monthStart({ ...there, month: there.month + 1 }, calendar);
  for (let one = monthStart(there, calendar); one < end; one++)
    if (isSame(one) && --left === 0) return { from: one, to: one };
  return { from: end, to: end - 1 };
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
