import { LARGEST } from '../number';

/**
 * How the numbers of a column are written. Digits may be grouped by the other mark, spaces or apostrophes; a currency,
 * a percent sign, parentheses and a trailing minus are understood in both.
 */
export type NumberStyle = 'point' | 'comma';

/** Texts that stand for "no value" in a number or date column. */
const BLANKS = new Set(['', '-', '–', '—', 'n/a', 'na', 'null', 'nil', 'none', '#n/a', '.', '?', 'nan']);

export function isBlankText(text: string): boolean {
  return text.length <= 5 && BLANKS.has(text.trim().toLowerCase());
}

/** Decimals of the last number read by `readPlain` or `readNumber`: written digits after the mark. */
let written = 0;
export function decimalsWritten(): number {
  return written;
}

/** What stood beside the last number read by `readNumber`: `%`, a currency's sign or code, or nothing. */
let beside = '';
export function unitWritten(): string {
  return beside;
}

const CURRENCIES: Readonly<Record<string, string>> = { '€': 'EUR', $: 'USD', '£': 'GBP', '¥': 'JPY', '₹': 'INR' };

/** The ISO 4217 code of a sign or code beside a number, `%` for itself, undefined for a sign of several currencies. */
export function unitOf(sign: string): string | undefined {
  return sign === '%' || /^[A-Z]{3}$/.test(sign) ? sign : CURRENCIES[sign];
}

const EXACT_MANTISSA = 1e15;

/**
 * Reads the plainest form, `-?digits[.digits]`, without allocation; NaN for everything else, which `readNumber` then tries.
 * The result is the double nearest to the decimal text: an integer up to 10¹⁵ divided by a power of ten.
 */
export function readPlain(text: string): number {
  const end = text.length;
  let i = 0;
  let negative = false;
  if (text.charCodeAt(0) === 45) {
    negative = true;
    i = 1;
  }
  const first = i;
  let mantissa = 0;
  let point = -1;
  for (; i < end; i++) {
    const c = text.charCodeAt(i);
    if (c >= 48 && c <= 57) mantissa = mantissa * 10 + (c - 48);
    else if (c === 46 && point < 0) point = i;
    else return NaN;
  }
  const digits = end - first - (point < 0 ? 0 : 1);
  if (digits === 0 || mantissa > EXACT_MANTISSA || point === end - 1) return NaN;
  // "007" is a code, not a number.
  if (text.charCodeAt(first) === 48 && digits > 1 && point !== first + 1) return NaN;
  written = point < 0 ? 0 : end - point - 1;
  const value = written === 0 ? mantissa : mantissa / 10 ** written;
  return negative ? -value : value;
}

/** Whether a text is a whole number that a double does not hold to its last digit: a name of something, not an amount. */
export function isTooLong(text: string): boolean {
  return text.length >= 16 && /^\s*[-+]?\d+\s*$/.test(text) && !Number.isSafeInteger(Number(text));
}

const GROUPED: Record<NumberStyle, RegExp> = {
  // Thousands in threes, or behind the first three in twos, as lakhs and crores are written: 12,34,567.
  point: /^(?:\d+|\d{1,3}(?:([, \u00a0\u202f\u2009'’])\d{3})(?:\1\d{3})*|\d{1,2}(?:,\d{2})+,\d{3})?(\.\d*)?$/,
  comma: /^(?:\d+|\d{1,3}(?:([. \u00a0\u202f\u2009'’])\d{3})(?:\1\d{3})*)?(,\d*)?$/,
};
/** Thousands, millions and milliards by their letter. */
const SCALED = /^(.*\d)\s?(K|k|M|Mio\.?|mn|B|bn)$/;
const POWERS: Readonly<Record<string, number>> = { k: 3, m: 6, b: 9 };
const EXPONENT = /^\d+(?:\.\d+)?e[+-]?\d{1,3}$/i;
const MONEY = /^(?:[\p{Sc}]|[A-Z]{2,3}\p{Sc}|[A-Z]{3}(?=[\s\d.,-]))\s*|\s*(?:\p{Sc}|(?<=[\s\d])[A-Z]{3}|[Kk]r\.?)$/gu;

/** Reads a number as people write it; NaN when it is none in that style. Throws nothing. */
export function readNumber(text: string, style: NumberStyle): number {
  let body = text.trim();
  if (body.length > 60) return NaN;
  beside = '';
  let sign = 1;
  if (body.startsWith('(') && body.endsWith(')')) {
    sign = -1;
    body = body.slice(1, -1).trim();
  }
  const takeSign = () => {
    if (/^[-−]/.test(body)) {
      sign = -sign;
      body = body.slice(1).trim();
    } else if (body.startsWith('+')) body = body.slice(1).trim();
  };
  takeSign();
  body = body.replace(MONEY, (money) => {
    beside = money.trim();
    return '';
  });
  takeSign();
  if (/[-−]$/.test(body)) {
    sign = -sign;
    body = body.slice(0, -1).trim();
  }
  const percent = body.endsWith('%');
  if (percent) {
    beside = '%';
    body = body.slice(0, -1).trim();
  }
  const letter = SCALED.exec(body);
  if (letter) body = letter[1]!.trim();
  if (body === '' || !/\d/.test(body)) return NaN;
  if (/^0\d/.test(body)) return NaN;
  let value: number;
  if (EXPONENT.test(body)) {
    value = Number(body);
    written = 20;
  } else {
    const match = GROUPED[style].exec(body);
    if (!match) return NaN;
    const fraction = match[2] === undefined ? '' : match[2].slice(1);
    const whole = (match[2] === undefined ? body : body.slice(0, -match[2].length)).replace(/\D/g, '');
    value = Number(`${whole || '0'}.${fraction || '0'}`);
    written = fraction.length;
  }
  if (letter) {
    const power = POWERS[letter[2]![0]!.toLowerCase()]!;
    value = Number(`${value}e${power}`);
    written = Math.max(0, written - power);
  }
  if (percent) {
    value = Number(`${value}e-2`);
    written += 2;
  }
  // Beyond the largest there is no number.
  return value <= LARGEST ? sign * value : NaN;
}

/** How a style is told to people. */
export const STYLE_WORDS: Record<NumberStyle, string> = {
  point: 'decimal point, as in 1,234.5',
  comma: 'decimal comma, as in 1.234,5',
};

/** The style's name in a report file. */
export const STYLE_READ: Record<NumberStyle, string> = { point: '1,234.5', comma: '1.234,5' };

export function styleNamed(read: string): NumberStyle | undefined {
  return read === STYLE_READ.point ? 'point' : read === STYLE_READ.comma ? 'comma' : undefined;
}

/** What a number's text says about the style it is written in. */
export type StyleSign = 'none' | 'settles' | 'either';

/**
 * Whether a text that reads as a number in one style also reads in the other. `settles`: it does not, or only as the same
 * number would never be written; `either`: it does, as another number (“1.234”); `none`: it is the same number in both.
 */
export function styleSign(text: string, style: NumberStyle): StyleSign {
  const other = readNumber(text, style === 'point' ? 'comma' : 'point');
  if (Number.isNaN(other)) return 'settles';
  return other === readNumber(text, style) ? 'none' : 'either';
}
