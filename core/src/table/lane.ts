import { NO_DAY, type Day } from '../calendar';
import { EXACT_LIMIT, MOST_DECIMALS, power, type Decimals } from '../number';
import { Chunked, CHUNK } from './chunked';
import { codesFor, type Column } from './column';
import { noEvidence, readYesNo, weigh, type Evidence, type Reading } from './evidence';
import { datePattern, readIsoPlain } from './readDate';
import { decimalsWritten, isBlankText, readNumber, readPlain, STYLE_WORDS, type NumberStyle } from './readNumber';

type Rows = readonly (readonly string[])[];

/** Told of each cell that has text but cannot be read: its place in the chunk and its raw text. */
export type Unread = (indexInChunk: number, raw: string) => void;

/** One column while its file is being read: takes chunks of rows, ends as a typed column. */
export interface Lane {
  readonly reading: Reading;
  /** Takes cell `c` of every row of the chunk. */
  take(rows: Rows, c: number, unread: Unread): void;
  /** For text: what all cells could have been. Else: what the cells that did not fit could have been, and how many fitted. */
  evidence(): { readonly of: Evidence; readonly fitted: number };
  finish(name: string): Column;
}

export function laneFor(reading: Reading): Lane {
  switch (reading.kind) {
    case 'text':
      return new TextLane();
    case 'yesno':
      return new YesNoLane();
    case 'number':
      return new NumberLane(reading.style);
    case 'date':
      return new DateLane(reading.read);
  }
}

class TextLane implements Lane {
  readonly reading: Reading = { kind: 'text' };
  private readonly codes = new Chunked((n) => new Uint32Array(n));
  private readonly members: string[] = [''];
  private readonly codeOf = new Map<string, number>([['', 0]]);
  private blank = 0;

  take(rows: Rows, c: number): void {
    const { codes, codeOf } = this;
    let out = codes.current;
    let at = codes.filled;
    for (let r = 0; r < rows.length; r++) {
      const text = rows[r]![c] ?? '';
      const code = codeOf.get(text) ?? this.admit(text);
      if (code === 0) this.blank++;
      out[at++] = code;
      if (at === CHUNK) {
        out = codes.next();
        at = 0;
      }
    }
    codes.filled = at;
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

  finish(name: string): Column {
    const { members, blank } = this;
    const codes = codesFor(members.length, this.codes.length);
    this.codes.drain((part, start, length) => codes.set(part.subarray(0, length), start));
    return { kind: 'text', name, members, codes, blank, convention: 'text as it stands' };
  }
}

/** A slice keeps the whole text it was cut from alive; this makes a string of its own. */
function owned(text: string): string {
  return text.length === 0 ? text : (' ' + text).slice(1);
}

/** What a lane knows of cells that did not fit its reading. */
class Misfits {
  readonly of = noEvidence();
  fitted = 0;
  blank = 0;

  add(text: string): void {
    weigh(this.of, text);
  }
}

class YesNoLane implements Lane {
  readonly reading: Reading = { kind: 'yesno' };
  private readonly codes = new Chunked((n) => new Uint8Array(n));
  private readonly seen = new Misfits();

  take(rows: Rows, c: number, unread: Unread): void {
    const { codes, seen } = this;
    for (let r = 0; r < rows.length; r++) {
      const text = rows[r]![c] ?? '';
      const code = readYesNo(text);
      if (code !== 0) seen.fitted++;
      else {
        seen.blank++;
        if (!isBlankText(text)) {
          seen.add(text);
          unread(r, text);
        }
      }
      codes.current[codes.filled++] = code;
      if (codes.filled === CHUNK) codes.next();
    }
  }

  evidence() {
    return this.seen;
  }

  finish(name: string): Column {
    const joined = new Uint8Array(this.codes.length);
    this.codes.drain((part, start, length) => joined.set(part.subarray(0, length), start));
    const members = ['', 'no', 'yes'] as const;
    return { kind: 'yesno', name, members, codes: joined, blank: this.seen.blank, convention: 'yes or no' };
  }
}

class NumberLane implements Lane {
  readonly reading: Reading;
  private readonly values = new Chunked((n) => new Float64Array(n));
  private readonly seen = new Misfits();
  private most = 0;
  private magnitude = 0;

  constructor(private readonly style: NumberStyle) {
    this.reading = { kind: 'number', style };
  }

  take(rows: Rows, c: number, unread: Unread): void {
    const { values, seen, style } = this;
    const plain = style === 'point';
    let { most, magnitude } = this;
    let fitted = 0;
    let out = values.current;
    let at = values.filled;
    for (let r = 0; r < rows.length; r++) {
      const text = rows[r]![c] ?? '';
      let value = NaN;
      if (text !== '') {
        if (plain) value = readPlain(text);
        if (value !== value) value = isBlankText(text) ? NaN : readNumber(text, style);
        if (value === value) {
          fitted++;
          if (decimalsWritten() > most) most = decimalsWritten();
          magnitude += value < 0 ? -value : value;
        } else if (!isBlankText(text)) {
          seen.add(text);
          unread(r, text);
        }
      }
      if (value !== value) seen.blank++;
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

  evidence() {
    return this.seen;
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
    return { kind: 'number', name, values, decimals, blank: this.seen.blank, convention: STYLE_WORDS[this.style] };
  }
}

class DateLane implements Lane {
  readonly reading: Reading;
  private readonly days = new Chunked((n) => new Int32Array(n));
  private readonly seen = new Misfits();
  private readonly known = new Map<string, Day>();

  constructor(private readonly read: string) {
    this.reading = { kind: 'date', read };
  }

  take(rows: Rows, c: number, unread: Unread): void {
    const { days, seen } = this;
    const plain = this.read === 'yyyy-MM-dd';
    for (let r = 0; r < rows.length; r++) {
      const text = rows[r]![c] ?? '';
      let day = plain ? readIsoPlain(text) : NaN;
      if (day !== day && text !== '') day = this.recall(text);
      if (day === day) seen.fitted++;
      else {
        seen.blank++;
        day = NO_DAY;
        if (!isBlankText(text)) {
          seen.add(text);
          unread(r, text);
        }
      }
      days.current[days.filled++] = day;
      if (days.filled === CHUNK) days.next();
    }
  }

  /** Few different days stand in a file, so each writing is taken apart once. */
  private recall(text: string): Day {
    let day = this.known.get(text);
    if (day === undefined) {
      day = datePattern(this.read)!.take(text.trim());
      if (this.known.size < 100_000) this.known.set(owned(text), day);
    }
    return day;
  }

  evidence() {
    return this.seen;
  }

  finish(name: string): Column {
    const days = new Int32Array(this.days.length);
    this.days.drain((part, start, length) => days.set(part.subarray(0, length), start));
    const grain = datePattern(this.read)!.grain;
    return {
      kind: 'date',
      name,
      days,
      grain,
      blank: this.seen.blank,
      read: this.read,
      convention: `dates as ${this.read}`,
    };
  }
}
