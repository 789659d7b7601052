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
 * compared with the last one of a year that has 52; by weekday every week is compared with the one 52 weeks before.
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
  if ('years' in back) return monthsBack(current, 12 * back.years, isWhole, calendar);
  if (unit === null) return daysBack(current, (current.to - current.from + 1) * back.periods);
  const { grain, count } = unit;
  if (grain === 'day' || grain === 'week') return daysBack(current, (grain === 'week' ? 7 : 1) * count * back.periods);
  return monthsBack(current, MONTHS[grain] * count * back.periods, isWhole, calendar);
}

const daysBack = ({ from, to }: Span, days: number): Span => ({ from: from - days, to: to - days });

function monthsBack({ from, to }: Span, months: number, whole: boolean, calendar: FiscalCalendar): Span {
  return {
    from: hasWholeWeeks(calendar) ? sameWeek(from, months, calendar) : monthsOn(from, -months, calendar),
    to: whole ? sameWeek(to + 1, months, calendar) - 1 : monthsOn(to, -months, calendar),
  };
}

/** The same day some months back; of a week that its month has not there, the same day of the last one it has. */
function sameWeek(day: Day, months: number, calendar: FiscalCalendar): Day {
  if (!hasWholeWeeks(calendar)) return monthsOn(day, -months, calendar);
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
