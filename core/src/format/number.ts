import { tidy } from '../number';
import type { NumberFormat } from '../report';

/** A number format with everything decided: what to divide by, how many decimals, what stands around the digits. */
export interface Writing {
  readonly divisor: number;
  readonly decimals: number;
  readonly before: string;
  readonly after: string;
  readonly signs: Signs;
  /** A unit that may be left away where a heading names it. */
  readonly unit: string;
  /** The scale fits the largest number; one too small to be seen at it has its own. */
  readonly fits?: true;
}

/** What a format says beside digits and units. */
export type Signs = Pick<NumberFormat, 'plus' | 'negative' | 'blank' | 'separators' | 'unitBefore'>;

const MARKS = { point: [',', '.'], comma: ['.', ','], space: ['\u202f', ','] } as const;

export const MINUS = '\u2212';
/** What stands where there is no value. */
export const BLANK = '–';

const SYMBOLS: Readonly<Record<string, string>> = {
  EUR: '€',
  USD: '$',
  GBP: '£',
  JPY: '¥',
  CNY: '¥',
  INR: '₹',
  KRW: '₩',
};
const SCALES = { none: [1, ''], K: [1e3, 'K'], M: [1e6, 'M'], B: [1e9, 'B'] } as const;

/** The scale that leaves at most four digits before the point. */
function scaleFor(magnitude: number): keyof typeof SCALES {
  return magnitude >= 1e9 ? 'B' : magnitude >= 1e6 ? 'M' : magnitude >= 1e4 ? 'K' : 'none';
}

/**
 * Decides a format for numbers up to a magnitude, so that all numbers of a figure are written alike.
 * Without given decimals, scaled numbers get as many as show three digits of the largest; plain ones show what they have, up to two.
 */
export function writingFor(format: NumberFormat, magnitude: number, decimalsHeld: number | null = 0): Writing {
  const { plus, negative, blank, separators, unitBefore } = format;
  const signs: Signs = {
    ...(plus ? { plus } : {}),
    ...(negative ? { negative } : {}),
    ...(blank === undefined ? {} : { blank }),
    ...(separators ? { separators } : {}),
    ...(unitBefore ? { unitBefore } : {}),
  };
  if (format.style === 'percent' || format.style === 'points') {
    const after = format.style === 'percent' ? '%' : '\u00a0pp';
    return { divisor: 0.01, decimals: format.decimals ?? 1, before: '', after, unit: '', signs };
  }
  const wanted = format.scale === undefined || format.scale === 'auto' ? scaleFor(magnitude) : format.scale;
  const [divisor, letter] = SCALES[wanted];
  const digits = Math.max(0, Math.floor(Math.log10(Math.max(1, magnitude / divisor))));
  const automatic =
    wanted === 'none' ? (magnitude >= 100 ? 0 : Math.min(2, decimalsHeld ?? 2)) : Math.max(0, 2 - digits);
  const symbol =
    format.style === 'currency' ? (SYMBOLS[format.currency ?? ''] ?? `${format.currency ?? ''}\u00a0`) : '';
  return {
    divisor,
    decimals: format.decimals ?? automatic,
    before: symbol,
    after: letter,
    unit: format.unit ?? '',
    signs,
    ...(divisor > 1 && (format.scale === undefined || format.scale === 'auto') ? { fits: true as const } : {}),
  };
}

/** `€1,234.5K`; a minus is a true minus, and `signed` shows a plus as well. Blank is an en dash, unless the format says otherwise. */
export function writeNumber(value: number, writing: Writing, signed = false): string {
  const { divisor, decimals, before, after, unit, signs } = writing;
  if (!Number.isFinite(value / divisor)) return signs.blank ?? BLANK;
  const digits = fixed(Math.abs(value / divisor), decimals);
  const units = Math.abs(value / divisor) * 10 ** decimals;
  const isZero = units < 0.49 || (units < 0.51 && !/[1-9]/.test(digits));
  if (isZero && writing.fits) return writeNumber(value, atOwnScale(value, writing), signed);
  const isNegative = value < 0 && !isZero;
  const inParentheses = isNegative && signs.negative === 'parentheses';
  const positive = signed || signs.plus === true;
  const sign = isZero ? (signed ? '±' : '') : isNegative ? (inParentheses ? '' : MINUS) : positive ? '+' : '';
  const [grouping, point] = MARKS[signs.separators ?? 'point'];
  const marked =
    signs.separators === undefined || signs.separators === 'point'
      ? digits
      : digits.replace(/[,.]/g, (mark) => (mark === ',' ? grouping : point));
  const unitted =
    unit === ''
      ? `${before}${marked}${after}`
      : signs.unitBefore
        ? `${unit}\u00a0${before}${marked}${after}`
        : `${before}${marked}${after}\u00a0${unit}`;
  return inParentheses ? `(${unitted})` : `${sign}${unitted}`;
}

/** The writing of a number that is nothing beside the others: of nothing itself without a scale, `€0`. */
function atOwnScale(value: number, { before, unit, signs }: Writing): Writing {
  const magnitude = Math.abs(value);
  const [divisor, letter] = SCALES[scaleFor(magnitude)];
  const digits = Math.max(0, Math.floor(Math.log10(Math.max(1, magnitude / divisor))));
  const decimals = divisor === 1 && Number.isInteger(magnitude) ? 0 : Math.max(0, 2 - digits);
  return { divisor, decimals, before, after: letter, unit, signs };
}

/** A percentage of something that is written in a format: with its separators, and its sign for less than zero. */
export function percentIn({ separators, negative }: NumberFormat): NumberFormat {
  return { style: 'percent', ...(separators ? { separators } : {}), ...(negative ? { negative } : {}) };
}

const PERCENTS = new Map<string, Writing>();
const NO_FORMAT: NumberFormat = { style: 'number' };

/** A share as a percentage: `12.4%`; signed with plus and minus, or as the format of what it is a share of has it. */
export function writePercent(share: number, decimals = 1, signed = true, format = NO_FORMAT): string {
  const key = `${decimals} ${format.separators ?? ''} ${format.negative ?? ''}`;
  let writing = PERCENTS.get(key);
  if (!writing) PERCENTS.set(key, (writing = writingFor({ ...percentIn(format), decimals }, 1)));
  return writeNumber(share, writing, signed);
}

/** Digits of a whole number below a milliard that counts units of a decimal place. Small whole numbers are written fastest. */
function quickly(whole: number, decimals: number, scale: number): string {
  const integer = Math.floor(whole / scale);
  const grouped =
    integer < 1000
      ? `${integer}`
      : integer < 1e6
        ? `${Math.floor(integer / 1000)},${padded(integer % 1000, 3)}`
        : `${Math.floor(integer / 1e6)},${padded(Math.floor(integer / 1000) % 1000, 3)},${padded(integer % 1000, 3)}`;
  return decimals > 0 ? `${grouped}.${padded(whole - integer * scale, decimals)}` : grouped;
}

function padded(whole: number, digits: number): string {
  return whole >= 10 ** (digits - 1) ? `${whole}` : `${whole}`.padStart(digits, '0');
}

/** Digits with a point and grouped thousands, halves rounded away from zero, the same in every engine. */
function fixed(value: number, decimals: number): string {
  // Beyond any sum of money, the power of ten says more than its zeros.
  if (value >= 1e18) return value.toExponential(2);
  const scale = 10 ** decimals;
  // Binary dust decides only what lies next to a half; beyond 2⁵³ there are no decimals left to round.
  const plain = value * scale;
  const atHalf = plain >= 1e9 || Math.abs(plain - Math.floor(plain) - 0.5) < 1e-6;
  const scaled = atHalf ? tidy(plain) : plain;
  const whole = scaled < 2 ** 53 ? Math.round(scaled) : scaled;
  if (whole < 1e9) return quickly(whole, decimals, scale);
  const digits = (whole < 2 ** 53 ? String(whole) : BigInt(whole).toString()).padStart(decimals + 1, '0');
  const integer = decimals > 0 ? digits.slice(0, -decimals) : digits;
  let grouped = integer.slice(-3);
  for (let end = integer.length - 3; end > 0; end -= 3)
    grouped = `${integer.slice(Math.max(0, end - 3), end)},${grouped}`;
  return decimals > 0 ? `${grouped}.${digits.slice(-decimals)}` : grouped;
}
