import { civilOf, MONTH_NAMES, NO_DAY, type Day } from '../calendar';
import { decimalsOf, EXACT_LIMIT, LARGEST, MOST_DECIMALS, power, type Decimals } from '../number';
import { codesFor, severalUnits, type Codes, type Column, type Doubt } from '../table';
import { textOf, type Cell } from './cell';
import { EMPTY, ODD, type UncutCells } from './cells';
import { Chunked, CHUNK } from './chunked';
import type { TextTable } from './textTable';
import { noEvidence, readYesNo, weigh, type Evidence, type Reading } from './evidence';
import { datePattern, readIsoPlain, type DatePattern } from './readDate';
import {
  isTooLong,
  decimalsWritten,
  isBlankText,
  readNumber,
  readPlain,
  STYLE_READ,
  STYLE_WORDS,
  styleSign,
  unitOf,
  unitWritten,
  type NumberStyle,
} from './readNumber';

/** Told of each cell that has text but cannot be read: its place in the chunk and its raw text. */
export type Unread = (indexInChunk: number, raw: string) => void;

/** One column while its file is being read: takes chunks of cells, ends as a typed column. */
export interface ColumnReader {
  readonly reading: Reading;
  /** Takes the first `count` cells. */
  take(cells: ArrayLike<Cell>, count: number, unread: Unread): void;
  /** Takes the column at a place of cells that are not cut out of their text. */
  takeCells?(cells: UncutCells, column: number, unread: Unread): void;
  /** As many blank cells: of rows from before the column was known. */
  skip(count: number): void;
  /** For text: what all cells could have been. Else: what the cells that did not fit could have been, and how many fitted. */
  evidence(): { readonly of: Evidence; readonly fitted: number };
  /** The other reading that no cell so far rules out; null when something does. */
  doubt(): Pick<Doubt, 'kind' | 'readings'> | null;
  /** True when some cell can be read in this lane's way only. */
  settled(): boolean;
  finish(name: string): Column;
}

export function laneFor(reading: Reading): ColumnReader {
  switch (reading.kind) {
    case 'text':
      return new TextLane();
    case 'yesno':
      return new YesNoLane();
    case 'number':
      return new NumberLane(reading.style);
    case 'date':
      return new DateLane(datePattern(reading.read)!);
  }
}

/** The narrowest array that holds codes below `members`. */
const codeChunk = (members: number, length: number): Codes => codesFor(members, length);

class TextLane implements ColumnReader {
  readonly reading: Reading = { kind: 'text' };
  private readonly members: string[] = [''];
  private readonly codeOf = new Map<string, number>([['', 0]]);
  private readonly codes = new Chunked<Codes>((n) => codeChunk(this.members.length, n));
  private table: TextTable | null = null;
  private blank = 0;

  take(cells: ArrayLike<Cell>, count: number): void {
    for (let r = 0; r < count; r++) {
      const cell = cells[r]!;
      this.put(this.codeFor(typeof cell === 'string' ? cell : String(cell)));
    }
  }

  takeCells(cells: UncutCells, column: number): void {
    const table = (this.table ??= cells.table());
    if (table.isFull) for (let r = 0; r < cells.rows; r++) this.put(this.codeFor(cells.text(r, column)));
    else for (const code of cells.texts(column, table, (text) => this.codeFor(text))) this.put(code);
  }

  private codeFor(text: string): number {
    return this.codeOf.get(text) ?? this.admit(text);
  }

  private put(code: number): void {
    const { codes } = this;
    if (code === 0) this.blank++;
    if (code >= this.room) this.widen(codes.replaceCurrent(codeChunk(this.members.length, CHUNK)));
    codes.current[codes.filled++] = code;
    if (codes.filled === CHUNK) this.widen(codes.next());
  }

  /** Codes below this fit into the present chunk. */
  private room = 256;
  private widen({ BYTES_PER_ELEMENT: width }: Codes): void {
    this.room = width === 1 ? 256 : width === 2 ? 65_536 : Infinity;
  }

  skip(count: number): void {
    this.codes.fill(0, count);
    this.blank += count;
  }

  /** A member seen for the first time. Surrounding space does not make another member. */
  private admit(text: string): number {
    const { members, codeOf } = this;
    const trimmed = owned(text.trim());
    let code = codeOf.get(trimmed);
    if (code === undefined) {
      code = members.length;
      members.push(trimmed);
      codeOf.set(trimmed, code);
    }
    if (trimmed !== text) codeOf.set(owned(text), code);
    return code;
  }

  evidence() {
    const counts = new Float64Array(this.members.length);
    this.codes.visit((part, _, length) => {
      for (let i = 0; i < length; i++) counts[part[i]!]!++;
    });
    const of = noEvidence();
    this.members.forEach((text, code) => weigh(of, text, counts[code]!));
    return { of, fitted: of.filled };
  }

  doubt() {
    return null;
  }

  settled() {
    return false;
  }

  finish(name: string): Column {
    const { members, blank } = this;
    const codes = codesFor(members.length, this.codes.length);
    this.codes.drain((part, start, length) => codes.set(part.subarray(0, length), start));
    this.codeOf.clear();
    return {
      kind: 'text',
      name,
      members,
      codes,
      blank,
      convention: members.some(isTooLong)
        ? 'whole numbers of more digits than can be added up, as text'
        : 'text as it stands',
    };
  }
}

/** More characters than this keep little more than themselves alive. */
const LONG = 1 << 14;

/**
 * A slice keeps the whole text it was cut from alive; this makes a string of its own. A long one stays what it is: that many cells
 * have the same one, as in a workbook, is seen at once, and letter by letter where it is another.
 */
function owned(text: string): string {
  return text.length === 0 || text.length > LONG ? text : (' ' + text).slice(1);
}

/** What a lane knows of cells that did not fit its reading. */
class Misfits {
  readonly of = noEvidence();
  fitted = 0;
  blank = 0;

  /** Counts a cell that could not be read, and tells of it when there is something in it. */
  add(cell: Cell, index: number, unread: Unread): void {
    this.blank++;
    const text = textOf(cell);
    if (isBlankText(text)) return;
    weigh(this.of, cell);
    unread(index, text);
  }
}

class YesNoLane implements ColumnReader {
  readonly reading: Reading = { kind: 'yesno' };
  private readonly codes = new Chunked((n) => new Uint8Array(n));
  private readonly seen = new Misfits();

  take(cells: ArrayLike<Cell>, count: number, unread: Unread): void {
    const { codes, seen } = this;
    for (let r = 0; r < count; r++) {
      const code = readYesNo(textOf(cells[r]!));
      if (code !== 0) seen.fitted++;
      else seen.add(cells[r]!, r, unread);
      codes.current[codes.filled++] = code;
      if (codes.filled === CHUNK) codes.next();
    }
  }

  skip(count: number): void {
    this.codes.fill(0, count);
    this.seen.blank += count;
  }

  evidence() {
    return this.seen;
  }

  doubt() {
    return null;
  }

  settled() {
    return true;
  }

  finish(name: string): Column {
    const joined = new Uint8Array(this.codes.length);
    this.codes.drain((part, start, length) => joined.set(part.subarray(0, length), start));
    const members = ['', 'no', 'yes'] as const;
    return { kind: 'yesno', name, members, codes: joined, blank: this.seen.blank, convention: 'yes or no' };
  }
}

class NumberLane implements ColumnReader {
  readonly reading: Reading;
  private readonly values = new Chunked((n) => new Float64Array(n));
  private readonly seen = new Misfits();
  private most = 0;
  private magnitude = 0;
  /** A cell that reads as a number in this style only. */
  private settling = false;
  /** A text that is another number in the other style. */
  private unclear = '';
  /** Some number is written with more than digits. */
  private marked = false;
  /** What stood beside the numbers, by codes; a sign of several currencies as it is. */
  private readonly units = new Set<string>();

  constructor(private readonly style: NumberStyle) {
    this.reading = { kind: 'number', style };
  }

  take(cells: ArrayLike<Cell>, count: number, unread: Unread): void {
    const { values, seen } = this;
    let { most, magnitude } = this;
    let fitted = 0;
    let out = values.current;
    let at = values.filled;
    for (let r = 0; r < count; r++) {
      const cell = cells[r]!;
      let value = NaN;
      if (typeof cell === 'number') {
        value = cell;
        if (value > LARGEST || value < -LARGEST) {
          value = NaN;
          seen.add(String(cell), r, unread);
        } else if (value === value) {
          fitted++;
          this.settling = true;
          if (most <= MOST_DECIMALS && value % 1 !== 0) most = Math.max(most, decimalsOf(value) ?? 20);
          magnitude += value < 0 ? -value : value;
        } else seen.blank++;
      } else if (cell === '') seen.blank++;
      else {
        this.most = most;
        value = this.read(cell, r, unread);
        most = this.most;
        if (value === value) {
          fitted++;
          magnitude += value < 0 ? -value : value;
        }
      }
      out[at++] = value;
      if (at === CHUNK) {
        out = values.next();
        at = 0;
      }
    }
    values.filled = at;
    seen.fitted += fitted;
    this.most = most;
    this.magnitude = magnitude;
  }

  takeCells(cells: UncutCells, column: number, unread: Unread): void {
    const { rows } = cells;
    if (this.style !== 'point') {
      const texts = Array.from({ length: rows }, (_, r) => cells.text(r, column));
      return this.take(texts, rows, unread);
    }
    const { numbers, decimals, most, empty, odd, magnitude } = cells.numbers(column, this.magnitude);
    this.magnitude = magnitude;
    this.most = Math.max(this.most, most);
    this.seen.blank += empty;
    this.seen.fitted += rows - empty - odd;
    // Few cells need to be looked at one by one, and few columns have any.
    for (let r = 0; r < rows && (odd > 0 || (most > 0 && !this.settling)); r++) {
      if (decimals[r] === ODD) {
        const value = this.read(cells.text(r, column), r, unread);
        if (value !== value) continue;
        numbers[r] = value;
        this.seen.fitted++;
        this.magnitude += Math.abs(value);
      } else if (decimals[r] !== 0 && decimals[r] !== EMPTY && !this.settling) this.noteStyle(cells.text(r, column));
    }
    this.values.append(numbers);
  }

  /** The number of a text that is not empty; NaN where it is none. */
  private read(text: string, index: number, unread: Unread): number {
    let value = this.style === 'point' ? readPlain(text) : NaN;
    let plainly = value === value;
    if (plainly) plainly = decimalsWritten() === 0;
    else if (!isBlankText(text)) {
      value = readNumber(text, this.style);
      if (value === value) this.noteUnit(unitWritten());
    }
    if (value !== value) this.seen.add(text, index, unread);
    else {
      if (isTooLong(text)) this.seen.of.codes++;
      if (decimalsWritten() > this.most) this.most = decimalsWritten();
      if (!plainly && !this.settling) this.noteStyle(text);
    }
    return value;
  }

  skip(count: number): void {
    this.values.fill(NaN, count);
    this.seen.blank += count;
  }

  /** What a text that is not plain digits says of the column's style. */
  private noteStyle(text: string): void {
    const sign = styleSign(text, this.style);
    if (sign === 'settles') this.settling = true;
    else if (sign === 'either' && this.unclear === '') this.unclear = owned(text);
  }

  private noteUnit(unit: string): void {
    this.marked = true;
    if (unit !== '' && this.units.size <= MOST_UNITS) this.units.add(unitOf(unit) ?? unit);
  }

  evidence() {
    return this.seen;
  }

  settled() {
    return this.settling;
  }

  doubt(): Pick<Doubt, 'kind' | 'readings'> | null {
    const raw = this.unclear;
    if (this.settling || raw === '') return null;
    const other = this.style === 'point' ? 'comma' : 'point';
    return {
      kind: 'number',
      readings: [this.style, other].map((style) => ({
        read: STYLE_READ[style as NumberStyle],
        raw,
        as: String(readNumber(raw, style as NumberStyle)),
      })),
    };
  }

  finish(name: string): Column {
    // Held as integers only where not even the sum of all magnitudes leaves the exact range.
    const exact = this.most <= MOST_DECIMALS && this.magnitude * power(this.most) < EXACT_LIMIT;
    const decimals: Decimals = exact ? this.most : null;
    const values = new Float64Array(this.values.length);
    const scale = power(decimals ?? 0);
    this.values.drain((part, start, length) => {
      if (scale === 1) return values.set(part.subarray(0, length), start);
      // `?? 0` would not do: NaN stays NaN, which is blank.
      for (let i = 0; i < length; i++) values[start + i] = Math.round(part[i]! * scale);
    });
    const isPlain = this.most === 0 && !this.marked;
    const [one] = this.units;
    // A sign of several currencies is none of them.
    const unit = this.units.size === 1 && unitOf(one!) !== undefined ? one! : null;
    const several = severalUnits(this.units);
    const beside = unit === null ? '' : unit === '%' ? ', percent' : `, ${unit}`;
    return {
      kind: 'number',
      name,
      values,
      decimals,
      blank: this.seen.blank,
      convention: `${isPlain ? 'whole numbers' : STYLE_WORDS[this.style]}${beside}`,
      ...(unit === null ? {} : { unit }),
      ...(several ? { units: several } : {}),
      ...(!exact && this.most <= MOST_DECIMALS ? { tooLarge: true as const } : {}),
    };
  }
}

/** Currencies that are told of one column. */
const MOST_UNITS = 20;

class DateLane implements ColumnReader {
  readonly reading: Reading;
  private readonly days = new Chunked((n) => new Int32Array(n));
  private readonly seen = new Misfits();
  private readonly known = new Map<string, Day>();
  private table: TextTable | null = null;
  private readonly twin: DatePattern | null;
  private settling = false;
  private unclear = '';

  constructor(private readonly pattern: DatePattern) {
    this.reading = { kind: 'date', read: pattern.read };
    this.twin = pattern.twin === undefined ? null : datePattern(pattern.twin)!;
  }

  take(cells: ArrayLike<Cell>, count: number, unread: Unread): void {
    const { days, seen, pattern } = this;
    // ISO 8601 says what it means, whatever the rest of the column is written in.
    const plain = pattern.grain === 'day';
    for (let r = 0; r < count; r++) {
      const cell = cells[r]!;
      const text = typeof cell === 'string' ? cell : String(cell);
      let day = plain ? readIsoPlain(text) : NaN;
      if (day !== day && text !== '') day = this.recall(text);
      if (day === day) seen.fitted++;
      else {
        seen.add(cell, r, unread);
        day = NO_DAY;
      }
      days.current[days.filled++] = day;
      if (days.filled === CHUNK) days.next();
    }
  }

  takeCells(cells: UncutCells, column: number, unread: Unread): void {
    const table = (this.table ??= cells.table());
    const found = cells.texts(column, table, (text) => this.dayOf(text));
    for (let r = 0; r < found.length; r++) {
      if (found[r] === NO_DAY) this.seen.add(cells.text(r, column), r, unread);
      else this.seen.fitted++;
    }
    this.days.append(found);
  }

  skip(count: number): void {
    this.days.fill(NO_DAY, count);
    this.seen.blank += count;
  }

  /** The day of a text; `NO_DAY` where it is none. */
  private dayOf(text: string): Day {
    const plain = this.pattern.grain === 'day' ? readIsoPlain(text) : NaN;
    const day = plain === plain || text === '' ? plain : this.recall(text);
    return day === day ? day : NO_DAY;
  }

  /** Few different days stand in a file, so each writing is taken apart once. */
  private recall(text: string): Day {
    let day = this.known.get(text);
    if (day === undefined) {
      const trimmed = text.trim();
      day = this.pattern.take(trimmed);
      if (day !== day && this.pattern.grain === 'day') day = datePattern('yyyy-MM-dd')!.take(trimmed);
      if (this.twin && !this.settling && day === day) {
        const other = this.twin.take(trimmed);
        if (other !== other) this.settling = true;
        else if (other !== day && this.unclear === '') this.unclear = owned(trimmed);
      }
      if (this.known.size < 100_000) this.known.set(owned(text), day);
    }
    return day;
  }

  evidence() {
    return this.seen;
  }

  settled() {
    return this.settling;
  }

  doubt(): Pick<Doubt, 'kind' | 'readings'> | null {
    const raw = this.unclear;
    if (this.settling || raw === '' || !this.twin) return null;
    return {
      kind: 'date',
      readings: [this.pattern, this.twin].map((pattern) => ({
        read: pattern.read,
        raw,
        as: inWords(pattern.take(raw)),
      })),
    };
  }

  finish(name: string): Column {
    const days = new Int32Array(this.days.length);
    this.days.drain((part, start, length) => days.set(part.subarray(0, length), start));
    const { grain, read } = this.pattern;
    return {
      kind: 'date',
      name,
      days,
      grain,
      blank: this.seen.blank,
      read,
      convention: `dates as ${read}`,
    };
  }
}

/** `3 April 2025`. */
function inWords(day: Day): string {
  const { year, month, day: d } = civilOf(day);
  return `${d} ${MONTH_NAMES[month - 1]} ${year}`;
}
