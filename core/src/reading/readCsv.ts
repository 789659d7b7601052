import Papa from 'papaparse';
import { Problem, thousands } from '../problem';
import { LEFT_OUT_KEPT, once, type ColumnWish, type LineIndex, type RawTable, type Told } from '../table';
import type { Row, RowSource } from './cell';
import { rowsOfCells, Splitter, type WholeRows } from './cells';
import { Pending } from './pending';
import { byteLength, decode, encodingOf, firstBytes, NotUtf8, type Decoded } from './decode';
import { fileOf, type SourceFile } from './file';
import { encodingFor } from './judgedEncoding';
import { rowsUnderHeader, type GridChunk } from './grid';
import { evened, hasOtherEnds, mayHaveOtherEnds, newlineOf } from './lineEnds';
import { lengthBefore, mendQuotes, type Dialect, type MendedText } from './quotes';
import { readRows, type OnRows } from './readRows';

/** What a report says of delimited text beyond its columns. */
export interface CsvWish {
  readonly delimiter?: string;
  /** The header's line; 0 when there is none. */
  readonly header?: number;
}

/** Bytes that show a file's encoding. */
const FIRST_BYTES = 1 << 18;

/**
 * Reads delimited text (RFC 4180 and its relatives) into typed columns. PapaParse takes the text apart.
 * Throws a `Problem` for text without rows.
 */
export async function readCsvFile(
  file: SourceFile,
  wishes: readonly ColumnWish[] = [],
  onRows?: OnRows,
  wish: CsvWish = {},
): Promise<RawTable> {
  const encoding = encodingOf(await firstBytes(file, FIRST_BYTES));
  if (encoding.startsWith('utf-16')) return readEncoded(file, encoding, false, wishes, onRows, wish);
  try {
    if (encoding === 'utf-8') return await readEncoded(file, encoding, true, wishes, onRows, wish);
  } catch (error) {
    if (!(error instanceof NotUtf8)) throw error;
  }
  // Where a byte is not valid in UTF-8, all of them tell what the file is.
  const judged = await encodingFor(file);
  const raw = await readEncoded(file, judged.encoding, false, wishes, onRows, wish);
  return judged.bad ? { ...raw, told: [...(raw.told ?? []), judged.bad] } : raw;
}

/** Reads delimited text that is at hand. */
export function readCsv(name: string, text: string, wishes: readonly ColumnWish[] = []): Promise<RawTable> {
  return readCsvFile(fileOf(name, new TextEncoder().encode(text)), wishes);
}

async function readEncoded(
  file: SourceFile,
  encoding: string,
  strict: boolean,
  wishes: readonly ColumnWish[],
  onRows: OnRows | undefined,
  { delimiter, header }: CsvWish,
): Promise<RawTable> {
  let marks: Marker | null = null;
  const source: RowSource = async function* (aside) {
    const marker = (marks = new Marker(encoding));
    yield* rowsUnderHeader(parsed(decode(file, encoding, strict), marker, file, encoding, delimiter), aside, header);
  };
  const raw = await readRows(file.name, source, wishes, onRows, () => marks!.marks(file.size));
  // Where commas part the cells, nobody writes decimals with them; see `doubts`.
  const { told, breaks, dialect } = marks!;
  const isComma = dialect.delimiter === ',';
  return {
    ...raw,
    ...(told.length > 0 ? { told } : {}),
    ...(breaks > 0 ? { breaks } : {}),
    doubts: isComma
      ? raw.doubts.filter(({ kind, readings }) => kind === 'date' || readings[0]!.read !== '1,234.5')
      : raw.doubts,
  };
}

/** Characters parsed at a time: few enough that the rows' texts die young, which costs the garbage collector least. */
const PIECE = 1 << 18;

/** Characters that a row may have. */
const MOST_ROW = 1 << 23;

function tooLongRow(file: string, line: number): Problem {
  return new Problem(
    'row-too-long',
    `a row has more than ${thousands(MOST_ROW)} characters`,
    { in: file, line },
    'choose a file with rows in lines, or look for a quote there that is never closed',
  );
}

/** Notes where in the file each piece begins, so that its rows can be read again without the rows before. */
class Marker {
  dialect: Dialect = { delimiter: ',', newline: '\n', width: 0 };
  /** Cells that are not what their quotes say. */
  readonly told: Told[] = [];
  /** Line breaks inside cells. */
  breaks = 0;
  private byte = 0;
  private readonly lines: number[] = [];
  private readonly bytes: number[] = [];

  constructor(private readonly encoding: string) {}

  /** A piece of so many bytes is parsed next. */
  piece(bytes: number, firstLine: number): void {
    this.lines.push(firstLine);
    this.bytes.push(this.byte);
    this.byte += bytes;
  }

  /** What was found in the quotes of a piece, up to where its rows end. */
  mended({ text, found, breaks }: MendedText, cursor: number, firstLine: number): void {
    const inside = breaks.filter((at) => at < cursor);
    this.breaks += inside.length;
    const { newline } = this.dialect;
    let [line, b] = [firstLine, 0];
    let next = text.indexOf(newline);
    for (const { what, at, raw } of found) {
      if (at >= cursor) break;
      for (; next >= 0 && next < at; next = text.indexOf(newline, next + newline.length)) {
        while (b < inside.length && inside[b]! < next) b++;
        if (inside[b] !== next) line++;
      }
      const known = this.told.find((one) => one.what === what);
      if (!known) this.told.push({ what, count: 1, first: [{ line, raw }] });
      else {
        known.count++;
        if (known.first.length < LEFT_OUT_KEPT) known.first.push({ line, raw });
      }
    }
  }

  /** Null where the bytes do not add up, as behind a byte that meant nothing. */
  marks(size: number): LineIndex | null {
    const { lines, encoding, dialect } = this;
    // A byte order mark is not part of the text.
    const lead = size - this.byte;
    if (lead !== 0 && lead !== 2 && lead !== 3) return null;
    const bytes = this.bytes.map((byte, i) => (i === 0 ? 0 : byte + lead));
    return { lines, bytes, ...dialect, encoding };
  }
}

/** Parsed rows piece by piece, the header among the first. */
async function* parsed(
  source: AsyncIterable<Decoded>,
  marker: Marker,
  { name, size }: Pick<SourceFile, 'name' | 'size'>,
  encoding: string,
  delimiter?: string,
): AsyncGenerator<GridChunk> {
  let parser: Papa.Parser | null = null;
  const rest = new Pending();
  let enough = PIECE;
  let firstLine = 1;
  let share = 0;
  const parserFor = (text: string) => {
    marker.dialect = dialectOf(text, delimiter);
    return parserOf(marker.dialect);
  };
  /** Takes rows from the beginning of what is left; how many characters they took. */
  const take = (isEnd: boolean): { result: Papa.ParseResult<Row>; length: number } => {
    parser ??= parserFor(rest.text);
    const mendedNow = () => {
      const even = marker.dialect.anyEnds ? evened(rest.text, isEnd) : null;
      return { even, mended: mendQuotes(even?.text ?? rest.text, marker.dialect, isEnd) };
    };
    let { even, mended } = mendedNow();
    // A quote that encloses no cell may have hidden a line end.
    const { newline, anyEnds } = marker.dialect;
    if (!anyEnds && (hasOtherEnds(rest.text, newline) || hasOtherEnds(mended.text, newline))) {
      marker.dialect = { ...marker.dialect, newline: '\n', anyEnds: true };
      parser = parserOf(marker.dialect);
      ({ even, mended } = mendedNow());
    }
    const result = parser.parse(mended.text, 0, !isEnd) as Papa.ParseResult<Row>;
    const cursor = isEnd ? mended.text.length : result.meta.cursor;
    marker.mended(mended, cursor, firstLine);
    const length = lengthBefore(mended, cursor);
    // Behind the last line end stands nothing, not an empty line.
    if (isEnd && (even?.text ?? rest.text).endsWith(marker.dialect.newline)) result.data.pop();
    return { result, length: even?.lengthBefore(length) ?? length };
  };
  const chunkOf = (result: Papa.ParseResult<Row>, text: string): GridChunk => {
    marker.piece(byteLength(text, encoding), firstLine);
    const chunk = { rows: result.data, firstLine, share };
    firstLine += result.data.length;
    return chunk;
  };
  const cellsChunkOf = ({ cells, length, bytes }: WholeRows): GridChunk => {
    marker.piece(encoding === 'utf-8' ? bytes : byteLength(rest.text.slice(0, length), encoding), firstLine);
    const rows = once(() => rowsOfCells(cells));
    const line = firstLine;
    firstLine += cells.rows;
    return {
      cells,
      firstLine: line,
      share,
      get rows() {
        return rows();
      },
    };
  };
  // The first piece shows how the file is written, and has its header.
  let splitter: Splitter | null | undefined;
  for await (const decoded of source) {
    share = size === 0 ? 1 : decoded.bytes / size;
    for (let at = 0; at < decoded.length; at += PIECE) {
      rest.add(decoded, at, at + PIECE);
      // The first piece should be large enough to show delimiter and types, wherever the source cuts.
      while (rest.length >= enough) {
        // What is written plainly, as nearly everything is, need not be cut into texts.
        const isPlain = !marker.dialect.anyEnds && !mayHaveOtherEnds(rest, marker.dialect.newline);
        const simple = isPlain ? splitter?.split(rest) : null;
        if (simple) {
          yield cellsChunkOf(simple);
          rest.drop(simple.length);
          continue;
        }
        const { result, length } = take(false);
        if (splitter === undefined) splitter = Splitter.for(marker.dialect);
        // A cell that is longer than the piece is waited for, each time twice as long: never looked at again and again.
        enough = length === 0 ? Math.min(rest.length * 2, MOST_ROW) : PIECE;
        if (length === 0 && rest.length >= MOST_ROW) throw tooLongRow(name, firstLine);
        if (result.data.length > 0) yield chunkOf(result, rest.text.slice(0, length));
        rest.drop(length);
      }
    }
  }
  if (rest.length === 0) return;
  const { result } = take(true);
  if (result.data.length > 0) yield chunkOf(result, rest.text);
}

const parserOf = ({ delimiter, newline }: Dialect) => new Papa.Parser({ delimiter, newline } as Papa.ParseConfig);

const DELIMITERS = [',', ';', '\t', '|', '\u001f', '^', '~'];

/** Delimiter, line ends and width that the first piece shows. */
function dialectOf(text: string, delimiter?: string): Dialect {
  const first = text.slice(0, 256 * 1024).replace(/^\uFEFF/, '');
  const newline = newlineOf(first);
  const anyEnds = hasOtherEnds(first, newline);
  const sample = anyEnds ? evened(first, true).text : first;
  const { meta, data } = Papa.parse<string[]>(sample, {
    preview: 60,
    skipEmptyLines: 'greedy',
    ...(delimiter === undefined ? { delimitersToGuess: DELIMITERS } : { delimiter }),
  });
  const chosen = delimiter ?? delimiterOf(sample, meta.delimiter);
  const width = commonest(data.map(({ length }) => length));
  return anyEnds ? { delimiter: chosen, newline: '\n', width, anyEnds } : { delimiter: chosen, newline, width };
}

/** The number that comes most often; of several the first. */
function commonest(numbers: readonly number[]): number {
  const times = new Map<number, number>();
  for (const one of numbers) times.set(one, (times.get(one) ?? 0) + 1);
  return [...times].reduce((best, one) => (one[1] > best[1] ? one : best), [0, 0])[0]!;
}

/** PapaParse guesses by even widths; where it finds none, a spreadsheet's first line may name the delimiter itself. */
function delimiterOf(sample: string, guessed: string): string {
  const named = /^sep=(.)\r?\n/i.exec(sample);
  return named ? named[1]! : guessed || ',';
}

/** Rows of delimited text as they stand in the file, by their lines; from places that are marked, see `Marks`. */
export async function rawCsvRows(
  file: SourceFile,
  marks: LineIndex,
  lines: readonly number[],
): Promise<ReadonlyMap<number, Row>> {
  const found = new Map<number, Row>();
  const parser = parserOf(marks);
  let at = -1;
  let rows: Row[] = [];
  for (const line of lines) {
    const m = Math.max(
      0,
      marks.lines.findLastIndex((first) => first <= line),
    );
    if (m !== at) {
      const bytes = await file.slice(marks.bytes[m]!, marks.bytes[m + 1] ?? file.size);
      const written = new TextDecoder(marks.encoding).decode(bytes);
      const { text } = mendQuotes(marks.anyEnds ? evened(written, true).text : written, marks, true);
      rows = parser.parse(text, 0, false).data as Row[];
      at = m;
    }
    const row = rows[line - marks.lines[m]!];
    if (row) found.set(line, row);
  }
  return found;
}
