import { decimalsOf, EXACT_LIMIT, LARGEST, MOST_DECIMALS, power, type Decimals } from '../number';
import { severalUnits, type Column, type Doubt } from '../table';
import { type Cell } from './cell';
import { EMPTY, ODD, type UncutCells } from './cells';
import { Chunked, CHUNK } from './chunked';
import { Misfits, owned, type ColumnReader, type Unread } from './lane';

import type { Reading } from './evidence';

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

/** Currencies that are told of one column. */
const MOST_UNITS = 20;

/** Numbers, in one way of writing them. */
export class NumberLane implements ColumnReader {
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
