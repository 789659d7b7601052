import { addMonths, type Day } from './day';
import { step, type Grain, type Span } from './fiscal';
import { monthsIn, type Period } from './period';

/** How far back a comparison reaches. */
export type Back = { readonly years: number } | { readonly periods: number };

const MONTHS: Partial<Record<Grain, number>> = { month: 1, quarter: 3, year: 12 };

/**
 * The span a number is compared with: the same period some years back, or some periods back, like for like.
 * A partial period is cut at the same elapsed point: its last day is the same day of the month as the as-of day
 * (29 Feb → 28 Feb), or 364 days earlier a year when weekdays are to be kept. Whole periods stay whole, whichever way they are
 * written and also on their last day: what runs from 1 January to 28 February 2025 is compared with all of February 2024.
 */
export function shiftBack(period: Period, back: Back, align: 'date' | 'weekday', asOf: Day): Span {
  const cut = period.partial && period.from <= asOf;
  const current: Span = { from: period.from, to: cut ? asOf : period.to };
  const isWhole = (period.whole && !cut) || monthsIn(current) !== null;
  if ('years' in back) {
    if (align === 'weekday') return { from: current.from - 364 * back.years, to: current.to - 364 * back.years };
    return byMonths(current, 12 * back.years, isWhole);
  }
  if (period.unit === null) {
    const days = (current.to - current.from + 1) * back.periods;
    return { from: current.from - days, to: current.to - days };
  }
  const { grain, count } = period.unit;
  const months = MONTHS[grain];
  if (months === undefined) {
    const days = (grain === 'week' ? 7 : 1) * count * back.periods;
    return { from: current.from - days, to: current.to - days };
  }
  return byMonths(current, months * count * back.periods, isWhole);
}

function byMonths({ from, to }: Span, months: number, whole: boolean): Span {
  return { from: addMonths(from, -months), to: whole ? addMonths(to + 1, -months) - 1 : addMonths(to, -months) };
}

/** The same for one step of a figure over time. */
export function shiftStep(grain: Grain, start: Day, back: Back, align: 'date' | 'weekday', asOf: Day): Span {
  const to = step(grain, start, 1) - 1;
  return shiftBack({ from: start, to, partial: to > asOf, whole: true, unit: { grain, count: 1 } }, back, align, asOf);
}
