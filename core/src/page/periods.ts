import {
  endOf,
  fiscalQuarter,
  fiscalYear,
  monthOf,
  resolvePeriod,
  sayPeriod,
  startOf,
  step,
  type Day,
  type FiscalCalendar,
  type Grain,
  type PeriodWords,
  type Span,
} from '../calendar';

/** A period a reader may choose, and how it reads. */
export interface OfferedPeriod {
  readonly words: PeriodWords;
  readonly name: string;
  /** How far it reaches, where it is of a certain kind. */
  readonly kind: 'to date' | 'fiscal year' | 'quarter' | 'month';
}

const MOST_MONTHS = 24;
const MOST_QUARTERS = 12;

/**
 * The periods in the data that a reader may choose, the newest first: year, quarter and month to date, then whole fiscal
 * years, quarters and months up to the as-of date.
 */
export function offeredPeriods(calendar: FiscalCalendar, span: Span, asOf: Day): OfferedPeriod[] {
  const offer = (kind: OfferedPeriod['kind'], words: PeriodWords): OfferedPeriod => ({
    words,
    kind,
    name: sayPeriod(
      words,
      resolvePeriod(words, calendar, asOf, { from: span.from, to: Math.min(span.to, asOf) }),
      calendar,
    ),
  });
  const last = Math.min(span.to, asOf);
  const starts = (grain: Grain, most: number): Day[] => {
    const list: Day[] = [];
    for (let day = startOf(grain, last, calendar); list.length < most && endOf(grain, day, calendar) >= span.from;) {
      list.push(day);
      day = startOf(grain, step(grain, day, -1, calendar), calendar);
    }
    return list;
  };
  const grains: Grain[] = ['year', 'quarter', 'month'];
  return eachOnce([
    ...grains.map((grain) => offer('to date', { kind: 'to date', grain })),
    ...starts('year', MOST_MONTHS).map((day) =>
      offer('fiscal year', { kind: 'fiscal', year: fiscalYear(day, calendar) }),
    ),
    ...starts('quarter', MOST_QUARTERS).map((day) =>
      offer('quarter', { kind: 'quarter', year: fiscalYear(day, calendar), quarter: fiscalQuarter(day, calendar) }),
    ),
    ...starts('month', MOST_MONTHS).map((day) => {
      const { year, month } = monthOf(day, calendar);
      return offer('month', { kind: 'month', year, month });
    }),
  ]);

  /** On the first days of a year its year, quarter and month to date are the same days, and on a month's last day they are the month. */
  function eachOnce(offers: readonly OfferedPeriod[]): OfferedPeriod[] {
    const known = { from: span.from, to: last };
    const daysOf = ({ words }: OfferedPeriod) => {
      const { from, to } = resolvePeriod(words, calendar, asOf, known);
      return `${from} ${to}`;
    };
    const all = offers.map(daysOf);
    return offers.filter(({ kind }, i) => kind !== 'to date' || all.lastIndexOf(all[i]!) === i);
  }
}
