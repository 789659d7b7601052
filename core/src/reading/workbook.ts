import { SaxesParser } from 'saxes';
import { Problem, thousands } from '../problem';
import { readZip } from '../zip';

/** A workbook may not unpack to more than this many bytes. */
export const MOST_UNPACKED = 1_000_000_000;

/** How the number in a cell is meant, by its format. */
export type Meaning = 'number' | 'date' | 'month' | 'percent';

export interface Sheet {
  readonly name: string;
  readonly path: string;
  readonly hidden: boolean;
}

/** What a workbook (ECMA-376, SpreadsheetML) holds beside the rows of its sheets. */
export interface Workbook {
  readonly bytes: Uint8Array;
  readonly sheets: readonly Sheet[];
  readonly sharedTexts: readonly string[];
  /** By the place of a cell's style. */
  readonly meanings: readonly Meaning[];
  /** Days are counted from 1904. */
  readonly since1904: boolean;
}

/** Unpacks some of the parts of a workbook. Throws a `Problem` where that is too much, or it is no zip file. */
export function unpack(
  bytes: Uint8Array,
  file: string,
  wanted: (name: string) => boolean,
  limit = MOST_UNPACKED,
  before = 0,
): ReadonlyMap<string, Uint8Array> {
  let unpacked = before;
  try {
    return readZip(bytes, ({ name, size }) => {
      if (!wanted(name)) return false;
      unpacked += size;
      if (unpacked > limit) throw tooLarge(file, limit);
      return true;
    });
  } catch (error) {
    if (!(error instanceof Problem) || error.code !== 'broken-zip') throw error;
    throw new Problem(
      'broken-workbook',
      `the workbook is damaged: ${error.sentence}`,
      { in: file },
      'open it in the program it came from and save it again',
    );
  }
}

function tooLarge(file: string, limit: number): Problem {
  return new Problem(
    'unpacks-too-large',
    `it unpacks to more than ${thousands(Math.round(limit / 1e6))} MB`,
    { in: file },
    'save the sheet as CSV, which is read piece by piece',
  );
}

/** Reads the parts of a workbook that say what its sheets are. Throws a `Problem` for anything else. */
export function openWorkbook(bytes: Uint8Array, file: string, limit = MOST_UNPACKED): Workbook {
  const parts = unpack(
    bytes,
    file,
    (name) => /^xl\/(?:workbook\.xml|_rels\/workbook\.xml\.rels|styles\.xml|sharedStrings\.xml)$/i.test(name),
    limit,
  );
  const part = (name: string) => [...parts].find(([path]) => path.toLowerCase() === name.toLowerCase())?.[1];
  const workbook = part('xl/workbook.xml');
  if (!workbook)
    throw new Problem(
      'not-a-workbook',
      'this is a zip file, but no workbook',
      { in: file },
      'unpack it and choose the file in it, or save the workbook as .xlsx',
    );
  const paths = relationsIn(part('xl/_rels/workbook.xml.rels'), file);
  const sheets: Sheet[] = [];
  let since1904 = false;
  walk(workbook, file, {
    open(name, at) {
      if (name === 'workbookPr') since1904 = at['date1904'] === '1' || at['date1904'] === 'true';
      if (name !== 'sheet') return;
      const path = paths.get(
        at['r:id'] ?? at['id'] ?? Object.entries(at).find(([key]) => key.endsWith(':id'))?.[1] ?? '',
      );
      if (path) sheets.push({ name: at['name'] ?? '', path, hidden: (at['state'] ?? 'visible') !== 'visible' });
    },
  });
  return {
    bytes,
    sheets,
    sharedTexts: textsIn(part('xl/sharedStrings.xml'), file),
    meanings: meaningsIn(part('xl/styles.xml'), file),
    since1904,
  };
}

/** What is told of an XML document; names are without their prefix. */
interface Walker {
  open?(name: string, attributes: Readonly<Record<string, string>>): void;
  text?(text: string): void;
  close?(name: string): void;
}

const PIECE = 1 << 16;

/** Walks through an XML document piece by piece; after each piece what it gave can be taken. */
export function* walkPieces(bytes: Uint8Array, file: string, walker: Walker): Generator<number> {
  const parser = new SaxesParser({ xmlns: false, position: false });
  const bare = (name: string) => (name.includes(':') ? name.slice(name.indexOf(':') + 1) : name);
  if (walker.open)
    parser.on('opentag', (tag) => walker.open!(bare(tag.name), tag.attributes as Record<string, string>));
  if (walker.text) {
    parser.on('text', (text) => walker.text!(text));
    parser.on('cdata', (text) => walker.text!(text));
  }
  if (walker.close) parser.on('closetag', (tag) => walker.close!(bare(tag.name)));
  parser.on('error', (error) => {
    throw new Problem(
      'broken-workbook',
      `the workbook is damaged: ${error.message.replace(/^undefined:|^\d+:\d+: /g, '').slice(0, 120)}`,
      { in: file },
      'open it in the program it came from and save it again',
    );
  });
  const decoder = new TextDecoder();
  for (let at = 0; at < bytes.length; at += PIECE) {
    parser.write(decoder.decode(bytes.subarray(at, at + PIECE), { stream: true }));
    yield Math.min(1, (at + PIECE) / bytes.length);
  }
  parser.write(decoder.decode());
  parser.close();
}

function walk(bytes: Uint8Array | undefined, file: string, walker: Walker): void {
  if (bytes) for (const _ of walkPieces(bytes, file, walker));
}

function relationsIn(bytes: Uint8Array | undefined, file: string): Map<string, string> {
  const paths = new Map<string, string>();
  walk(bytes, file, {
    open(name, at) {
      if (name !== 'Relationship') return;
      const target = (at['Target'] ?? '').replace(/^\//, '');
      paths.set(at['Id'] ?? '', target.startsWith('xl/') ? target : `xl/${target.replace(/^\.\//, '')}`);
    },
  });
  return paths;
}

/** Texts that cells share. What is read aloud beside a text (`rPh`) is no part of it. */
function textsIn(bytes: Uint8Array | undefined, file: string): string[] {
  const texts: string[] = [];
  let text = '';
  let inText = false;
  let aloud = false;
  walk(bytes, file, {
    open(name) {
      if (name === 'si') text = '';
      else if (name === 'rPh') aloud = true;
      else if (name === 't') inText = !aloud;
    },
    text(piece) {
      if (inText) text += piece;
    },
    close(name) {
      if (name === 't') inText = false;
      else if (name === 'rPh') aloud = false;
      else if (name === 'si') texts.push(trimmedIfLong(unescaped(text)));
    },
  });
  return texts;
}

/** Blanks around a text say nothing, and many cells may share it: long ones are not looked through for each. */
const trimmedIfLong = (text: string) => (text.length > 1000 ? text.trim() : text);

/** Characters that XML cannot hold are written `_x000D_` (ECMA-376, 22.9.2.19). */
export function unescaped(text: string): string {
  return text.includes('_x')
    ? text.replace(/_x([0-9A-Fa-f]{4})_/g, (_, code: string) => String.fromCharCode(parseInt(code, 16)))
    : text;
}

/** Built-in formats (ECMA-376, 18.8.30) that show a day. */
const DAYS_BUILT_IN = new Set([14, 15, 16, 17, 22, 27, 28, 29, 30, 31, 34, 35, 36, 50, 51, 52, 53, 54, 55, 56, 57, 58]);

function meaningsIn(bytes: Uint8Array | undefined, file: string): Meaning[] {
  const codes = new Map<number, string>();
  const meanings: Meaning[] = [];
  let inCells = false;
  walk(bytes, file, {
    open(name, at) {
      if (name === 'numFmt') codes.set(Number(at['numFmtId']), at['formatCode'] ?? '');
      else if (name === 'cellXfs') inCells = true;
      else if (name === 'xf' && inCells) {
        const id = Number(at['numFmtId'] ?? 0);
        meanings.push(
          codes.has(id)
            ? meaningOf(codes.get(id)!)
            : DAYS_BUILT_IN.has(id)
              ? 'date'
              : id === 9 || id === 10
                ? 'percent'
                : 'number',
        );
      }
    },
    close(name) {
      if (name === 'cellXfs') inCells = false;
    },
  });
  return meanings;
}

/** What a number format shows: a day when it has years, or months beside days; a month when it has no days; a percentage when it has a percent sign. */
function meaningOf(format: string): Meaning {
  const first = format
    .replace(/"[^"]*"|\\.|_.|\*./g, '')
    .replace(/\[[^\]]*\]/g, '')
    .split(';')[0]!
    .toLowerCase();
  if (first.includes('%')) return 'percent';
  if (/general|[#0?]/.test(first)) return 'number';
  if (!/y|d|mmm/.test(first)) return 'number';
  return /y/.test(first) && /m/.test(first) && !/d|h|s/.test(first) ? 'month' : 'date';
}
