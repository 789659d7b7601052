import { civilOf, MONTH_NAMES, NO_DAY, type Day } from '../calendar';

import { type Column, type Doubt } from '../table';
import { type Cell } from './cell';
import { type UncutCells } from './cells';
import { Chunked, CHUNK } from './chunked';
import { Misfits, owned, type ColumnReader, type Unread } from './lane';
import type { TextTable } from './textTable';
import type { Reading } from './evidence';
import { datePattern, readIsoPlain, type DatePattern } from './readDate';

/** Days, in one pattern. */
export class DateLane implements ColumnReader {
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
