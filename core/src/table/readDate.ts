import { dayOf, isCivil, MONTH_NAMES, type Day, type Grain } from '../calendar';

/** One way dates are written. `take` gives the day a text stands for, NaN when it is not of this pattern. */
export interface DatePattern {
  readonly read: string;
  readonly grain: Grain;
  take(text: string): Day;
}

const civil = (year: number, month: number, day: number): Day =>
  isCivil(year, month, day) ? dayOf(year, month, day) : NaN;

const TIME = String.raw`(?:[T ]\d{1,2}:\d{2}(?::\d{2}(?:[.,]\d+)?)?\s*(?:[AaPp][Mm])?\s*(?:Z|[+-]\d{2}:?\d{2})?)?`;

/** A pattern by its regular expression and the places of year, month and day among its groups. */
function byGroups(read: string, body: string, [y, m, d]: readonly [number, number, number]): DatePattern {
  const expression = new RegExp(`^${body}${TIME}$`);
  return {
    read,
    grain: 'day',
    take(text) {
      const match = expression.exec(text);
      return match ? civil(Number(match[y]), Number(match[m]), Number(match[d])) : NaN;
    },
  };
}

const MONTHS = new Map(
  MONTH_NAMES.flatMap((name, i) => [name, name.slice(0, 3)].map((n) => [n.toLowerCase(), i + 1] as const)),
);
MONTHS.set('sept', 9);

function byMonthName(
  read: string,
  body: RegExp,
  [y, m, d]: readonly [number, number, number | null],
  grain: Grain,
): DatePattern {
  return {
    read,
    grain,
    take(text) {
      const match = body.exec(text);
      const month = match && MONTHS.get(match[m]!.toLowerCase());
      return match && month ? civil(Number(match[y]), month, d === null ? 1 : Number(match[d])) : NaN;
    },
  };
}

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

/** All patterns, the unambiguous first. */
export const DATE_PATTERNS: readonly DatePattern[] = [
  byGroups('yyyy-MM-dd', String.raw`(\d{4})-(\d{1,2})-(\d{1,2})`, [1, 2, 3]),
  byGroups('yyyy/MM/dd', String.raw`(\d{4})/(\d{1,2})/(\d{1,2})`, [1, 2, 3]),
  byGroups('yyyy.MM.dd', String.raw`(\d{4})\.(\d{1,2})\.(\d{1,2})`, [1, 2, 3]),
  byGroups('dd.MM.yyyy', String.raw`(\d{1,2})\.(\d{1,2})\.(\d{4})`, [3, 2, 1]),
  byGroups('dd/MM/yyyy', String.raw`(\d{1,2})/(\d{1,2})/(\d{4})`, [3, 2, 1]),
  byGroups('MM/dd/yyyy', String.raw`(\d{1,2})/(\d{1,2})/(\d{4})`, [3, 1, 2]),
  byGroups('dd-MM-yyyy', String.raw`(\d{1,2})-(\d{1,2})-(\d{4})`, [3, 2, 1]),
  byGroups('MM-dd-yyyy', String.raw`(\d{1,2})-(\d{1,2})-(\d{4})`, [3, 1, 2]),
  byMonthName('d MMM yyyy', /^(\d{1,2})[ .-]+([A-Za-z]{3,9})\.?[ ,-]+(\d{4})$/, [3, 2, 1], 'day'),
  byMonthName('MMM d, yyyy', /^([A-Za-z]{3,9})\.? (\d{1,2}),? (\d{4})$/, [3, 1, 2], 'day'),
  byMonthName('MMM yyyy', /^([A-Za-z]{3,9})\.?[ -](\d{4})$/, [2, 1, null], 'month'),
  {
    read: 'yyyy-MM',
    grain: 'month',
    take(text) {
      const match = /^(\d{4})[-/](\d{2})$/.exec(text);
      return match ? civil(Number(match[1]), Number(match[2]), 1) : NaN;
    },
  },
];

export function datePattern(read: string): DatePattern | undefined {
  return DATE_PATTERNS.find((pattern) => pattern.read === read);
}
