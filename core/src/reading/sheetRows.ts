import { isoDay } from '../calendar';
import { tidy } from '../number';
import { columnLetters, LEFT_OUT_KEPT, type Told } from '../table';
import type { Cell } from './cell';
import { serialDay } from './readDate';
import { unescaped, type Workbook } from './workbook';

/** Columns beyond this are not looked at. */
export const MOST_CELLS = 16_384;

/** What a cell of a sheet holds, by the type and style that are written with it, where it is no plain number. */
export function cellWritten(workbook: Workbook, type: string, style: number, value: string): Cell {
  switch (type) {
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
  return value === '' || Number.isNaN(number) ? value : numberWritten(workbook, style, number);
}

/** A number as its style means it: a day, a percentage, or just a number. */
function numberWritten(
  { meanings, since1904 }: Pick<Workbook, 'meanings' | 'since1904'>,
  style: number,
  number: number,
): Cell {
  const meaning = meanings[style] ?? 'number';
  if (meaning === 'percent') return `${tidy(number * 100)}%`;
  // A time of day without a day is a share of one.
  if (meaning === 'number' || number < 1 || number > 2_900_000) return number;
  const day = isoDay(serialDay(number, since1904));
  return meaning === 'month' ? day.slice(0, 7) : day;
}

/** What cells of a sheet should hold and do not, told with the line it stands on. */
export class Lost {
  readonly told: Told[] = [];
  /** What stands up to this line is told already. */
  behind = 0;

  add(what: Told['what'], line: number, raw: string): void {
    if (line <= this.behind) return;
    const known = this.told.find((one) => one.what === what);
    if (!known) this.told.push({ what, count: 1, first: [{ line, raw }] });
    else {
      known.count++;
      if (known.first.length < LEFT_OUT_KEPT) known.first.push({ line, raw });
    }
  }

  clear(): void {
    this.told.length = 0;
    this.behind = 0;
  }

  /** A cell whose text is one of those that the workbook holds once for all cells; empty where it does not have it. */
  sharedText({ sharedTexts }: Pick<Workbook, 'sharedTexts'>, place: number, line: number, column: number): string {
    const text = sharedTexts[place];
    if (text === undefined) this.add('no text', line, cellName(column, line));
    return text ?? '';
  }
}

/** What a sheet calls a cell: `C7`. */
export const cellName = (column: number, line: number) => `${columnLetters(column)}${line}`;

/** The rows of a sheet one after the other, with their lines. */
export interface SheetRow {
  readonly line: number;
  readonly cells: Cell[];
}

/** The line behind one, as a row says it: lines do not fall. */
export const lineBehind = (line: number, said: number) => (said > line && said < 2_000_000 ? said : line + 1);

const [LT, GT, SLASH, SPACE, QUOTE, EQUALS, AMPERSAND] = [60, 62, 47, 32, 34, 61, 38];
const decoder = new TextDecoder('utf-8', { ignoreBOM: true });
const ENTITIES: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };

/** Something is not written as programs mostly write it. */
class Strange extends Error {}

/**
 * Rows of a sheet's XML as nearly every program writes it: no prefixes, no comments, nothing in cells but values, formulas and
 * plain texts. An XML parser reads everything, ten times slower; see `readXlsx`.
 * @returns whether it was written so up to its end; else what follows the rows that were given is for the parser
 */
export function* plainRows(
  xml: Uint8Array,
  workbook: Workbook,
  lost: Lost,
): Generator<SheetRow & { readonly share: number }, boolean> {
  const head = decoder.decode(xml.subarray(0, 1 << 16));
  const found = head.indexOf('<sheetData>');
  // Only where each character before is a byte does its place in text tell that in bytes.
  if (found < 0 || /[^\0-\x7f]/.test(head.slice(0, found))) return false;
  const reader = new PlainSheet(xml, workbook, lost, found + '<sheetData>'.length);
  for (;;) {
    let row: SheetRow | null;
    try {
      row = reader.next();
    } catch (error) {
      if (error instanceof Strange) return false;
      throw error;
    }
    if (!row) return true;
    yield { ...row, share: reader.at / xml.length };
  }
}

class PlainSheet {
  private line = 0;

  constructor(
    private readonly xml: Uint8Array,
    private readonly workbook: Workbook,
    private readonly lost: Lost,
    public at: number,
  ) {}

  /** The next row; null behind the last one. */
  next(): SheetRow | null {
    this.skipSpace();
    if (this.is('</sheetData>')) return null;
    this.expect('<row');
    let said = 0;
    let isOpen = true;
    for (;;) {
      const name = this.attribute();
      if (name === null) break;
      if (name === 'r') said = this.whole();
      this.skipValue();
    }
    if (this.xml[this.at - 2] === SLASH) isOpen = false;
    this.line = lineBehind(this.line, said);
    const cells: Cell[] = [];
    while (isOpen) {
      this.skipSpace();
      if (this.is('</row>')) {
        this.at += 6;
        break;
      }
      this.cell(cells);
    }
    return { line: this.line, cells };
  }

  private cell(cells: Cell[]): void {
    const { xml } = this;
    this.expect('<c');
    let column = cells.length;
    let style = -1;
    let type = 'n';
    for (;;) {
      const name = this.attribute();
      if (name === null) break;
      if (name === 'r') column = this.letters();
      else if (name === 's') style = this.whole();
      else if (name === 't') type = this.word();
      this.skipValue();
    }
    if (xml[this.at - 2] === SLASH) return;
    let value: Cell = '';
    let isFormula = false;
    let isStored = false;
    for (;;) {
      this.skipSpace();
      if (this.is('</c>')) break;
      if (this.is('<v>')) {
        this.at += 3;
        value = this.value(type, style, column);
        isStored = true;
        this.expect('</v>');
      } else if (this.is('<v/>')) {
        this.at += 4;
        isStored = true;
      } else if (this.is('<f')) {
        this.skipFormula();
        isFormula = true;
      } else if (this.is('<is><t')) {
        this.at += 6;
        if (xml[this.at] === SPACE) this.at = this.behind(GT) - 1;
        if (xml[this.at++] !== GT) throw new Strange();
        const text = this.text();
        value = text === '' ? '' : cellWritten(this.workbook, 'inlineStr', style, text);
        this.expect('</t></is>');
      } else throw new Strange();
    }
    this.at += 4;
    if (isFormula && !isStored) this.lost.add('no result', this.line, cellName(column, this.line));
    if (value === '' || column >= MOST_CELLS) return;
    while (cells.length < column) cells.push('');
    cells[column] = value;
  }

  /** What is written up to the next element, as the cell's type and style mean it. */
  private value(type: string, style: number, column: number): Cell {
    const { xml } = this;
    let at = this.at;
    const isNegative = xml[at] === 45;
    if (isNegative) at++;
    const first = at;
    let mantissa = 0;
    let point = -1;
    for (; ; at++) {
      const digit = xml[at]! - 48;
      if (digit >= 0 && digit <= 9) mantissa = mantissa * 10 + digit;
      else if (digit === -2 && point < 0) point = at;
      else break;
    }
    const digits = at - first - (point < 0 ? 0 : 1);
    // Whole numbers of fifteen digits, divided by a power of ten, are the nearest doubles to what is written.
    if (xml[at] === LT && digits > 0 && digits <= 15 && (type === 'n' || type === 's')) {
      const decimals = point < 0 ? 0 : at - point - 1;
      const number = (isNegative ? -mantissa : mantissa) / 10 ** decimals;
      this.at = at;
      return type === 's'
        ? this.lost.sharedText(this.workbook, number, this.line, column)
        : numberWritten(this.workbook, style, number);
    }
    const text = this.text();
    if (type === 's') return this.lost.sharedText(this.workbook, Number(text), this.line, column);
    return text === '' ? '' : cellWritten(this.workbook, type, style, text);
  }

  /** Text up to the next element. */
  private text(): string {
    const { xml, at } = this;
    const end = this.behind(LT) - 1;
    this.at = end;
    const raw = decoder.decode(xml.subarray(at, end));
    if (!xml.subarray(at, end).includes(AMPERSAND)) return raw;
    return raw.replace(/&([^;&]*)(;?)/g, (_, name: string, isEnded: string) => {
      const code = /^#(?:x([0-9a-fA-F]+)|(\d+))$/.exec(name);
      const point = code ? parseInt(code[1] ?? code[2]!, code[1] ? 16 : 10) : -1;
      const text =
        point > 0 && point <= 0x10ffff
          ? String.fromCodePoint(point)
          : Object.hasOwn(ENTITIES, name)
            ? ENTITIES[name]
            : undefined;
      if (isEnded === '' || text === undefined) throw new Strange();
      return text;
    });
  }

  private skipFormula(): void {
    this.at = this.behind(GT);
    if (this.xml[this.at - 2] === SLASH) return;
    this.at = this.behind(LT) - 1;
    this.expect('</f>');
  }

  /** The name of the next attribute, and its value is next; null behind the element's end. */
  private attribute(): string | null {
    const { xml } = this;
    this.skipSpace();
    const from = this.at;
    for (;;) {
      const byte = xml[this.at++];
      if (byte === GT) return null;
      if (byte === SLASH && xml[this.at] === GT) {
        this.at++;
        return null;
      }
      if (byte === EQUALS) break;
      if (byte === undefined || byte === LT || byte === SPACE) throw new Strange();
    }
    if (xml[this.at++] !== QUOTE) throw new Strange();
    // Names of one letter are all that matter.
    return this.at - from === 3 ? String.fromCharCode(xml[from]!) : '';
  }

  private skipValue(): void {
    this.at = this.behind(QUOTE);
  }

  private whole(): number {
    let number = 0;
    for (; this.xml[this.at]! >= 48 && this.xml[this.at]! <= 57; this.at++)
      number = number * 10 + this.xml[this.at]! - 48;
    if (this.xml[this.at] !== QUOTE) throw new Strange();
    return number;
  }

  /** The column that letters before a number name. */
  private letters(): number {
    let column = 0;
    let count = 0;
    for (; this.xml[this.at]! >= 65 && this.xml[this.at]! <= 90; this.at++, count++)
      column = column * 26 + this.xml[this.at]! - 64;
    if (count === 0 || count > 3) throw new Strange();
    return column - 1;
  }

  private word(): string {
    const from = this.at;
    const end = this.behind(QUOTE) - 1;
    this.at = end;
    // The two that nearly all cells have.
    if (end - from === 1) return this.xml[from] === 115 ? 's' : String.fromCharCode(this.xml[from]!);
    return decoder.decode(this.xml.subarray(from, end));
  }

  private skipSpace(): void {
    while (
      this.xml[this.at] === SPACE ||
      this.xml[this.at] === 10 ||
      this.xml[this.at] === 13 ||
      this.xml[this.at] === 9
    )
      this.at++;
  }

  private is(text: string): boolean {
    for (let i = 0; i < text.length; i++) if (this.xml[this.at + i] !== text.charCodeAt(i)) return false;
    return true;
  }

  private expect(text: string): void {
    if (!this.is(text)) throw new Strange();
    this.at += text.length;
  }

  /** The place behind the next such byte. */
  private behind(byte: number): number {
    const { xml } = this;
    for (let at = this.at; at < xml.length; at++) if (xml[at] === byte) return at + 1;
    throw new Strange();
  }
}
