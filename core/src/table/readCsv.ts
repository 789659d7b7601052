import Papa from 'papaparse';
import { Problem } from '../problem';
import {
  LEFT_OUT_KEPT,
  lineOf,
  type Column,
  type ColumnKind,
  type LeftOut,
  type LeftOutCount,
  type TextColumn,
} from './column';
import { decide, isEnough, noEvidence, weigh, type Reading } from './evidence';
import { laneFor, type Lane } from './lane';
import { datePattern } from './readDate';
import { retype } from './retype';

/** What a report says about a column before its file is read. */
export interface ColumnWish {
  readonly name: string;
  readonly type?: ColumnKind;
  /** A date pattern such as `dd.MM.yyyy`. */
  readonly read?: string;
}

export interface RawTable {
  readonly rows: number;
  readonly columns: Column[];
  readonly leftOut: LeftOut[];
  readonly leftOutCounts: LeftOutCount[];
  readonly skipped: number[];
}

/** Text in pieces of any size; asked for again when a second look at the file is needed. */
export type TextSource = () => Iterable<string> | AsyncIterable<string>;

const SAMPLE_ROWS = 2000;

/**
 * Reads delimited text (RFC 4180 and its relatives) into typed columns. PapaParse takes the text apart; the types are
 * ours, from all rows: each column is read by the reading its first rows suggest, and read again when all rows together
 * say otherwise. Throws a `Problem` for text without a header.
 * @param onRows told how many rows have been read, for progress.
 */
export async function readCsv(
  name: string,
  source: TextSource,
  wishes: readonly ColumnWish[] = [],
  onRows: (rows: number) => void = () => {},
): Promise<RawTable> {
  let first: Pass | null = null;
  for await (const rows of parsed(source)) {
    first ??= beginPass(name, rows, wishes);
    first.take(rows);
    onRows(first.rows);
  }
  if (first === null)
    throw new Problem('empty-file', 'there are no rows in it', { in: name }, 'choose a file with a header row');
  const doubtful = first.doubtful();
  if (doubtful.length === 0) return first.finish();
  const second = first.again(doubtful);
  for await (const rows of parsed(source)) second.take(rows);
  return first.finish(second);
}

/** Characters parsed at a time: few enough that the rows' texts die young, which costs the garbage collector least. */
const PIECE = 1 << 18;

/** Parsed rows chunk by chunk, the header among the first. */
async function* parsed(source: TextSource): AsyncGenerator<string[][]> {
  let parser: Papa.Parser | null = null;
  let rest = '';
  let enough = PIECE;
  for await (const piece of source()) {
    for (let at = 0; at < piece.length; at += PIECE) {
      rest += piece.slice(at, at + PIECE);
      // The first piece should be large enough to show delimiter and types, wherever the source cuts.
      if (rest.length < enough) continue;
      parser ??= parserFor(rest);
      const result = parser.parse(rest, 0, true) as Papa.ParseResult<string[]>;
      // A cell that is longer than the piece is waited for, each time twice as long: never looked at again and again.
      enough = result.meta.cursor === 0 ? rest.length * 2 : PIECE;
      rest = rest.slice(result.meta.cursor);
      if (result.data.length > 0) yield result.data;
    }
  }
  if (rest === '') return;
  const result = (parser ?? parserFor(rest)).parse(rest, 0, false) as Papa.ParseResult<string[]>;
  if (result.data.length > 0) yield result.data;
}

/** A parser for the delimiter and line ends that the first piece shows. */
function parserFor(text: string): Papa.Parser {
  const sample = text.slice(0, 256 * 1024);
  const { meta } = Papa.parse<string[]>(sample, { preview: 60, delimitersToGuess: [',', ';', '\t', '|'] });
  return new Papa.Parser({ delimiter: meta.delimiter || ',', newline: meta.linebreak as '\n' });
}

/** One reading of the file: a lane for each column that is read. */
class Pass {
  rows = 0;
  private line = 1;
  private readonly skipped: number[] = [];
  private readonly leftOut: LeftOut[] = [];
  private readonly counts: LeftOutCount[] = [];

  constructor(
    private readonly name: string,
    private readonly header: readonly string[],
    private readonly lanes: ReadonlyMap<number, Lane>,
    private readonly wishes: ReadonlyMap<string, ColumnWish>,
  ) {}

  /** Takes a chunk of parsed rows; the first chunk begins with the header. */
  take(chunk: readonly string[][]): void {
    const { kept, lines } = this.wellFormed(chunk);
    for (const [c, lane] of this.lanes) {
      lane.take(kept, c, (index, raw) => this.leaveOut(unreadCell(lines(index), this.header[c]!, raw, lane.reading)));
    }
    this.rows += kept.length;
  }

  /** Rows of the chunk without header and empty lines, and the line of the file on which each stands. */
  private wellFormed(chunk: readonly string[][]): { kept: readonly string[][]; lines: (index: number) => number } {
    const base = this.line;
    const width = this.header.length;
    this.line += chunk.length;
    const skipHeader = base === 1 ? 1 : 0;
    let regular = skipHeader === 0;
    if (regular)
      for (let i = 0; i < chunk.length; i++) if (chunk[i]!.length !== width || isEmpty(chunk[i]!)) regular = false;
    if (regular) return { kept: chunk, lines: (index) => base + index };
    const kept: string[][] = [];
    const lines: number[] = [];
    for (let i = skipHeader; i < chunk.length; i++) {
      const row = chunk[i]!;
      if (isEmpty(row)) {
        this.skipped.push(base + i);
        continue;
      }
      if (row.length > width && row.slice(width).some((cell) => cell.trim() !== '')) {
        const raw = row.slice(width).join(' · ');
        this.leaveOut({ row: base + i, column: null, raw, reason: 'more cells than the header names' });
      }
      kept.push(row);
      lines.push(base + i);
    }
    return { kept, lines: (index) => lines[index]! };
  }

  private leaveOut(entry: LeftOut): void {
    if (this.leftOut.length < LEFT_OUT_KEPT) this.leftOut.push({ ...entry, raw: entry.raw.slice(0, 200) });
    const count = this.counts.find(({ column, reason }) => column === entry.column && reason === entry.reason);
    if (count) count.count++;
    else this.counts.push({ column: entry.column, reason: entry.reason, count: 1 });
  }

  /** Columns whose reading the rows after the first do not bear out; they are looked at again as text. */
  doubtful(): number[] {
    const again: number[] = [];
    for (const [c, lane] of this.lanes) {
      if (lane.reading.kind === 'text') continue;
      const { of, fitted } = lane.evidence();
      const { point, comma } = of.numbers;
      const readable =
        lane.reading.kind === 'number'
          ? Math.max(point, comma)
          : lane.reading.kind === 'date'
            ? Math.max(...of.dates)
            : 0;
      if (readable > 0 || !isEnough(fitted, fitted + of.filled)) again.push(c);
    }
    return again;
  }

  /** A second pass that reads some columns as text. */
  again(columns: readonly number[]): Pass {
    return new Pass(this.name, this.header, new Map(columns.map((c) => [c, laneFor({ kind: 'text' })])), this.wishes);
  }

  /** The typed table; columns that a second pass looked at stand in for the first's. */
  finish(second?: Pass): RawTable {
    const reread = new Set([...(second?.lanes.keys() ?? [])].map((c) => this.header[c]!));
    for (const list of [this.leftOut, this.counts]) {
      for (let i = list.length - 1; i >= 0; i--) if (reread.has(list[i]!.column ?? '')) list.splice(i, 1);
    }
    const columns = this.header.map((name, c) => {
      const lane = second?.lanes.get(c) ?? this.lanes.get(c)!;
      if (lane.reading.kind !== 'text') return lane.finish(name);
      const wish = this.wishes.get(name);
      const decided: Reading =
        wish?.type === 'date' && wish.read ? { kind: 'date', read: wish.read } : decide(lane.evidence().of, wish?.type);
      const text = lane.finish(name) as TextColumn;
      if (decided.kind === 'text') return text;
      const { column, unread } = retype(text, decided);
      for (const row of unread)
        this.leaveOut(unreadCell(lineOf(row, this.skipped), name, text.members[text.codes[row]!]!, decided));
      return column;
    });
    return {
      rows: this.rows,
      columns,
      leftOut: this.leftOut.sort((a, b) => a.row - b.row),
      leftOutCounts: this.counts,
      skipped: this.skipped,
    };
  }
}

function unreadCell(row: number, column: string, raw: string, reading: Reading): LeftOut {
  const what =
    reading.kind === 'date' ? `date as ${reading.read}` : reading.kind === 'yesno' ? 'yes or no' : reading.kind;
  return { row, column, raw, reason: `not a ${what}` };
}

function isEmpty(row: readonly string[]): boolean {
  return row.length === 1 && row[0]!.trim() === '';
}

/** Starts the first pass: names from the header, readings from the first rows. */
function beginPass(name: string, chunk: readonly string[][], wishes: readonly ColumnWish[]): Pass {
  const header = namesFrom(chunk[0]!);
  const wanted = new Map(wishes.map((wish) => [wish.name, wish]));
  for (const wish of wishes) {
    if (wish.read !== undefined && !datePattern(wish.read)) {
      throw new Problem('unknown-date-pattern', `dates cannot be read as “${wish.read}”`, {
        in: `column “${wish.name}” of ${name}`,
      });
    }
  }
  const lanes = new Map<number, Lane>();
  header.forEach((column, c) => {
    const wish = wanted.get(column);
    const evidence = noEvidence();
    for (let r = 1; r < chunk.length && r <= SAMPLE_ROWS; r++) weigh(evidence, chunk[r]![c] ?? '');
    const reading: Reading =
      wish?.type === 'date' && wish.read ? { kind: 'date', read: wish.read } : decide(evidence, wish?.type);
    lanes.set(c, laneFor(reading));
  });
  return new Pass(name, header, lanes, wanted);
}

/** Column names: trimmed, numbered where empty or repeated. */
export function namesFrom(cells: readonly string[]): string[] {
  const seen = new Map<string, number>();
  return cells.map((cell, c) => {
    const name =
      cell
        .replace(/^\uFEFF/, '')
        .replace(/\s+/g, ' ')
        .trim() || `column ${c + 1}`;
    const times = (seen.get(name) ?? 0) + 1;
    seen.set(name, times);
    return times === 1 ? name : `${name} (${times})`;
  });
}
