import { readIsoDay, weekday, type Day } from './day';

/**
 * Fiscal months as a company lists them, where no rule gives them: from the 26th to the 25th, or of weeks that were moved by hand.
 * They bear the names of the calendar's months, in their order; the first one begins a fiscal year, and every year has twelve.
 */
export interface FiscalMonths {
  /** The name of the first one, `2024-01`. */
  readonly first: string;
  /** Their first days, YYYY-MM-DD in order; the last one is the day after the list. */
  readonly from: readonly string[];
}

/** A list needs a year of months. */
export const FEWEST_MONTHS = 12;
/** Days a listed month may have. */
export const LISTED_LENGTH = { min: 14, max: 62 } as const;

const known = new WeakMap<readonly string[], readonly Day[]>();

function startsOf({ from }: FiscalMonths): readonly Day[] {
  let days = known.get(from);
  if (!days) known.set(from, (days = from.map((text) => readIsoDay(text)!)));
  return days;
}

/** Months from the year 0 on to the first one of the list. */
const firstPlace = ({ first }: FiscalMonths) => Number(first.slice(0, 4)) * 12 + Number(first.slice(5)) - 1;

/** The month of the year with which listed years begin, 1–12. */
export const listedFirst = ({ first }: FiscalMonths): number => Number(first.slice(5));

/** First day of the n-th listed month. Before the list and after it months are as long as those of its first and last year. */
function startAt(starts: readonly Day[], n: number): Day {
  const count = starts.length - 1;
  const years = n < 0 ? -Math.ceil(-n / 12) : n > count ? Math.ceil((n - count) / 12) : 0;
  const year = years < 0 ? starts[12]! - starts[0]! : starts[count]! - starts[count - 12]!;
  return starts[n - 12 * years]! + years * year;
}

/** First day of a month, counted in months from the year 0 on. */
export const listedStart = (months: FiscalMonths, place: number): Day =>
  startAt(startsOf(months), place - firstPlace(months));

/** The month that holds a day, counted in months from the year 0 on. */
export function listedMonthOf(months: FiscalMonths, day: Day): number {
  const starts = startsOf(months);
  let n = Math.floor((day - starts[0]!) / 30.44);
  while (startAt(starts, n) > day) n--;
  while (startAt(starts, n + 1) <= day) n++;
  return n + firstPlace(months);
}

/** The days that the list itself names. */
export function listedSpan(months: FiscalMonths): { readonly from: Day; readonly to: Day } {
  const starts = startsOf(months);
  return { from: starts[0]!, to: starts.at(-1)! - 1 };
}

/** The weekday with which all listed months begin, 0 Monday … 6 Sunday; null where they begin on several. */
export function listedWeekday(months: FiscalMonths): number | null {
  const [first, ...others] = startsOf(months).map(weekday);
  return others.every((one) => one === first) ? first! : null;
}
