import { Problem } from '../problem';
import type { RawTable } from '../table';
import { encodingOf, firstBytes } from './decode';
import type { SourceFile } from './file';
import { jsonSheets, readJson } from './readJson';
import { readCsvFile } from './readCsv';
import { readParquet } from './readParquet';
import type { OnRows } from './readRows';
import { readXlsx, xlsxSheets } from './readXlsx';
import { shaped, type FileShape } from './shape';

export type Format = 'text' | 'json' | 'workbook' | 'parquet';

/** What a report says of where a table comes from and how it is made of it. */
export interface FileWish extends FileShape {
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
  { bytes: [0x37, 0x7a, 0xbc, 0xaf, 0x27, 0x1c], what: 'a 7z archive', remedy: 'unpack it first' },
  { bytes: [0x52, 0x61, 0x72, 0x21, 0x1a, 0x07], what: 'a RAR archive', remedy: 'unpack it first' },
  { bytes: [0x42, 0x5a, 0x68], what: 'a bzip2 file', remedy: 'unpack it first' },
  { bytes: [0xfd, 0x37, 0x7a, 0x58, 0x5a, 0x00], what: 'an xz file', remedy: 'unpack it first' },
  { bytes: [0x28, 0xb5, 0x2f, 0xfd], what: 'a zstd file', remedy: 'unpack it first' },
  { bytes: [0x4d, 0x5a], what: 'a program (.exe)', remedy: 'choose a file with rows' },
  { bytes: [0x7f, 0x45, 0x4c, 0x46], what: 'a program', remedy: 'choose a file with rows' },
  { bytes: [0x50, 0x4b, 0x05, 0x06], what: 'a zip file with nothing in it', remedy: 'ask for it once more' },
  { bytes: [0x50, 0x4b, 0x07, 0x08], what: 'a part of a zip file', remedy: 'join its parts and unpack it first' },
  { bytes: [0xff, 0xfe, 0x00, 0x00], what: 'text in UTF-32', remedy: 'save it as UTF-8' },
  { bytes: [0x00, 0x00, 0xfe, 0xff], what: 'text in UTF-32', remedy: 'save it as UTF-8' },
];

/** What kind of file it is, by its first bytes; the name only settles doubts. Throws a `Problem` for kinds that hold no rows we can read. */
async function formatOf(file: SourceFile): Promise<Format> {
  const first = await firstBytes(file, 4096);
  const begins = (bytes: readonly number[]) => bytes.every((byte, i) => first[i] === byte);
  if (begins([0x50, 0x4b, 0x03, 0x04])) return 'workbook';
  if (begins([0x50, 0x41, 0x52, 0x31])) return 'parquet';
  for (const { bytes, what, remedy } of SIGNATURES)
    if (begins(bytes)) throw new Problem('other-format', `this is ${what}`, { in: file.name }, remedy);
  const encoding = encodingOf(first);
  refuseBytes(first, encoding, file.name);
  const text = new TextDecoder(encoding).decode(first).trimStart();
  const markup = /^(?:<!--[^]*?-->\s*)?<(?:!doctype\s+html|html|head|body|table)\b/i.test(text)
    ? 'a web page (HTML)'
    : /^<\?xml\b|^<[a-z][\w:-]*(?:\s[^>]*)?>/i.test(text)
      ? 'an XML file'
      : null;
  if (markup)
    throw new Problem(
      'other-format',
      `this is ${markup}`,
      { in: file.name },
      'export the rows as CSV or .xlsx instead',
    );
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

/** More than one byte in so many that no text has, and it is none. */
const FEW_ODD = 12;

/** Throws a `Problem` for bytes that are no text. */
function refuseBytes(first: Uint8Array, encoding: string, name: string): void {
  if (encoding.startsWith('utf-16') || first.length === 0) return;
  const other = (what: string, remedy: string) => new Problem('other-format', what, { in: name }, remedy);
  if (first.every((byte) => byte === 0))
    throw other('it holds nothing but empty bytes', 'it was not copied whole: ask for it once more');
  // Tabulators, line ends and the separators of ASCII may stand in text.
  const odd = first.reduce(
    (sum, byte) => sum + (byte < 9 || (byte > 13 && byte < 28) || byte === 127 || byte === 11 ? 1 : 0),
    0,
  );
  if (odd * FEW_ODD > first.length)
    throw other('this is no text, and of no kind that is known', 'export the rows as CSV, .xlsx or Parquet');
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
    if (error instanceof RangeError && /call stack/.test(error.message))
      throw new Problem(
        'too-deep',
        'its values lie deeper in one another than they are read',
        { in: file.name },
        'write the rows as an array of plain objects',
      );
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
