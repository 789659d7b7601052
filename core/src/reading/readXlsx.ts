import { isoDay } from '../calendar';
import { tidy } from '../number';
import { Problem } from '../problem';
import type { ColumnWish, RawTable } from '../table';
import type { Cell } from './cell';
import type { SourceFile } from './file';
import { rowsUnderHeader, type GridChunk } from './grid';
import { serialDay } from './readDate';
import { noSuchPart } from './readJson';
import { readRows, type OnRows } from './readRows';
import { openWorkbook, unescaped, unpack, walkPieces, type Sheet, type Workbook } from './workbook';

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
  return readRows(
    file.name,
    (aside) => rowsUnderHeader(sheetRows(workbook, xml, file.name), aside, header),
    wishes,
    onRows,
  );
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

function sheetXml({ bytes }: Workbook, { path, name }: Sheet, file: string, limit?: number): Uint8Array {
  const found = unpack(bytes, file, (part) => part.toLowerCase() === path.toLowerCase(), limit);
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

/** Columns beyond this are not looked at. */
const MOST_CELLS = 16_384;

/** UncutCells that are merged downwards over several rows; they are told behind the rows. */
function mergedIn(xml: Uint8Array): Merged[] {
  const TAIL = 1 << 20;
  const tail = new TextDecoder().decode(xml.subarray(Math.max(0, xml.length - TAIL)));
  const merged: Merged[] = [];
  for (const [, a, b, c, d] of tail.matchAll(
    /<(?:\w+:)?mergeCell ref="([A-Z]{1,3})(\d{1,7}):([A-Z]{1,3})(\d{1,7})"/g,
  )) {
    if (a === c && Number(b) < Number(d)) merged.push({ column: columnNamed(a!), from: Number(b), to: Number(d) });
  }
  return merged;
}

function columnNamed(letters: string): number {
  let n = 0;
  for (let i = 0; i < letters.length; i++) n = n * 26 + letters.charCodeAt(i) - 64;
  return n - 1;
}

/** The rows of a sheet, with their lines: rows without cells are not written. */
async function* sheetRows(workbook: Workbook, xml: Uint8Array, file: string): AsyncGenerator<GridChunk> {
  const { sharedTexts, meanings, since1904 } = workbook;
  const merged = mergedIn(xml);
  const held = new Map<number, Cell>();
  let rows: Cell[][] = [];
  let lines: number[] = [];
  let line = 0;
  let row: Cell[] = [];
  let column = 0;
  let type = '';
  let style = -1;
  let value = '';
  let taking = false;
  let inRow = false;

  const cell = (): Cell => {
    switch (type) {
      case 's':
        return sharedTexts[Number(value)] ?? '';
      case 'inlineStr':
      case 'str':
        return unescaped(value);
      case 'b':
        return value === '1' ? 'true' : 'false';
      case 'e':
        return value;
      case 'd':
        return value.slice(0, 10);
    }
    const number = Number(value);
    if (value === '' || Number.isNaN(number)) return value;
    const meaning = meanings[style] ?? 'number';
    if (meaning === 'percent') return `${tidy(number * 100)}%`;
    // A time of day without a day is a share of one.
    if (meaning === 'number' || number < 1 || number > 2_900_000) return number;
    const day = isoDay(serialDay(number, since1904));
    return meaning === 'month' ? day.slice(0, 7) : day;
  };
  const walker = {
    open(name: string, at: Readonly<Record<string, string>>) {
      if (name === 'c') {
        const letters = /^[A-Z]{1,3}/.exec(at['r'] ?? '');
        column = letters ? columnNamed(letters[0]) : row.length;
        type = at['t'] ?? 'n';
        style = at['s'] === undefined ? -1 : Number(at['s']);
        value = '';
      } else if (name === 'v' || name === 't') taking = inRow;
      else if (name === 'rPh') type = 'aloud';
      else if (name === 'row') {
        const said = Number(at['r']);
        line = said > line && said < 2_000_000 ? said : line + 1;
        row = [];
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
        if (!inRow || value === '' || column >= MOST_CELLS) return;
        while (row.length < column) row.push('');
        row[column] = cell();
      } else if (name === 'row') {
        inRow = false;
        fillDown();
        rows.push(row);
        lines.push(line);
      }
    },
  };
  const fillDown = () => {
    for (const { column: c, from, to } of merged) {
      if (line === from) held.set(c, row[c] ?? '');
      else if (line > from && line <= to && (row[c] ?? '') === '') {
        while (row.length < c) row.push('');
        row[c] = held.get(c) ?? '';
      }
    }
  };
  const AT_ONCE = 2000;
  let first = true;
  for (const share of walkPieces(xml, file, walker)) {
    // The first chunk shows the header, so it should have more than a few rows.
    if (rows.length < (first ? AT_ONCE : 1) && share < 1) continue;
    if (rows.length === 0) continue;
    first = false;
    yield await Promise.resolve({ rows, lines, firstLine: lines[0]!, share });
    rows = [];
    lines = [];
  }
  if (rows.length > 0) yield { rows, lines, firstLine: lines[0]!, share: 1 };
}
