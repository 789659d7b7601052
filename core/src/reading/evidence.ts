import type { ColumnKind, TextColumn } from '../table';
import type { Cell } from './cell';
import { DATE_PATTERNS, patternsFor } from './readDate';
import { isBlankText, isTooLong, readNumber, readPlain, type NumberStyle } from './readNumber';

/** What the cells of a column could be read as: counts of rows. Evidence adds up over chunks and members. */
export interface Evidence {
  filled: number;
  blank: number;
  yesNo: number;
  /** Of these, rows of one letter: of a yes, of a no. */
  readonly letters: { yes: number; no: number };
  /** Rows of digits behind a zero, such as 00731, or of more digits than a number holds: names of things, not amounts. */
  codes: number;
  /** Rows that read as a number, by style. */
  readonly numbers: Record<NumberStyle, number>;
  /** Rows that fit, by place in `DATE_PATTERNS`. */
  readonly dates: number[];
}

export function noEvidence(): Evidence {
  return {
    filled: 0,
    blank: 0,
    yesNo: 0,
    letters: { yes: 0, no: 0 },
    codes: 0,
    numbers: { point: 0, comma: 0 },
    dates: DATE_PATTERNS.map(() => 0),
  };
}

const YES = new Set(['yes', 'true', 'y', 't']);
const NO = new Set(['no', 'false', 'n', 'f']);

/** 2 yes, 1 no, 0 neither. */
export function readYesNo(text: string): 0 | 1 | 2 {
  if (text.length > 6) return 0;
  const word = text.trim().toLowerCase();
  return YES.has(word) ? 2 : NO.has(word) ? 1 : 0;
}

/** A formula that went wrong says nothing of its column. */
const SHEET_ERROR = /^#(?:DIV\/0!|REF!|VALUE!|NAME\?|NUM!|NULL!|GETTING_DATA|SPILL!|CALC!)$/;

/** What is longer is a text, and is not looked through. */
const LONGEST_VALUE = 1000;

/** Adds what one cell, standing in `rows` rows, could be. */
export function weigh(evidence: Evidence, cell: Cell, rows = 1): void {
  const { numbers, dates } = evidence;
  if (typeof cell === 'number') {
    evidence.filled += rows;
    numbers.point += rows;
    numbers.comma += rows;
  } else {
    if (isBlankText(cell) || SHEET_ERROR.test(cell)) {
      evidence.blank += rows;
      return;
    }
    evidence.filled += rows;
    if (cell.length > LONGEST_VALUE) return;
    const said = readYesNo(cell);
    if (said !== 0) {
      evidence.yesNo += rows;
      if (cell.trim().length === 1) evidence.letters[said === 2 ? 'yes' : 'no'] += rows;
    }
    if (!/\d/.test(cell)) return;
    if (/^\s*0\d+\s*$/.test(cell) || isTooLong(cell)) evidence.codes += rows;
    if (!Number.isNaN(readPlain(cell)) || !Number.isNaN(readNumber(cell, 'point'))) numbers.point += rows;
    if (!Number.isNaN(readNumber(cell, 'comma'))) numbers.comma += rows;
  }
  const text = typeof cell === 'number' ? String(cell) : cell.trim();
  let iso = false;
  for (const i of patternsFor(text)) {
    if (Number.isNaN(DATE_PATTERNS[i]!.take(text))) continue;
    dates[i]! += rows;
    iso ||= i === 0;
  }
  // What is written as ISO 8601 says is understood beside any other pattern of days, see DateLane.
  if (iso) for (let i = 1; i < dates.length; i++) if (mixes(i)) dates[i]! += rows;
}

const mixes = (i: number) => DATE_PATTERNS[i]!.grain === 'day' && DATE_PATTERNS[i]!.strict === undefined;

/** How a column is to be read. */
export type Reading =
  | { readonly kind: 'text' }
  | { readonly kind: 'yesno' }
  | { readonly kind: 'number'; readonly style: NumberStyle }
  | { readonly kind: 'date'; readonly read: string };

export function sameReading(a: Reading, b: Reading): boolean {
  return (
    a.kind === b.kind &&
    (a.kind !== 'number' || a.style === (b as typeof a).style) &&
    (a.kind !== 'date' || a.read === (b as typeof a).read)
  );
}

/** True when enough of a column's filled cells read as a number or a date: nine in ten, or in a short column all but one or two. */
export function isEnough(fitting: number, filled: number): boolean {
  return fitting >= 0.9 * filled || (fitting >= 5 && filled - fitting <= 2);
}

/** The names a column stands under, beside which others. */
export interface HeadedColumn {
  readonly name: string;
  readonly header: readonly string[];
}

/** A year is a date only where nothing finer is beside it. */
const FINER = /month|monat|quarter|quartal|week|woche|day|date|datum/i;

/**
 * The reading that the evidence supports best. `wanted` fixes the kind and leaves the convention to the evidence; the
 * column's name counts for plain digits, which are dates only where they are called so.
 */
export function decide(evidence: Evidence, { name, header }: HeadedColumn, wanted?: ColumnKind): Reading {
  const { filled, yesNo, letters, numbers, dates } = evidence;
  const style: NumberStyle = numbers.comma > numbers.point ? 'comma' : 'point';
  let best = -1;
  for (let i = 0; i < dates.length; i++) {
    if (dates[i] === 0 || dates[i]! <= (dates[best] ?? 0)) continue;
    const { strict, grain } = DATE_PATTERNS[i]!;
    const allowed =
      wanted === 'date' ||
      !strict ||
      (dates[i] === filled &&
        (strict.named?.test(name) ?? filled >= 3) &&
        (grain !== 'year' || !header.some((other) => FINER.test(other))));
    if (allowed) best = i;
  }
  const date: Reading = { kind: 'date', read: (DATE_PATTERNS[best] ?? DATE_PATTERNS[0]!).read };
  switch (wanted) {
    case 'text':
    case 'yesno':
      return { kind: wanted };
    case 'number':
      return { kind: 'number', style };
    case 'date':
      return date;
    case undefined:
      break;
  }
  if (filled === 0) return { kind: 'text' };
  // One letter in all rows is a letter; only beside its other does it say yes or no.
  const isOneLetter = letters.yes === filled || letters.no === filled;
  if (yesNo === filled && !isOneLetter) return { kind: 'yesno' };
  if (best >= 0 && isEnough(dates[best]!, filled)) return date;
  if (evidence.codes === 0 && isEnough(numbers[style], filled)) return { kind: 'number', style };
  return { kind: 'text' };
}

/** What all cells of a text column together could be. */
export function evidenceOf(column: TextColumn) {
  const counts = new Float64Array(column.members.length);
  for (let i = 0; i < column.codes.length; i++) counts[column.codes[i]!]!++;
  const evidence = noEvidence();
  column.members.forEach((text, code) => weigh(evidence, text, counts[code]!));
  return evidence;
}
