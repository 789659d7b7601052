import { Problem } from '../problem';
import type { RawTable } from '../table';
import { encodingOf, firstBytes } from './decode';
import type { SourceFile } from './file';
import { jsonSheets, readJson } from './readJson';
import { readCsvFile } from './readCsv';
import { readParquet } from './readParquet';
import type { OnRows } from './readRows';
import { readXlsx, xlsxSheets } from './readXlsx';
import { shaped, type Shape } from './shape';

export type Format = 'text' | 'json' | 'workbook' | 'parquet';

/** What a report says of where a table comes from and how it is made of it. */
export interface FileWish extends Shape {
  readonly sheet?: string;
  readonly header?: number;
  readonly delimiter?: string;
}

const SIGNATURES: readonly { readonly bytes: readonly number[]; readonly what: string; readonly remedy: string }[] = [
  {
    bytes: [0xd0, 0xcf, 0x11, 0xe0],
    what: 'a workbook of the old binary kind (.xls)',
    remedy: 'save it as .xlsx or CSV',
  },
  { bytes: [0x25, 0x50, 0x44, 0x46], what: 'a PDF', remedy: 'export the rows as CSV or .xlsx instead' },
  { bytes: [0x1f, 0x8b], what: 'a gzip file', remedy: 'unpack it first' },
  { bytes: [0x89, 0x50, 0x4e, 0x47], what: 'a picture', remedy: 'choose a file with rows' },
  { bytes: [0xff, 0xd8, 0xff], what: 'a picture', remedy: 'choose a file with rows' },
  { bytes: [0x41, 0x52, 0x52, 0x4f, 0x57, 0x31], what: 'an Arrow file', remedy: 'write it as Parquet or CSV' },
  { bytes: [0x53, 0x51, 0x4c, 0x69, 0x74, 0x65], what: 'a database file', remedy: 'export the table as CSV' },
];

/** What kind of file it is, by its first bytes; the name only settles doubts. Throws a `Problem` for kinds that hold no rows we can read. */
export async function formatOf(file: SourceFile): Promise<Format> {
  const first = await firstBytes(file, 4096);
  const begins = (bytes: readonly number[]) => bytes.every((byte, i) => first[i] === byte);
  if (begins([0x50, 0x4b, 0x03, 0x04])) return 'workbook';
  if (begins([0x50, 0x41, 0x52, 0x31])) return 'parquet';
  for (const { bytes, what, remedy } of SIGNATURES)
    if (begins(bytes)) throw new Problem('other-format', `this is ${what}`, { in: file.name }, remedy);
  const text = new TextDecoder(encodingOf(first)).decode(first).trimStart();
  const named = /\.(?:json|ndjson|jsonl|geojson)$/i.test(file.name);
  if (/^\{\s*(?:"|\}|$)/.test(text) || /^\[\s*(?:[[{"\]\d-]|null|true|false|$)/.test(text))
    return named || /^[[{]\s*[[{"]/.test(text) ? 'json' : 'text';
  if (named && text !== '' && !/^[[{]/.test(text))
    throw new Problem(
      'broken-json',
      'the JSON is broken: it begins with neither “[” nor “{”',
      { in: file.name },
      'save it again from where it came, or rename it if it is delimited text',
    );
  return 'text';
}

/** The tables a file holds; one without a name where there is only one. */
export async function sheetsOf(file: SourceFile): Promise<string[]> {
  return guarded(file, async () => {
    switch (await formatOf(file)) {
      case 'workbook':
        return xlsxSheets(file);
      case 'json':
        return jsonSheets(file);
      default:
        return [''];
    }
  });
}

/** Reads one table of a file of any kind into typed columns. Throws a `Problem`, never anything else. */
export async function readFile(file: SourceFile, wish: FileWish = {}, onRows?: OnRows): Promise<RawTable> {
  return guarded(file, async () => {
    const { columns } = wish;
    const raw = await read(await formatOf(file), file, wish, onRows);
    return shaped(raw, { ...wish, ...(columns ? { columns } : {}) }, file.name);
  });
}

function read(format: Format, file: SourceFile, wish: FileWish, onRows?: OnRows): Promise<RawTable> {
  const sheet = wish.sheet === undefined ? {} : { sheet: wish.sheet };
  const header = wish.header === undefined ? {} : { header: wish.header };
  const columns = wish.columns ?? [];
  switch (format) {
    case 'workbook':
      return readXlsx(file, { ...sheet, ...header }, columns, onRows);
    case 'json':
      return readJson(file, wish.sheet === '' ? undefined : wish.sheet, columns, onRows);
    case 'parquet':
      return readParquet(file, columns, onRows);
    case 'text':
      return readCsvFile(file, columns, onRows, {
        ...header,
        ...(wish.delimiter === undefined ? {} : { delimiter: wish.delimiter }),
      });
  }
}

/** What goes wrong in taking a file apart is the file's fault, and told as such. */
async function guarded<T>(file: SourceFile, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof Problem) throw error.place ? error : error.at({ in: file.name });
    if (error instanceof RangeError || error instanceof TypeError || error instanceof SyntaxError)
      throw new Problem(
        'unreadable',
        `it could not be read (${error.message.slice(0, 120)})`,
        { in: file.name },
        'save it again from where it came; if that does not help, as CSV',
      );
    throw error;
  }
}
