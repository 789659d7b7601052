import { DATE_PATTERNS } from './readDate';
import { isBlankText, readNumber, readPlain, type NumberStyle } from './readNumber';
import type { ColumnKind } from './column';

/** What the cells of a column could be read as: counts of rows. Evidence adds up over chunks and members. */
export interface Evidence {
  filled: number;
  blank: number;
  yesNo: number;
  /** Rows that read as a number, by style. */
  readonly numbers: Record<NumberStyle, number>;
  /** Rows that fit, by place in `DATE_PATTERNS`. */
  readonly dates: number[];
}

export function noEvidence(): Evidence {
  return { filled: 0, blank: 0, yesNo: 0, numbers: { point: 0, comma: 0 }, dates: DATE_PATTERNS.map(() => 0) };
}

const YES = new Set(['yes', 'true', 'y', 't']);
const NO = new Set(['no', 'false', 'n', 'f']);

/** 2 yes, 1 no, 0 neither. */
export function readYesNo(text: string): 0 | 1 | 2 {
  if (text.length > 6) return 0;
  const word = text.trim().toLowerCase();
  return YES.has(word) ? 2 : NO.has(word) ? 1 : 0;
}

/** Adds what one text, standing in `rows` rows, could be. */
export function weigh(evidence: Evidence, text: string, rows = 1): void {
  if (isBlankText(text)) {
    evidence.blank += rows;
    return;
  }
  evidence.filled += rows;
  if (readYesNo(text) !== 0) evidence.yesNo += rows;
  if (!/\d/.test(text)) return;
  if (!Number.isNaN(readPlain(text)) || !Number.isNaN(readNumber(text, 'point'))) evidence.numbers.point += rows;
  if (!Number.isNaN(readNumber(text, 'comma'))) evidence.numbers.comma += rows;
  const trimmed = text.trim();
  if (trimmed.length <= 40) {
    for (let i = 0; i < DATE_PATTERNS.length; i++) {
      if (!Number.isNaN(DATE_PATTERNS[i]!.take(trimmed))) evidence.dates[i]! += rows;
    }
  }
}

/** How a column is to be read. */
export type Reading =
  | { readonly kind: 'text' }
  | { readonly kind: 'yesno' }
  | { readonly kind: 'number'; readonly style: NumberStyle }
  | { readonly kind: 'date'; readonly read: string };

/** True when enough of a column's filled cells read as a number or a date: nine in ten, or in a short column all but one or two. */
export function isEnough(fitting: number, filled: number): boolean {
  return fitting >= 0.9 * filled || (fitting >= 5 && filled - fitting <= 2);
}

/** The reading that the evidence supports best. `wanted` fixes the kind and leaves the convention to the evidence. */
export function decide(evidence: Evidence, wanted?: ColumnKind): Reading {
  const { filled, yesNo, numbers, dates } = evidence;
  const style: NumberStyle = numbers.comma > numbers.point ? 'comma' : 'point';
  const best = dates.reduce((b, count, i) => (count > dates[b]! ? i : b), 0);
  switch (wanted) {
    case 'text':
      return { kind: 'text' };
    case 'yesno':
      return { kind: 'yesno' };
    case 'number':
      return { kind: 'number', style };
    case 'date':
      return { kind: 'date', read: DATE_PATTERNS[best]!.read };
    case undefined:
      break;
  }
  if (filled === 0) return { kind: 'text' };
  if (yesNo === filled) return { kind: 'yesno' };
  if (isEnough(dates[best]!, filled)) return { kind: 'date', read: DATE_PATTERNS[best]!.read };
  if (isEnough(numbers[style], filled)) return { kind: 'number', style };
  return { kind: 'text' };
}
