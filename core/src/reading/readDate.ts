import { dayOf, isCivil, type Day, type Grain } from '../calendar';
import { CALENDAR_READ } from '../table';
import { monthNamed } from './months';

/** What a text must look like before a pattern is tried on it. */
type Shape = 'numeric' | 'words' | 'quarter' | 'digits';

/** One way dates are written. `take` gives the day a text stands for, NaN when it is not of this pattern. */
export interface DatePattern {
  /** Its name in a report file. */
  readonly read: string;
  readonly grain: Grain;
  readonly shape: Shape;
  /** The pattern that reads the same texts with day and month exchanged. */
  readonly twin?: string;
  /** Plain digits could be anything: they are dates only where all rows fit and, with `named`, the column's name says so. */
  readonly strict?: { readonly named?: RegExp };
  /** It is never guessed, only asked for. */
  readonly asked?: true;
  take(text: string): Day;
}

const civil = (year: number, month: number, day: number): Day =>
  isCivil(year, month, day) ? dayOf(year, month, day) : NaN;

const TIME = String.raw`(?:(?:T|,? )\d{1,2}:\d{2}(?::\d{2}(?:[.,]\d+)?)?\s*(?:[AaPp]\.?[Mm]\.?)?\s*(?:Z|UTC|[+-]\d{2}:?\d{2})?)?`;

/** Two digits mean 1970 to 2069. */
const fullYear = (digits: string) =>
  digits.length === 2 ? Number(digits) + (Number(digits) < 70 ? 2000 : 1900) : Number(digits);

/** A pattern by its regular expression and the places of year, month and day among its groups. */
function byGroups(
  read: string,
  body: string,
  [y, m, d]: readonly [number, number, number],
  twin?: string,
): DatePattern {
  const expression = new RegExp(`^${body}${TIME}$`);
  return {
    read,
    grain: 'day',
    shape: 'numeric',
    ...(twin ? { twin } : {}),
    take(text) {
      const match = expression.exec(text);
      return match ? civil(fullYear(match[y]!), Number(match[m]), Number(match[d])) : NaN;
    },
  };
}

const WEEKDAY = String.raw`(?:(?:[Mm]on|[Tt]ue|[Ww]ed|[Tt]hu|[Ff]ri|[Ss]at|[Ss]un)\p{L}*\.?,? +)?`;
const WORD = String.raw`(\p{L}{3,10})\.?`;

function byMonthName(
  read: string,
  body: string,
  [y, m, d]: readonly [number, number, number | null],
  grain: Grain,
): DatePattern {
  const expression = new RegExp(`^${body}$`, 'u');
  return {
    read,
    grain,
    shape: 'words',
    take(text) {
      const match = expression.exec(text);
      const month = match && monthNamed(match[m]!);
      return match && month ? civil(fullYear(match[y]!), month, d === null ? 1 : Number(match[d])) : NaN;
    },
  };
}

/** Days from 1970 to the day a spreadsheet counts as 0, in the system of 1900 (ECMA-376, part 1, 18.17.4.1). */
const SERIAL_ZERO = 25_569;

/** The day of a spreadsheet's serial number. Before March 1900 spreadsheets count a day that was not. */
export function serialDay(serial: number, system1904 = false): Day {
  const whole = Math.floor(serial);
  if (system1904) return whole - SERIAL_ZERO + 1462;
  return whole - SERIAL_ZERO + (whole < 60 ? 1 : 0);
}

const DATE_NAME = /date|day|datum|fecha|data\b|jour|\bwhen\b|time|_at$|[a-z]At$|^at$/i;
const MONTH_NAME = /month|monat|period|mois|mes\b|\bym\b/i;
const YEAR_NAME = /^(?:fiscal |calendar )?(?:year|jahr|ann[ée]e|a[ñn]o|anno|fy)$/i;

function byDigits(
  read: string,
  grain: Grain,
  digits: RegExp,
  take: (text: string) => Day,
  named?: RegExp,
): DatePattern {
  return {
    read,
    grain,
    shape: 'digits',
    strict: named ? { named } : {},
    take(text) {
      return digits.test(text) ? take(text) : NaN;
    },
  };
}

const between = (day: Day, from: number, to: number) => (day >= dayOf(from, 1, 1) && day < dayOf(to, 1, 1) ? day : NaN);

/** The plainest form, `yyyy-MM-dd`, read without allocation; NaN for everything else. */
export function readIsoPlain(text: string): Day {
  if (text.length !== 10 || text.charCodeAt(4) !== 45 || text.charCodeAt(7) !== 45) return NaN;
  const digit = (i: number) => text.charCodeAt(i) - 48;
  const [a, b, c, d] = [digit(0), digit(1), digit(2), digit(3)];
  const [e, f, g, h] = [digit(5), digit(6), digit(8), digit(9)];
  if (
    ((a | b | c | d | e | f | g | h) & ~15) !== 0 ||
    a > 9 ||
    b > 9 ||
    c > 9 ||
    d > 9 ||
    e > 9 ||
    f > 9 ||
    g > 9 ||
    h > 9
  )
    return NaN;
  return civil(a * 1000 + b * 100 + c * 10 + d, e * 10 + f, g * 10 + h);
}

/** Quarters by their number and year, in that order unless the groups have names. Its day is that of the calendar quarter, see `withPeriods`. */
function byQuarter(read: string, expressions: readonly RegExp[]): DatePattern {
  return {
    read,
    grain: 'quarter',
    shape: 'quarter',
    take(text) {
      for (const expression of expressions) {
        const match = expression.exec(text);
        if (!match) continue;
        const [n, year] = [match.groups?.n ?? match[1]!, match.groups?.year ?? match[2]!];
        return dayOf(fullYear(year), Number(n) * 3 - 2, 1);
      }
      return NaN;
    },
  };
}

const PATTERNS: readonly DatePattern[] = [
  byGroups('yyyy-MM-dd', String.raw`(\d{4})-(\d{1,2})-(\d{1,2})`, [1, 2, 3]),
  byGroups('yyyy/MM/dd', String.raw`(\d{4})/(\d{1,2})/(\d{1,2})`, [1, 2, 3]),
  byGroups('yyyy.MM.dd', String.raw`(\d{4})\.(\d{1,2})\.(\d{1,2})\.?`, [1, 2, 3]),
  byGroups('dd.MM.yyyy', String.raw`(\d{1,2})\.\s?(\d{1,2})\.\s?(\d{4})`, [3, 2, 1]),
  byGroups('dd/MM/yyyy', String.raw`(\d{1,2})/(\d{1,2})/(\d{4})`, [3, 2, 1], 'MM/dd/yyyy'),
  byGroups('MM/dd/yyyy', String.raw`(\d{1,2})/(\d{1,2})/(\d{4})`, [3, 1, 2], 'dd/MM/yyyy'),
  byGroups('dd-MM-yyyy', String.raw`(\d{1,2})-(\d{1,2})-(\d{4})`, [3, 2, 1], 'MM-dd-yyyy'),
  byGroups('MM-dd-yyyy', String.raw`(\d{1,2})-(\d{1,2})-(\d{4})`, [3, 1, 2], 'dd-MM-yyyy'),
  byGroups('dd.MM.yy', String.raw`(\d{1,2})\.(\d{1,2})\.(\d{2})`, [3, 2, 1]),
  byGroups('dd/MM/yy', String.raw`(\d{1,2})/(\d{1,2})/(\d{2})`, [3, 2, 1], 'MM/dd/yy'),
  byGroups('MM/dd/yy', String.raw`(\d{1,2})/(\d{1,2})/(\d{2})`, [3, 1, 2], 'dd/MM/yy'),
  byGroups('dd-MM-yy', String.raw`(\d{1,2})-(\d{1,2})-(\d{2})`, [3, 2, 1], 'MM-dd-yy'),
  byGroups('MM-dd-yy', String.raw`(\d{1,2})-(\d{1,2})-(\d{2})`, [3, 1, 2], 'dd-MM-yy'),
  byMonthName(
    'd MMM yyyy',
    String.raw`${WEEKDAY}(\d{1,2})(?:st|nd|rd|th)?(?:[ .-]+|\. ?| de )${WORD}(?:[ ,-]+| de )['’]?(\d{4}|\d{2})${TIME}`,
    [3, 2, 1],
    'day',
  ),
  byMonthName(
    'MMM d, yyyy',
    String.raw`${WEEKDAY}${WORD} (\d{1,2})(?:st|nd|rd|th)?,? (\d{4})${TIME}`,
    [3, 1, 2],
    'day',
  ),
  byMonthName('yyyy MMM d', String.raw`(\d{4})[ -]${WORD}[ -](\d{1,2})${TIME}`, [1, 2, 3], 'day'),
  byMonthName('MMM yyyy', String.raw`${WORD}[ \/-]?(\d{4})`, [2, 1, null], 'month'),
  byMonthName('MMM yy', String.raw`${WORD}(?:[ -]|[ -]?['’])(\d{2})`, [2, 1, null], 'month'),
  byMonthName('yyyy MMM', String.raw`(\d{4})[ \/-]?${WORD}`, [1, 2, null], 'month'),
  {
    read: 'yyyy-MM',
    grain: 'month',
    shape: 'numeric',
    take(text) {
      const match = /^(\d{4})[-/](\d{1,2})$/.exec(text);
      return match ? civil(Number(match[1]), Number(match[2]), 1) : NaN;
    },
  },
  {
    read: 'MM/yyyy',
    grain: 'month',
    shape: 'numeric',
    take(text) {
      const match = /^(\d{1,2})[-/.]((?:19|20)\d{2})$/.exec(text);
      return match ? civil(Number(match[2]), Number(match[1]), 1) : NaN;
    },
  },
  {
    read: 'yyyyMnn',
    grain: 'month',
    shape: 'quarter',
    take(text) {
      const match = /^(\d{4})[ -]?M(\d{1,2})$/i.exec(text);
      return match ? civil(Number(match[1]), Number(match[2]), 1) : NaN;
    },
  },
  byQuarter('Qn yyyy', [/^q([1-4])[ /'’-]*(\d{4})$/i, /^([1-4])q[ /'’-]*(\d{4})$/i]),
  byQuarter('yyyy-Qn', [/^(?<year>\d{4})[ /-]*q(?<n>[1-4])$/i]),
  byQuarter('Qn yy', [/^q([1-4])[ /'’-]*(\d{2})$/i, /^([1-4])q[ /'’-]*(\d{2})$/i]),
  byQuarter('FYyy Qn', [
    /^fy ?['’]?(?<year>\d{4}|\d{2})[ /-]*q(?<n>[1-4])$/i,
    /^q([1-4])[ /-]*fy ?['’]?(\d{4}|\d{2})$/i,
  ]),
  {
    read: 'FYyy',
    grain: 'year',
    shape: 'quarter',
    take(text) {
      const match = /^fy ?['’]?(\d{4}|\d{2})$/i.exec(text);
      return match ? dayOf(fullYear(match[1]!), 1, 1) : NaN;
    },
  },
  byDigits('yyyyMMdd', 'day', /^(?:19|20)\d{6}$/, (text) =>
    civil(Number(text.slice(0, 4)), Number(text.slice(4, 6)), Number(text.slice(6))),
  ),
  byDigits(
    'yyyyMM',
    'month',
    /^(?:19|20)\d{4}$/,
    (text) => civil(Number(text.slice(0, 4)), Number(text.slice(4)), 1),
    new RegExp(`${MONTH_NAME.source}|${DATE_NAME.source}`, 'i'),
  ),
  byDigits('yyyy', 'year', /^(?:1[5-9]|20)\d{2}$/, (text) => dayOf(Number(text), 1, 1), YEAR_NAME),
  byDigits(
    'spreadsheet serial',
    'day',
    /^\d{5}(?:\.\d+)?$/,
    (text) => between(serialDay(Number(text)), 1980, 2100),
    DATE_NAME,
  ),
  byDigits(
    'unix seconds',
    'day',
    /^\d{9,10}(?:\.\d+)?$/,
    (text) => between(Math.floor(Number(text) / 86_400), 1980, 2100),
    DATE_NAME,
  ),
  byDigits(
    'unix milliseconds',
    'day',
    /^\d{12,13}$/,
    (text) => between(Math.floor(Number(text) / 86_400_000), 1980, 2100),
    DATE_NAME,
  ),
];

/** Months, quarters and years of the calendar, where the report's are others. Days may all be the first ones of such. */
const OF_THE_CALENDAR = PATTERNS.filter(({ grain, read }) => grain !== 'week' && !read.includes('FY')).map(
  (pattern): DatePattern => ({ ...pattern, read: `${CALENDAR_READ}${pattern.read}`, asked: true }),
);

/** All patterns, the unambiguous first. */
export const DATE_PATTERNS: readonly DatePattern[] = [...PATTERNS, ...OF_THE_CALENDAR];

const PLACE = new Map(DATE_PATTERNS.map((pattern, i) => [pattern.read, i]));

export function datePattern(read: string): DatePattern | undefined {
  const place = PLACE.get(read);
  return place === undefined ? undefined : DATE_PATTERNS[place];
}

/** The places of the patterns that are worth trying on a text. */
export function patternsFor(text: string): readonly number[] {
  if (text.length < 4 || text.length > 40) return NONE;
  if (text.length <= 10 && (/q/i.test(text) || /^fy|^\d{4}[ -]?m\d/i.test(text))) return BY_SHAPE.quarter;
  if (/^\d{4,13}(?:\.\d+)?$/.test(text)) return BY_SHAPE.digits;
  if (/^\d{1,4}[-/.] ?\d/.test(text)) return BY_SHAPE.numeric;
  return /\p{L}{3}/u.test(text) ? BY_SHAPE.words : NONE;
}

const NONE: readonly number[] = [];
const ofShape = (shape: Shape) =>
  DATE_PATTERNS.flatMap((pattern, i) => (pattern.shape === shape && !pattern.asked ? [i] : []));
const BY_SHAPE: Record<Shape, readonly number[]> = {
  numeric: ofShape('numeric'),
  words: ofShape('words'),
  quarter: ofShape('quarter'),
  digits: ofShape('digits'),
};
