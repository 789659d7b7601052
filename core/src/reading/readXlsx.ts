import { Problem } from '../problem';
import type { ColumnWish, RawTable } from '../table';
import type { Cell } from './cell';
import type { SourceFile } from './file';
import { rowsUnderHeader, type GridChunk } from './grid';
import { noSuchPart } from './readJson';
import { readRows, type OnRows } from './readRows';
import { cellName, cellWritten, lineBehind, Lost, MOST_CELLS, plainRows, type SheetRow } from './sheetRows';
import { MOST_UNPACKED, openWorkbook, unpack, walkPieces, type Sheet, type Workbook } from './workbook';

/** A packed workbook larger than this is not opened. */
const MOST_PACKED = 500_000_000;

/** What a report says of a sheet beyond its columns. */
export interface SheetWish {
  readonly sheet?: string;
  readonly header?: number;
  /** Bytes it may unpack to. */
  readonly limit?: number;
}

/** Names of the sheets that have rows; hidden ones are left alone. */
export async function xlsxSheets(file: SourceFile, limit?: number): Promise<string[]> {
  const workbook = await workbookOf(file, limit);
  const seen = workbook.sheets.filter(({ hidden }) => !hidden);
  const filled = seen.filter((sheet) => hasRows(workbook, sheet, file.name, limit));
  return (filled.length > 0 ? filled : seen).map(({ name }) => name);
}

/** Reads one sheet of a workbook into typed columns; the first that has rows where none is named. */
export async function readXlsx(
  file: SourceFile,
  { sheet: wanted, header, limit }: SheetWish,
  wishes: readonly ColumnWish[] = [],
  onRows?: OnRows,
): Promise<RawTable> {
  const workbook = await workbookOf(file, limit);
  const sheet =
    wanted === undefined
      ? (workbook.sheets.find((one) => !one.hidden && hasRows(workbook, one, file.name, limit)) ?? workbook.sheets[0])
      : workbook.sheets.find(({ name }) => name === wanted);
  if (!sheet)
    throw noSuchPart(
      file.name,
      wanted ?? 'sheet',
      workbook.sheets.map(({ name }) => name),
    );
  const xml = sheetXml(workbook, sheet, file.name, limit);
  const lost = new Lost();
  const raw = await readRows(
    file.name,
    (aside) => rowsUnderHeader(sheetRows(workbook, xml, file.name, lost), aside, header),
    wishes,
    onRows,
  );
  return lost.told.length > 0 ? { ...raw, told: lost.told } : raw;
}

async function workbookOf(file: SourceFile, limit?: number): Promise<Workbook> {
  if (file.size > MOST_PACKED)
    throw new Problem(
      'too-large',
      'the workbook is larger than 500 MB',
      { in: file.name },
      'save the sheet as CSV, which is read piece by piece',
    );
  const workbook = openWorkbook(await file.slice(0, file.size), file.name, limit);
  if (workbook.sheets.length === 0)
    throw new Problem(
      'empty-file',
      'there are no sheets in it',
      { in: file.name },
      'choose a workbook with rows in it',
    );
  return workbook;
}

/** What sheets of a workbook unpack to, by their parts: several may be one part. */
const unpackedParts = new WeakMap<Workbook, Map<string, Uint8Array>>();

function sheetXml(workbook: Workbook, sheet: Sheet, file: string, limit = MOST_UNPACKED): Uint8Array {
  const parts = unpackedParts.get(workbook) ?? new Map<string, Uint8Array>();
  unpackedParts.set(workbook, parts);
  const path = sheet.path.toLowerCase();
  let xml = parts.get(path);
  if (!xml) {
    const before = [...parts.values()].reduce((sum, { length }) => sum + length, 0);
    parts.set(path, (xml = unpackSheet(workbook, sheet, file, limit, before)));
  }
  return xml;
}

function unpackSheet(
  { bytes }: Workbook,
  { path, name }: Sheet,
  file: string,
  limit: number,
  before: number,
): Uint8Array {
  const found = unpack(bytes, file, (part) => part.toLowerCase() === path.toLowerCase(), limit, before);
  const [xml] = found.values();
  if (!xml)
    throw new Problem(
      'broken-workbook',
      `sheet “${name}” is missing from the workbook`,
      { in: file },
      'open it in the program it came from and save it again',
    );
  return xml;
}

function hasRows(workbook: Workbook, sheet: Sheet, file: string, limit?: number): boolean {
  const xml = sheetXml(workbook, sheet, file, limit);
  const HEAD = 1 << 18;
  return /<(?:\w+:)?c[ >]/.test(new TextDecoder().decode(xml.subarray(0, HEAD)));
}

/** Rows of merged cells, by the column they stand in: the first cell's value is meant for all of them. */
interface Merged {
  readonly column: number;
  readonly from: number;
  readonly to: number;
}

/** Cells that are merged downwards over several rows, by the first; they are told behind the rows. */
function mergedIn(xml: Uint8Array): Map<number, Merged[]> {
  const tail = new TextDecoder().decode(xml.subarray(behindRows(xml)));
  const merged = new Map<number, Merged[]>();
  for (const [, a, b, d] of tail.matchAll(
    /<(?:\w+:)?mergeCell\s[^>]*?\bref\s*=\s*["']([A-Z]{1,3})(\d{1,7}):[A-Z]{1,3}(\d{1,7})["']/g,
  )) {
    const [from, to] = [Number(b), Number(d)];
    if (from < to) merged.set(from, [...(merged.get(from) ?? []), { column: columnNamed(a!), from, to }]);
  }
  return merged;
}

/** Where the rows of a sheet end; 0 where that is not written. */
function behindRows(xml: Uint8Array): number {
  const NAME = new TextEncoder().encode('sheetData>');
  for (let at = xml.lastIndexOf(62); at > NAME.length; at = xml.lastIndexOf(62, at - 1)) {
    const from = at - NAME.length + 1;
    if (NAME.every((byte, i) => xml[from + i] === byte)) return at + 1;
  }
  return 0;
}

function columnNamed(letters: string): number {
  let n = 0;
  for (let i = 0; i < letters.length; i++) n = n * 26 + letters.charCodeAt(i) - 64;
  return n - 1;
}

const AT_ONCE = 2000;
/** Cells that rows may have, beside one for each byte that they are written in: a cell that holds something takes more. */
const FEW_CELLS = 20_000_000;

/** The rows of a sheet, with their lines: rows without cells are not written. */
async function* sheetRows(workbook: Workbook, xml: Uint8Array, file: string, lost: Lost): AsyncGenerator<GridChunk> {
  lost.clear();
  const merged = mergedIn(xml);
  let room = FEW_CELLS + xml.length;
  let open: readonly Merged[] = [];
  const held = new Map<number, Cell>();
  let rows: Cell[][] = [];
  let lines: number[] = [];
  for (const { line, cells, share } of allRows(workbook, xml, file, lost)) {
    const begun = merged.get(line);
    if (begun || open.length > 0) open = [...open.filter(({ to }) => to >= line), ...(begun ?? [])];
    for (const { column, from } of open) {
      if (line === from) held.set(column, cells[column] ?? '');
      else if ((cells[column] ?? '') === '') {
        while (cells.length < column) cells.push('');
        cells[column] = held.get(column) ?? '';
      }
    }
    room -= cells.length;
    if (room < 0)
      throw new Problem(
        'too-large',
        'nearly all of its cells are empty, and they are too many',
        { in: file },
        'move its columns together, or save the sheet as CSV',
      );
    rows.push(cells);
    lines.push(line);
    if (rows.length < AT_ONCE) continue;
    yield await Promise.resolve({ rows, lines, firstLine: lines[0]!, share });
    rows = [];
    lines = [];
  }
  if (rows.length > 0) yield { rows, lines, firstLine: lines[0]!, share: 1 };
}

/** What is written plainly is read plainly; behind the first thing that is not, an XML parser reads the rest. */
function* allRows(
  workbook: Workbook,
  xml: Uint8Array,
  file: string,
  lost: Lost,
): Generator<SheetRow & { readonly share: number }> {
  let given = 0;
  let last = 0;
  const plain = plainRows(xml, workbook, lost);
  for (;;) {
    const { value, done } = plain.next();
    if (!done) {
      given++;
      last = value.line;
      yield value;
    } else if (value) return;
    else break;
  }
  lost.behind = last;
  for (const row of parsedRows(workbook, xml, file, lost)) if (given-- <= 0) yield row;
}

/** All rows, by a parser of XML. */
function* parsedRows(
  workbook: Workbook,
  xml: Uint8Array,
  file: string,
  lost: Lost,
): Generator<SheetRow & { readonly share: number }> {
  let done: SheetRow[] = [];
  let line = 0;
  let cells: Cell[] = [];
  let column = 0;
  let type = '';
  let style = -1;
  let value = '';
  let taking = false;
  let inRow = false;
  let isFormula = false;
  let isStored = false;
  const walker = {
    open(name: string, at: Readonly<Record<string, string>>) {
      if (name === 'c') {
        const letters = /^[A-Z]{1,3}/.exec(at['r'] ?? '');
        column = letters ? columnNamed(letters[0]) : cells.length;
        type = at['t'] ?? 'n';
        style = at['s'] === undefined ? -1 : Number(at['s']);
        value = '';
        isFormula = isStored = false;
      } else if (name === 'v' || name === 't') {
        taking = inRow;
        isStored = true;
      } else if (name === 'f') isFormula = true;
      else if (name === 'rPh') type = 'aloud';
      else if (name === 'row') {
        line = lineBehind(line, Number(at['r']));
        cells = [];
        inRow = true;
      }
    },
    text(text: string) {
      if (taking && type !== 'aloud') value += text;
    },
    close(name: string) {
      if (name === 'v' || name === 't') taking = false;
      else if (name === 'rPh') type = 'inlineStr';
      else if (name === 'c') {
        if (inRow && isFormula && !isStored) lost.add('no result', line, cellName(column, line));
        if (!inRow || value === '' || column >= MOST_CELLS) return;
        while (cells.length < column) cells.push('');
        cells[column] =
          type === 's'
            ? lost.sharedText(workbook, Number(value), line, column)
            : cellWritten(workbook, type, style, value);
      } else if (name === 'row') {
        inRow = false;
        done.push({ line, cells });
      }
    },
  };
  for (const share of walkPieces(xml, file, walker)) {
    for (const row of done) yield { ...row, share };
    done = [];
  }
  for (const row of done) yield { ...row, share: 1 };
}
