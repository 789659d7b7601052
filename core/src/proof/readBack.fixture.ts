/** A number as a text shows it: its size, the unit of its last digit, and what sign stands before it. */
export interface ShownNumber {
  readonly text: string;
  readonly size: number;
  readonly unit: number;
  readonly sign: '+' | '−' | '±' | '';
  readonly isShare: boolean;
}

const FACTORS: Readonly<Record<string, number>> = { K: 1e3, M: 1e6, B: 1e9 };
const MONTH =
  '(?:Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec|January|February|March|April|June|July|August|September|October|November|December)';
const DAY = new RegExp(String.raw`\b(\d{1,2}) ${MONTH} (\d{4})\b`, 'g');
/** Everything that names a time: days, months, quarters, years. */
const TIMES = new RegExp(
  String.raw`\b\d{4}-\d{2}(?:-\d{2})?\b|\b\d{1,2} ${MONTH}(?: \d{4})?\b|\b${MONTH} \d{4}\b|\bfiscal \d{4}(?: Q\d)?\b|\bQ\d(?: \d{4})?\b|\b(?:[Ll]ast|[Ss]moothed) \d+\b`,
  'g',
);
const NUMBER = /([+−±]?)€?(\d{1,3}(?:,\d{3})+|\d+)(\.\d+)?(K|M|B|%|\u00a0pp)?/g;

/** The numbers of a text but for those that name times. */
export function numbersIn(text: string): ShownNumber[] {
  const found: ShownNumber[] = [];
  for (const [whole, sign, integer, fraction = '', end = ''] of text.replace(TIMES, ' ').matchAll(NUMBER)) {
    const factor = FACTORS[end] ?? (end === '%' || end === '\u00a0pp' ? 0.01 : 1);
    const size = Number(`${integer!.replaceAll(',', '')}${fraction}`) * factor;
    const decimals = Math.max(0, fraction.length - 1);
    found.push({
      text: whole,
      size,
      unit: factor / 10 ** decimals,
      sign: sign as ShownNumber['sign'],
      isShare: factor === 0.01,
    });
  }
  return found;
}

/** The days a text names, as `YYYY-MM-DD`. */
export function daysIn(text: string): string[] {
  return [...text.matchAll(DAY)].map(([day]) => {
    const date = new Date(`${day} UTC`);
    return date.toISOString().slice(0, 10);
  });
}

/** Whether a number that is shown is one of those it may tell, rounded to the digits it has; a plus or a minus must be true. */
export function tells(
  { size, unit, sign, isShare }: ShownNumber,
  known: readonly (number | null | undefined)[],
): boolean {
  // Shares that are shown add up to the whole, which may take one of them a unit further than rounding does.
  const reach = (isShare ? 1.001 : 0.5) * unit + 1e-9 * Math.max(1, size);
  return known.some((value) => {
    if (value === null || value === undefined || Math.abs(Math.abs(value) - size) > reach) return false;
    return sign === '' || sign === '±' || Math.abs(value) <= reach || (sign === '−') === value < 0;
  });
}
