import * as hyparquet from 'hyparquet';
import { parquetMetadataAsync, parquetRead, parquetSchema, type FileMetaData, type SchemaTree } from 'hyparquet';
import { compressors } from 'hyparquet-compressors';
import { NO_DAY } from '../calendar';
import { Problem, thousands } from '../problem';
import type { Column, ColumnWish, LeftOut, RawTable } from '../table';
import { crc32 } from '../zip';
import type { Cell, RowChunk } from './cell';
import type { SourceFile } from './file';
import { MOST_COLUMNS, namesFrom } from './columnNames';
import { readRows, type OnRows } from './readRows';

/** A file whose pages unpack to more than this many bytes is not opened. */
const MOST_PARQUET = 16_000_000_000;

const MS_A_DAY = 86_400_000;

/** Timestamps and dates as whole days; a time of day does not matter to figures. */
const DAYS = {
  dateFromDays: (days: number) => days,
  timestampFromMilliseconds: (ms: bigint) => Math.floor(Number(ms) / MS_A_DAY),
  timestampFromMicroseconds: (us: bigint) => Math.floor(Number(us) / (MS_A_DAY * 1000)),
  timestampFromNanoseconds: (ns: bigint) => Math.floor(Number(ns) / (MS_A_DAY * 1e6)),
};

/**
 * Reads a Parquet file column by column. Its own types are kept: numbers, dates and yes/no are what they are; texts are
 * looked at like those of any other file. Throws a `Problem` for a damaged file.
 */
export async function readParquet(
  file: SourceFile,
  wishes: readonly ColumnWish[] = [],
  onRows: OnRows = () => {},
  limit = MOST_PARQUET,
): Promise<RawTable> {
  try {
    return await readUndamaged(file, wishes, onRows, limit);
  } catch (error) {
    throw error instanceof Problem ? error : damaged(file.name, error);
  }
}

async function readUndamaged(
  file: SourceFile,
  wishes: readonly ColumnWish[],
  onRows: OnRows,
  limit: number,
): Promise<RawTable> {
  // Without it damaged bytes could keep the reading going for ever.
  if (!('readsWithinBounds' in hyparquet))
    throw new Problem(
      'not-patched',
      'the package that reads Parquet lacks the changes that ship with this program',
      { in: file.name },
      'install the program with “npm ci”, which applies patches/, or run “npx patch-package”',
    );
  const buffer = {
    byteLength: file.size,
    slice: async (from: number, to = file.size) => {
      const bytes = await file.slice(Math.max(0, from), Math.min(file.size, to));
      return bytes.slice().buffer;
    },
  };
  const metadata = await parquetMetadataAsync(buffer, { geoparquet: false });
  const unpacked = metadata.row_groups.reduce((sum, { total_byte_size }) => sum + Number(total_byte_size), 0);
  const rows = metadata.row_groups.reduce((sum, { num_rows }) => sum + Number(num_rows), 0);
  if (metadata.row_groups.some(({ num_rows }) => num_rows < 0n)) throw damaged(file.name, 'it has fewer than no rows');
  if (!(unpacked <= limit) || !(rows < 2 ** 31))
    throw new Problem(
      'unpacks-too-large',
      `it unpacks to more than ${thousands(Math.round(limit / 1e6))} MB`,
      { in: file.name },
      'take a part of it, such as fewer columns or years',
    );
  const { children } = parquetSchema(metadata);
  if (children.length === 0 || children.length > MOST_COLUMNS)
    throw new Problem('empty-file', 'there are no columns in it', { in: file.name }, 'choose a file with rows in it');
  // Whatever is packed, a few bytes are no million of rows: what says so would only take memory.
  if (rows * children.length > FEW_CELLS + file.size * MOST_CELLS_A_BYTE)
    throw new Problem(
      'unpacks-too-large',
      `its ${thousands(file.size)} bytes unpack to ${thousands(rows)} rows`,
      { in: file.name },
      'write it again from where it came, or as CSV',
    );
  const names = namesFrom(children.map(({ element }) => element.name));
  const columns: Column[] = [];
  const leftOut: LeftOut[] = [];
  const counts: RawTable['leftOutCounts'][number][] = [];
  const doubts: RawTable['doubts'][number][] = [];
  for (const [c, child] of children.entries()) {
    const chunks = (wholes: 'number' | 'text') => columnChunks(buffer, metadata, child, wholes);
    const told = (done: number) =>
      onRows(Math.round(((c + done) / children.length) * rows), (c + done) / children.length);
    const wish = wishes.filter(({ name }) => name === names[c]);
    const found = await readColumn(names[c]!, file.name, child, chunks, wish, rows, told);
    columns.push(...found.columns);
    leftOut.push(...found.leftOut);
    counts.push(...found.leftOutCounts);
    doubts.push(...found.doubts);
  }
  return {
    rows,
    columns,
    leftOut: leftOut.sort((a, b) => a.row - b.row),
    leftOutCounts: counts,
    firstLine: 1,
    skipped: [],
    lines: null,
    emptyLines: 0,
    doubts,
    marks: null,
    wide: null,
  };
}

function damaged(file: string, error: unknown): Problem {
  const what = error instanceof Error ? error.message.slice(0, 160) : String(error);
  return new Problem(
    'broken-parquet',
    `the Parquet file is damaged or of a kind that cannot be read: ${what}`,
    { in: file },
    'write it again from where it came',
  );
}

/** Cells that a file of any size may have, and how many for each of its bytes: columns of one value pack well. */
const FEW_CELLS = 2_000_000;
const MOST_CELLS_A_BYTE = 300;

interface Piece {
  readonly values: ArrayLike<unknown>;
  readonly share: number;
}

type Buffer = Parameters<typeof parquetMetadataAsync>[0];

/** What a page says of itself before it is unpacked. */
interface PageHeader {
  readonly crc?: number;
  readonly uncompressed_page_size: number;
  readonly data_page_header?: { readonly num_values: number };
  readonly data_page_header_v2?: { readonly num_values: number };
  readonly dictionary_page_header?: { readonly num_values: number };
}

/** Bytes that the pages of a column may unpack to in a file of any size, and for each byte of the file. */
const FEW_UNPACKED = 64_000_000;
const MOST_UNPACKED_A_BYTE = 2_000;

/**
 * Looks at each page of a column before it is unpacked: its checksum where it has one, and how much all of them come to, in bytes and
 * in values, for a file of so many bytes.
 */
function pageChecks(size: number) {
  const most = Math.min(MOST_PARQUET, FEW_UNPACKED + size * MOST_UNPACKED_A_BYTE);
  let [unpacked, values] = [0, 0];
  return (header: PageHeader, bytes: Uint8Array): void => {
    const { data_page_header: first, data_page_header_v2: second, dictionary_page_header: words } = header;
    unpacked += header.uncompressed_page_size;
    values += (first ?? second ?? words)?.num_values ?? 0;
    if (unpacked > most || values > 2 * (FEW_CELLS + size * MOST_CELLS_A_BYTE))
      throw new Error('its pages unpack to more than so many bytes hold');
    if (header.crc !== undefined && crc32(bytes) !== header.crc >>> 0)
      throw new Error('the checksum of a page is another');
  };
}

/** The values of one column, row group by row group. */
async function* columnChunks(
  file: Buffer,
  metadata: FileMetaData,
  { element }: SchemaTree,
  wholes: 'number' | 'text',
): AsyncGenerator<Piece> {
  const scale = scaleOf(element);
  // Decimals are taken as the whole numbers they are written as: what multiplies them by 0.01 makes 3.3000000000000003 of 330.
  const plain = scale === null ? metadata : { ...metadata, schema: metadata.schema.map(asWritten(element)) };
  let from = 0;
  for (const [g, group] of metadata.row_groups.entries()) {
    const to = from + Number(group.num_rows);
    const parts: { start: number; values: ArrayLike<unknown> }[] = [];
    await parquetRead({
      file,
      metadata: plain,
      columns: [element.name],
      utf8: scale === null,
      rowStart: from,
      rowEnd: to,
      // The patch calls it with each page.
      compressors: { ...compressors, checkPage: pageChecks(file.byteLength) } as unknown as typeof compressors,
      parsers: DAYS,
      geoparquet: false,
      onChunk: ({ columnData, rowStart }) => void parts.push({ start: rowStart, values: columnData }),
    });
    parts.sort((a, b) => a.start - b.start);
    let given = 0;
    for (const { values } of parts) {
      given += values.length;
      if (given > to - from) break;
      yield {
        values:
          scale !== null
            ? Array.from(values, (value) => decimalOf(value, scale))
            : wholes === 'text'
              ? Array.from(values, wholeText)
              : values,
        share: (g + 1) / metadata.row_groups.length,
      };
    }
    if (given !== to - from) throw new Error(`column “${element.name}” has ${given} values for ${to - from} rows`);
    from = to;
  }
}

type Element = SchemaTree['element'];

/** The decimals of a column of decimal numbers; null of any other. */
function scaleOf({ converted_type: converted, logical_type: logical, scale }: Element): number | null {
  if (logical?.type === 'DECIMAL') return logical.scale;
  return converted === 'DECIMAL' ? (scale ?? 0) : null;
}

const asWritten =
  (decimal: Element) =>
  (element: Element): Element => {
    if (element !== decimal) return element;
    const { converted_type: _, logical_type: __, ...plain } = element;
    return plain;
  };

/** The largest power of ten that a double holds exactly. */
const MOST_SCALE = 22;

/** Fewer digits than these are a number whose decimals can be told from itself. */
const MOST_WHOLE = 10n ** 15n;

/** A decimal number from the whole number it is written as: the nearest there is, or its digits where these are many. */
function decimalOf(value: unknown, scale: number): number | string | null {
  if (value === null || value === undefined) return null;
  const whole = value instanceof Uint8Array ? signedOf(value) : BigInt(value as number | bigint);
  if (scale <= MOST_SCALE && whole < MOST_WHOLE && whole > -MOST_WHOLE) return Number(whole) / 10 ** scale;
  const digits = String(whole < 0n ? -whole : whole).padStart(scale + 1, '0');
  return `${whole < 0n ? '-' : ''}${digits.slice(0, digits.length - scale)}${scale > 0 ? '.' : ''}${digits.slice(digits.length - scale)}`;
}

/** A whole number as bytes hold it, the highest first, in two's complement. */
function signedOf(bytes: Uint8Array): bigint {
  if (bytes.length === 0) return 0n;
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
  return BigInt.asIntN(bytes.length * 8, BigInt(`0x${hex}`));
}

const wholeText = (value: unknown) => (typeof value === 'bigint' ? String(value) : value);

type Kind = 'day' | 'number' | 'yesno' | 'other';

function kindOf({ element, children }: SchemaTree): Kind {
  const { type, converted_type: converted, logical_type: logical, repetition_type: repetition } = element;
  if (children.length > 0 || repetition === 'REPEATED') return 'other';
  if (converted === 'DATE' || logical?.type === 'DATE') return 'day';
  if (converted?.startsWith('TIMESTAMP') || logical?.type === 'TIMESTAMP' || type === 'INT96') return 'day';
  if (type === 'BOOLEAN') return 'yesno';
  if (converted === 'DECIMAL' || logical?.type === 'DECIMAL' || logical?.type === 'FLOAT16') return 'number';
  return type === 'INT32' || type === 'INT64' || type === 'FLOAT' || type === 'DOUBLE' ? 'number' : 'other';
}

/** A whole number that a double does not hold exactly. */
class TooLong extends Error {}

type Found = Pick<RawTable, 'columns' | 'leftOut' | 'leftOutCounts' | 'doubts'>;

async function readColumn(
  name: string,
  file: string,
  child: SchemaTree,
  chunks: (wholes: 'number' | 'text') => AsyncGenerator<Piece>,
  wishes: readonly ColumnWish[],
  rows: number,
  told: (done: number) => void,
): Promise<Found> {
  const kind = kindOf(child);
  const wanted = wishes[0]?.type;
  try {
    if (kind === 'day' && (wanted === undefined || wanted === 'date'))
      return {
        columns: [await daysOf(name, chunks('number'), rows, told)],
        leftOut: [],
        leftOutCounts: [],
        doubts: [],
      };
    // Whole numbers beyond what a number holds exactly are names of things.
    for (const wholes of ['number', 'text'] as const) {
      const asText = wholes === 'text';
      const source = async function* (): AsyncGenerator<RowChunk> {
        let line = 1;
        for await (const { values, share } of chunks(wholes)) {
          const cells = new Array<Cell>(values.length);
          for (let i = 0; i < values.length; i++) {
            const value = values[i];
            if (typeof value === 'bigint' && !Number.isSafeInteger(Number(value))) throw new TooLong();
            cells[i] = typeof value === 'string' ? value : cellOf(value, kind);
          }
          yield {
            names: [name],
            columns: [cells],
            get rows() {
              return cells.map((cell) => [cell]);
            },
            firstLine: line,
          };
          line += cells.length;
          told(share);
        }
      };
      const wish: readonly ColumnWish[] =
        wishes.length > 0
          ? wishes
          : kind === 'number'
            ? [{ name, type: asText ? 'text' : 'number' }]
            : kind === 'yesno'
              ? [{ name, type: 'yesno' }]
              : [];
      try {
        return await readRows(file, source, wish);
      } catch (error) {
        if (!(error instanceof TooLong)) throw error;
      }
    }
    throw new Error('numbers that are too long');
  } catch (error) {
    if (error instanceof Problem && error.code !== 'empty-file') throw error;
    // A file without rows still has columns.
    if (error instanceof Problem && rows === 0)
      return {
        columns: [
          { kind: 'text', name, members: [''], codes: new Uint8Array(0), blank: 0, convention: 'text as it stands' },
        ],
        leftOut: [],
        leftOutCounts: [],
        doubts: [],
      };
    throw damaged(file, error);
  }
}

async function daysOf(
  name: string,
  chunks: AsyncGenerator<Piece>,
  rows: number,
  told: (done: number) => void,
): Promise<Column> {
  const days = new Int32Array(rows);
  let at = 0;
  let blank = 0;
  for await (const { values, share } of chunks) {
    for (let i = 0; i < values.length; i++) {
      const value = values[i];
      const day = value instanceof Date ? Math.floor(value.getTime() / MS_A_DAY) : Number(value ?? NaN);
      if (Number.isNaN(day) || Math.abs(day) > 10_000_000) blank++;
      days[at++] = Number.isNaN(day) || Math.abs(day) > 10_000_000 ? NO_DAY : day;
    }
    told(share);
  }
  return { kind: 'date', name, days, grain: 'day', blank, read: 'yyyy-MM-dd', convention: 'dates of the file' };
}

/** A value as a cell: text, number, `true` and `false`; lists and structures as JSON text, bytes as hexadecimal digits. */
function cellOf(value: unknown, kind: Kind): Cell {
  switch (typeof value) {
    case 'number':
      return kind === 'day' ? String(value) : Number.isFinite(value) ? value : '';
    case 'string':
      return value;
    case 'bigint':
      return Number(value);
    case 'boolean':
      return value ? 'true' : 'false';
    case 'object':
      if (value === null) return '';
      if (value instanceof Date) return value.toISOString().slice(0, 10);
      if (value instanceof Uint8Array)
        return Array.from(value.subarray(0, 64), (byte) => byte.toString(16).padStart(2, '0')).join('');
      return JSON.stringify(value, (_, inner: unknown) => (typeof inner === 'bigint' ? Number(inner) : inner));
    default:
      return '';
  }
}
