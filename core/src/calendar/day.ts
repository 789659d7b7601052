/** A calendar day as whole days since 1970-01-01; there is no time zone in it. */
export type Day = number;

/** A day that is not there, in typed columns. */
export const NO_DAY = -2147483648;

export interface Civil {
  readonly year: number;
  /** 1–12 */
  readonly month: number;
  /** 1–31 */
  readonly day: number;
}

/** Day number of a civil date in the proleptic Gregorian calendar (Hinnant, *chrono-compatible low-level date algorithms*). */
export function dayOf(year: number, month: number, day: number): Day {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear;
  return era * 146097 + dayOfEra - 719468;
}

/** The civil date of a day number. */
export function civilOf(day: Day): Civil {
  const z = day + 719468;
  const era = Math.floor(z / 146097);
  const dayOfEra = z - era * 146097;
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36524) - Math.floor(dayOfEra / 146096)) / 365,
  );
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const m = Math.floor((5 * dayOfYear + 2) / 153);
  const month = m < 10 ? m + 3 : m - 9;
  return {
    year: yearOfEra + era * 400 + (month <= 2 ? 1 : 0),
    month,
    day: dayOfYear - Math.floor((153 * m + 2) / 5) + 1,
  };
}

function isLeap(year: number): boolean {
  return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
}

/** Days in a month, 28–31. */
export function monthLength(year: number, month: number): number {
  return month === 2 ? (isLeap(year) ? 29 : 28) : month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31;
}

/** True when the three numbers name a day that exists. */
export function isCivil(year: number, month: number, day: number): boolean {
  return month >= 1 && month <= 12 && day >= 1 && day <= monthLength(year, month);
}

/** The same day of the month, n months on; the month's last day when it has no such day (29 Feb → 28 Feb). */
export function addMonths(day: Day, months: number): Day {
  const { year, month, day: d } = civilOf(day);
  const index = year * 12 + month - 1 + months;
  const y = Math.floor(index / 12);
  const m = index - y * 12 + 1;
  return dayOf(y, m, Math.min(d, monthLength(y, m)));
}

/** 0 Monday … 6 Sunday. */
export function weekday(day: Day): number {
  return (((day + 3) % 7) + 7) % 7;
}

const two = (n: number) => String(n).padStart(2, '0');

/** `YYYY-MM-DD`. */
export function isoDay(day: Day): string {
  const { year, month, day: d } = civilOf(day);
  return `${String(year).padStart(4, '0')}-${two(month)}-${two(d)}`;
}

/** Reads `YYYY-MM-DD`; null when it is not a day that exists. */
export function readIsoDay(text: string): Day | null {
  const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text);
  if (!match) return null;
  const [year, month, day] = [Number(match[1]), Number(match[2]), Number(match[3])];
  return isCivil(year, month, day) ? dayOf(year, month, day) : null;
}

export const MONTH_NAMES = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
] as const;

/** `18 Mar 2026`. */
export function writtenDay(day: Day): string {
  const { year, month, day: d } = civilOf(day);
  return `${d} ${MONTH_NAMES[month - 1]!.slice(0, 3)} ${year}`;
}
