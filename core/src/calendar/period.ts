import { isoDay, MONTH_NAMES, writtenDay, type Day } from './day';
import {
  endOf,
  fiscalYear,
  fiscalYearStart,
  hasOwnMonths,
  monthOf,
  monthStart,
  spanOf,
  startOf,
  step,
  monthCode,
  type NamedMonth,
  type FiscalCalendar,
  type Grain,
  type Span,
} from './fiscal';

/** A period as the brief names it. */
export type PeriodWords =
  | { readonly kind: 'all time' }
  | { readonly kind: 'latest'; readonly grain: Grain }
  | { readonly kind: 'previous'; readonly grain: Grain }
  | { readonly kind: 'last'; readonly count: number; readonly grain: Grain }
  | { readonly kind: 'to date'; readonly grain: Grain }
  | { readonly kind: 'fiscal'; readonly year: number; readonly quarter?: number; readonly toDate?: true }
  | { readonly kind: 'days'; readonly from: Day; readonly to: Day }
  | ({ readonly kind: 'month' } & NamedMonth)
  | { readonly kind: 'months'; readonly from: NamedMonth; readonly to: NamedMonth }
  | { readonly kind: 'quarter'; readonly year: number; readonly quarter: number };

/** A period as days, with what is needed to find the same period a year ago. */
export interface Period extends Span {
  /** It ends after the as-of date. */
  readonly partial: boolean;
  /** Made of whole months, weeks, quarters or years, whichever way it is written: `2026-02`, or 1 to 28 February 2026. */
  readonly whole: boolean;
  /** The grain one step back goes by: the year for `year to date`, the month for `latest month`; null for ranges of days that are no whole months, and for all time. */
  readonly unit: { readonly grain: Grain; readonly count: number } | null;
}

/** The days a period stands for. `known` is the span of the data, which is what `all time` means. */
export function resolvePeriod(words: PeriodWords, calendar: FiscalCalendar, asOf: Day, known: Span): Period {
  const make = (span: Span, whole: boolean, unit: Period['unit']): Period => ({
    from: span.from,
    to: span.to,
    partial: span.to > asOf,
    whole,
    unit,
  });
  switch (words.kind) {
    case 'all time':
      return { from: known.from, to: known.to, partial: false, whole: false, unit: null };
    case 'latest':
      return make(spanOf(words.grain, asOf, calendar), true, { grain: words.grain, count: 1 });
    case 'previous': {
      const start = step(words.grain, startOf(words.grain, asOf, calendar), -1, calendar);
      return make(spanOf(words.grain, start, calendar), true, { grain: words.grain, count: 1 });
    }
    case 'last': {
      const start = step(words.grain, startOf(words.grain, asOf, calendar), 1 - words.count, calendar);
      return make({ from: start, to: endOf(words.grain, asOf, calendar) }, true, {
        grain: words.grain,
        count: words.count,
      });
    }
    case 'to date':
      return make(
        { from: startOf(words.grain, asOf, calendar), to: asOf },
        // On its last day a period to date is the whole period.
        endOf(words.grain, asOf, calendar) === asOf,
        { grain: words.grain, count: 1 },
      );
    case 'fiscal': {
      const yearFrom = fiscalYearStart(words.year, calendar);
      const grain = words.quarter === undefined ? 'year' : 'quarter';
      const from = step('quarter', yearFrom, (words.quarter ?? 1) - 1, calendar);
      const end = step(grain, from, 1, calendar) - 1;
      // A period that is already over is whole, "to date" or not.
      const cut = words.toDate === true && end > asOf && from <= asOf;
      return make({ from, to: cut ? asOf : end }, !cut, { grain, count: 1 });
    }
    case 'days': {
      const span = { from: words.from, to: words.to };
      const months = monthsIn(span, calendar);
      return make(span, months !== null, months === null ? null : { grain: 'month', count: months });
    }
    case 'month': {
      const from = monthStart(words, calendar);
      return make({ from, to: step('month', from, 1, calendar) - 1 }, true, { grain: 'month', count: 1 });
    }
    case 'months': {
      const span = {
        from: monthStart(words.from, calendar),
        to: endOf('month', monthStart(words.to, calendar), calendar),
      };
      return make(span, true, { grain: 'month', count: monthsBetween(words.from, words.to) + 1 });
    }
    case 'quarter': {
      const from = step('quarter', fiscalYearStart(words.year, calendar), words.quarter - 1, calendar);
      return make({ from, to: step('quarter', from, 1, calendar) - 1 }, true, { grain: 'quarter', count: 1 });
    }
  }
}

/** How many whole months a span is made of; null where it begins or ends inside one. */
export function monthsIn({ from, to }: Span, calendar: FiscalCalendar): number | null {
  const [first, next] = [monthOf(from, calendar), monthOf(to + 1, calendar)];
  if (monthStart(first, calendar) !== from || monthStart(next, calendar) !== to + 1) return null;
  return monthsBetween(first, next);
}

const monthsBetween = (a: NamedMonth, b: NamedMonth): number => (b.year - a.year) * 12 + b.month - a.month;

/** The period in the brief's words. */
export function writePeriod(words: PeriodWords): string {
  switch (words.kind) {
    case 'all time':
      return 'all time';
    case 'latest':
      return `latest ${words.grain}`;
    case 'previous':
      return `previous ${words.grain}`;
    case 'last':
      return `last ${words.count} ${words.grain}${words.count === 1 ? '' : 's'}`;
    case 'to date':
      return `${words.grain} to date`;
    case 'fiscal':
      return `fiscal ${words.year}${words.quarter === undefined ? '' : ` Q${words.quarter}`}${words.toDate ? ' to date' : ''}`;
    case 'days':
      return `${isoDay(words.from)} to ${isoDay(words.to)}`;
    case 'month':
      return monthCode(words);
    case 'months':
      return `${monthCode(words.from)} to ${monthCode(words.to)}`;
    case 'quarter':
      return `${words.year}-Q${words.quarter}`;
  }
}

const sayMonth = ({ year, month }: NamedMonth) => `${MONTH_NAMES[month - 1]} ${year}`;
/** The days of a span: `18 Mar 2026`, or `1 Mar 2026 – 18 Mar 2026`. */
export const writtenSpan = ({ from, to }: Span): string =>
  from === to ? writtenDay(from) : `${writtenDay(from)} – ${writtenDay(to)}`;
const ofFiscal = (calendar: FiscalCalendar) => (hasOwnMonths(calendar) ? 'fiscal ' : '');

/**
 * The period as a reader would say it, in a title or caption: `fiscal 2026 to 18 Mar 2026`, `March 2026`.
 * @param until the last day of it that is spoken of, where that is not its own
 */
export function sayPeriod(words: PeriodWords, period: Period, calendar: FiscalCalendar, until = period.to): string {
  if (until < period.to) {
    const isNamed = ['fiscal', 'quarter', 'month', 'months'].includes(words.kind);
    return isNamed
      ? `${sayPeriod(words, { ...period, whole: true }, calendar)} to ${writtenDay(until)}`
      : sayPeriod(words, { ...period, to: until }, calendar);
  }
  switch (words.kind) {
    case 'all time':
      return `${writtenDay(period.from)} – ${writtenDay(period.to)}`;
    case 'fiscal':
      return `fiscal ${words.year}${words.quarter === undefined ? '' : ` Q${words.quarter}`}${words.toDate && !period.whole ? ` to ${writtenDay(period.to)}` : ''}`;
    case 'quarter':
      return `Q${words.quarter} of fiscal ${words.year}`;
    case 'month':
      return `${ofFiscal(calendar)}${sayMonth(words)}`;
    case 'months': {
      const { from, to } = words;
      if (monthsBetween(from, to) === 0) return `${ofFiscal(calendar)}${sayMonth(from)}`;
      const first = from.year === to.year ? MONTH_NAMES[from.month - 1] : sayMonth(from);
      return `${ofFiscal(calendar)}${first} to ${sayMonth(to)}`;
    }
    case 'to date':
      if (words.grain === 'year') return `fiscal ${fiscalYear(period.from, calendar)} to ${writtenDay(period.to)}`;
      return writtenSpan(period);
    default:
      return writtenSpan(period);
  }
}
