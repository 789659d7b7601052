import { codesFor, type Codes, type Column } from '../table';
import { textOf, type Cell } from './cell';
import { DateLane } from './dateLane';
import { Misfits, owned, type ColumnReader, type Unread } from './lane';
import { NumberLane } from './numberLane';
import { type UncutCells } from './cells';
import { Chunked, CHUNK } from './chunked';
import type { TextTable } from './textTable';
import { noEvidence, readYesNo, weigh, type Reading } from './evidence';
import { datePattern } from './readDate';
import { isTooLong } from './readNumber';

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
