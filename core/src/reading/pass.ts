import {
  LEFT_OUT_KEPT,
  lineOf,
  type Column,
  type ColumnWish,
  type Doubt,
  type LeftOut,
  type LeftOutCount,
  type LineIndex,
  type RawTable,
  type TextColumn,
} from '../table';
import { type Aside, type Cell, type Row, type RowChunk } from './cell';
import type { UncutCells } from './cells';
import { MOST_COLUMNS, tooManyColumns } from './columnNames';
import { laneFor } from './columnReader';
import type { ColumnReader, Unread } from './lane';
import { decide, evidenceOf, isEnough, noEvidence, sameReading, weigh, type Reading } from './evidence';
import { datePattern, type DatePattern } from './readDate';
import { styleNamed } from './readNumber';
import { retype } from './retype';

const SAMPLE_ROWS = 2000;

/** What a wish says outright of how a column is read. */
function readingWished(wish: ColumnWish | undefined): Reading | null {
  if (!wish) return null;
  if (wish.type === 'text' || wish.type === 'yesno') return { kind: wish.type };
  if (wish.type === 'number') {
    const style = wish.read === undefined ? undefined : styleNamed(wish.read);
    return style ? { kind: 'number', style } : null;
  }
  return wish.read === undefined ? null : { kind: 'date', read: wish.read };
}

/** One reading of the file: a lane for each column that is read. */
export class Pass {
  rows = 0;
  header: readonly string[] = [];
  private firstLine = 0;
  private nextLine = 0;
  private readonly lanes = new Map<string, ColumnReader>();
  private readonly skipped: number[] = [];
  private emptyLines = 0;
  private readonly leftOut: LeftOut[] = [];
  private readonly counts = new Map<string, LeftOutCount>();
  private readonly wishes: ReadonlyMap<string, ColumnWish>;
  private readonly column: Cell[] = [];

  /** @param only the columns to read, and how; all when left out. */
  constructor(
    private readonly wishList: readonly ColumnWish[],
    private readonly only?: ReadonlyMap<string, Reading>,
  ) {
    this.wishes = new Map(wishList.map((wish) => [wish.name, wish]));
  }

  /** Keeps what is no row; an empty line is only counted. */
  readonly aside: Aside = (aside) => {
    if (typeof aside === 'number') this.emptyLines++;
    else this.leaveOut({ row: aside.line, column: null, raw: aside.raw, reason: aside.reason });
  };

  take(chunk: RowChunk): void {
    if (this.firstLine === 0) this.nextLine = this.firstLine = chunk.firstLine;
    this.admit(chunk);
    if (chunk.cells) return this.takeCells(chunk.cells, chunk.firstLine);
    if (chunk.columns) return this.takeColumns(chunk.columns, chunk.firstLine);
    const { rows, lines } = chunk;
    const { column } = this;
    for (let r = 0; r < rows.length; r++) {
      const line = lines ? lines[r]! : chunk.firstLine + r;
      while (this.nextLine < line) this.skipped.push(this.nextLine++);
      this.nextLine = line + 1;
    }
    this.header.forEach((name, c) => {
      const lane = this.lanes.get(name);
      if (!lane) return;
      for (let r = 0; r < rows.length; r++) column[r] = rows[r]![c] ?? '';
      lane.take(column, rows.length, (index, raw) =>
        this.leaveOut(unreadCell(lines ? lines[index]! : chunk.firstLine + index, name, raw, lane.reading)),
      );
    });
    this.rows += rows.length;
  }

  /** Whole columns of rows that follow one another. */
  private takeColumns(columns: readonly (readonly Cell[])[], firstLine: number): void {
    const rows = columns[0]!.length;
    this.nextLine = firstLine + rows;
    this.header.forEach((name, c) => {
      const lane = this.lanes.get(name);
      lane?.take(columns[c]!, rows, (index, raw) =>
        this.leaveOut(unreadCell(firstLine + index, name, raw, lane.reading)),
      );
    });
    this.rows += rows;
  }

  /** Rows that follow one another line by line. */
  private takeCells(cells: UncutCells, firstLine: number): void {
    while (this.nextLine < firstLine) this.skipped.push(this.nextLine++);
    this.nextLine = firstLine + cells.rows;
    const { rows } = cells;
    this.header.forEach((name, c) => {
      const lane = this.lanes.get(name);
      if (!lane) return;
      const unread: Unread = (index, raw) => this.leaveOut(unreadCell(firstLine + index, name, raw, lane.reading));
      if (lane.takeCells) return lane.takeCells(cells, c, unread);
      for (let r = 0; r < rows; r++) this.column[r] = cells.text(r, c);
      lane.take(this.column, rows, unread);
    });
    this.rows += rows;
  }

  /** Lanes for columns that have not been seen before, read as their first rows suggest. */
  private admit(chunk: RowChunk): void {
    const { names } = chunk;
    if (names.length === this.header.length) return;
    const { rows } = chunk;
    if (names.length > MOST_COLUMNS) throw tooManyColumns();
    const from = this.header.length;
    this.header = [...names];
    for (let c = from; c < names.length; c++) {
      const name = names[c]!;
      if (this.only && !this.only.has(name)) continue;
      const lane = laneFor(this.only?.get(name) ?? this.firstReading(name, c, rows));
      if (this.rows > 0) lane.skip(this.rows);
      this.lanes.set(name, lane);
    }
  }

  private firstReading(name: string, c: number, rows: readonly Row[]): Reading {
    const wish = this.wishes.get(name);
    const wished = readingWished(wish);
    if (wished) return wished;
    // What stands in many rows is weighed once.
    const cells = new Map<Cell, number>();
    for (let r = 0; r < rows.length && r < SAMPLE_ROWS; r++) {
      const cell = rows[r]![c] ?? '';
      cells.set(cell, (cells.get(cell) ?? 0) + 1);
    }
    const evidence = noEvidence();
    for (const [cell, count] of cells) weigh(evidence, cell, count);
    return decide(evidence, { name, header: this.header }, wish?.type);
  }

  private leaveOut(entry: LeftOut): void {
    if (this.leftOut.length < LEFT_OUT_KEPT) this.leftOut.push({ ...entry, raw: entry.raw.slice(0, 200) });
    const key = JSON.stringify([entry.column, entry.reason]);
    const count = this.counts.get(key);
    if (count) count.count++;
    else this.counts.set(key, { column: entry.column, reason: entry.reason, count: 1 });
  }

  /** Columns whose reading all rows together do not bear out, and how they are to be read instead. */
  doubtful(): Map<string, Reading> {
    const again = new Map<string, Reading>();
    const readings = this.likeOthers([...this.lanes].map(([name, lane]) => ({ name, lane })));
    for (const [name, lane] of this.lanes) {
      if (lane.reading.kind === 'text') continue;
      const better = readings.get(name);
      if (better && !sameReading(better, lane.reading)) again.set(name, better);
      const { of, fitted } = lane.evidence();
      const { point, comma } = of.numbers;
      const readable =
        lane.reading.kind === 'number'
          ? Math.max(point, comma)
          : lane.reading.kind === 'date'
            ? Math.max(...of.dates)
            : 0;
      if (readingWished(this.wishes.get(name))) continue;
      if (
        readable > 0 ||
        !isEnough(fitted, fitted + of.filled) ||
        of.codes > 0 ||
        (of.filled > 0 && isStrict(lane.reading))
      )
        again.set(name, { kind: 'text' });
    }
    return again;
  }

  /** For columns that can be read in two ways: the way in which another column of the file can only be read. */
  private likeOthers(columns: readonly { name: string; lane: ColumnReader }[]): Map<string, Reading> {
    const found = new Map<string, Reading>();
    for (const { name, lane } of columns) {
      const doubt = lane.doubt();
      if (!doubt || this.wishes.get(name)?.read !== undefined) continue;
      const ways = doubt.readings.map(({ read }) => readingOf(doubt.kind, read));
      const like = columns.find(
        (other) => other.lane.settled() && ways.some((way) => sameReading(way, other.lane.reading)),
      );
      if (like) found.set(name, like.lane.reading);
    }
    return found;
  }

  /** A second pass over some columns only. */
  again(readings: ReadonlyMap<string, Reading>): Pass {
    return new Pass(this.wishList, readings);
  }

  /** The typed table; columns that a second pass looked at stand in for the first's. */
  finish(marks: LineIndex | null, second?: Pass): RawTable {
    const reread = new Set(second?.lanes.keys());
    const isOld = ({ column }: { column: string | null }) => column !== null && reread.has(column);
    let leftOut = this.leftOut.filter((entry) => !isOld(entry));
    for (const [key, count] of this.counts) if (isOld(count)) this.counts.delete(key);
    if (second) {
      leftOut = [...leftOut, ...second.leftOut];
      for (const [key, count] of second.counts) this.counts.set(key, count);
    }
    this.leftOut.splice(0, this.leftOut.length, ...leftOut);
    const doubts: Doubt[] = [];
    const settled: Reading[] = [];
    const columns = this.header.map((name) => {
      const lane = second?.lanes.get(name) ?? this.lanes.get(name)!;
      const [doubt, sure] = [lane.doubt(), lane.settled()];
      const column = lane.finish(name);
      const wish = this.wishes.get(name);
      const decided: Reading =
        lane.reading.kind === 'text'
          ? (readingWished(wish) ?? decide(evidenceOf(column as TextColumn), { name, header: this.header }, wish?.type))
          : lane.reading;
      if (decided.kind === 'text' || lane.reading.kind !== 'text') {
        if (doubt && wish?.read === undefined) doubts.push({ column: name, ...doubt });
        if (sure) settled.push(decided);
        return column;
      }
      const text = column as TextColumn;
      const found = retype(text, decided);
      for (const row of found.unread)
        this.leaveOut(unreadCell(lineOf(row, this.lines()), name, text.members[text.codes[row]!]!, decided));
      if (found.doubt && wish?.read === undefined) doubts.push({ column: name, ...found.doubt });
      if (found.settled) settled.push(decided);
      return found.column;
    });
    const isSettled = ({ kind, readings }: Doubt) =>
      settled.some((reading) => sameReading(reading, readingOf(kind, readings[0]!.read)));
    return {
      rows: this.rows,
      columns: withoutNameless(columns),
      leftOut: this.leftOut.sort((a, b) => a.row - b.row),
      leftOutCounts: [...this.counts.values()],
      ...this.lines(),
      emptyLines: this.emptyLines,
      doubts: doubts.filter((doubt) => !isSettled(doubt)),
      marks,
      wide: null,
    };
  }

  private lines() {
    return { firstLine: this.firstLine, skipped: this.skipped, lines: null };
  }
}

function isStrict(reading: Reading): boolean {
  return reading.kind === 'date' && (datePattern(reading.read) as DatePattern).strict !== undefined;
}

function readingOf(kind: Doubt['kind'], read: string): Reading {
  return kind === 'date' ? { kind: 'date', read } : { kind: 'number', style: styleNamed(read)! };
}

/** Columns that have neither a name nor anything in them come from stray delimiters and spreadsheet margins. */
function withoutNameless(columns: readonly Column[]): Column[] {
  const kept = columns.filter(({ name, kind, blank, ...column }) => {
    const rows = kind === 'text' ? (column as TextColumn).codes.length : -1;
    return !(NAMELESS.test(name) && kind === 'text' && rows > 0 && blank === rows);
  });
  return kept.length === 0 ? [...columns] : kept;
}

const NAMELESS = /^column \d+$/;

function unreadCell(row: number, column: string, raw: string, reading: Reading): LeftOut {
  const what =
    reading.kind === 'date' ? `date as ${reading.read}` : reading.kind === 'yesno' ? 'yes or no' : reading.kind;
  return { row, column, raw, reason: `not a ${what}` };
}
