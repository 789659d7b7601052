import { beginsLikeFormula, columnLetters } from '../table';
import { contentTypes, coreProperties, packed, relations, RELATIONS, safe, xml } from './parts';

export type SheetCell = string | number | null;

/** A column of a sheet: what it is called, and how its numbers are shown; text where it has no format. */
export interface SheetColumn {
  readonly name: string;
  /** A number format (ECMA-376, part 1, 18.8.31); days are counted as spreadsheets do. */
  readonly format?: string;
}

export interface SheetRows {
  /** What the sheet is called; made fit for a workbook: at most 31 letters, none of []:*?/\, no two alike. */
  readonly name: string;
  /** Lines above the heading, such as a title. */
  readonly about: readonly string[];
  readonly columns: readonly SheetColumn[];
  readonly lines: readonly (readonly SheetCell[])[];
}

const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
/** Numbers of the cell formats in the style sheet below. */
const STYLE = {
  plain: 0,
  heading: 1,
  title: 2,
  text: 3,
  quoted: 4,
  headingOfNumbers: 5,
  quotedTitle: 6,
} as const;
/** The first style of a number format, and the first number of one that a workbook defines itself. */
const FORMATTED = 7;
const OWN_FORMAT = 164;

const HALF = (format: string) => `${format};\u2212${format}`;
/** Amounts with so many decimals, behind a currency's sign if wished. */
export const amountFormat = (decimals: number, before = '', after = '') =>
  HALF(`${quoted(before)}#,##0${decimals > 0 ? `.${'0'.repeat(decimals)}` : ''}${quoted(after)}`);
/** Shares: 0.1 is shown as 10.0%. */
export const SHARE_FORMAT = HALF('0.0%');
export const DAY_FORMAT = 'yyyy\\-mm\\-dd';
export const MONTH_FORMAT = 'yyyy\\-mm';

/** Text within a number format. */
function quoted(text: string): string {
  return text === '' ? '' : `"${text.replaceAll('"', '')}"`;
}

/** Days of a spreadsheet from 1970-01-01 to the day it counts as 0. */
const SERIAL_ZERO = 25_569;

/** A day as spreadsheets count them. */
export function serialOf(day: number): number {
  return day + SERIAL_ZERO;
}

/** A workbook (XLSX, ECMA-376) of numbers and text. There is no formula in it: text that begins like one is kept text, also when its cell is edited. */
export function writeXlsx(title: string, sheets: readonly SheetRows[]): Uint8Array {
  const names = sheetNames(sheets.map(({ name }) => name));
  const at = (i: number) => `xl/worksheets/sheet${i + 1}.xml`;
  const formats = [...new Set(sheets.flatMap(({ columns }) => columns.flatMap(({ format }) => format ?? [])))];
  const kind = 'application/vnd.openxmlformats-officedocument.spreadsheetml';
  return packed({
    '[Content_Types].xml': contentTypes(
      { rels: 'application/vnd.openxmlformats-package.relationships+xml', xml: 'application/xml' },
      {
        'xl/workbook.xml': `${kind}.sheet.main+xml`,
        'xl/styles.xml': `${kind}.styles+xml`,
        'docProps/core.xml': 'application/vnd.openxmlformats-package.core-properties+xml',
        ...Object.fromEntries(sheets.map((_, i) => [at(i), `${kind}.worksheet+xml`])),
      },
    ),
    '_rels/.rels': relations([
      ['officeDocument', 'xl/workbook.xml'],
      ['http://schemas.openxmlformats.org/package/2006/relationships/metadata/core-properties', 'docProps/core.xml'],
    ]),
    'docProps/core.xml': coreProperties(title),
    'xl/workbook.xml': xml(
      `<workbook xmlns="${MAIN}" xmlns:r="${RELATIONS.main}"><sheets>${names
        .map((name, i) => `<sheet name="${safe(name)}" sheetId="${i + 1}" r:id="rId${i + 1}"/>`)
        .join('')}</sheets></workbook>`,
    ),
    'xl/_rels/workbook.xml.rels': relations([
      ...sheets.map((_, i) => ['worksheet', `worksheets/sheet${i + 1}.xml`] as const),
      ['styles', 'styles.xml'],
    ]),
    'xl/styles.xml': stylesOf(formats),
    ...Object.fromEntries(sheets.map((sheet, i) => [at(i), sheetOf(sheet, formats)])),
  });
}

/** Names a workbook takes, no two alike. */
export function sheetNames(wanted: readonly string[]): string[] {
  const taken = new Set<string>();
  return wanted.map((one) => {
    const plain =
      one
        .replace(/[[\]:*?/\\]/g, ' ')
        .replace(/^'+|'+$/g, '')
        .replace(/\s+/g, ' ')
        .trim() || 'Sheet';
    for (let n = 1; ; n++) {
      const end = n === 1 ? '' : ` ${n}`;
      const name = `${[...plain]
        .slice(0, 31 - end.length)
        .join('')
        .trimEnd()}${end}`;
      if (taken.has(name.toLowerCase())) continue;
      taken.add(name.toLowerCase());
      return name;
    }
  });
}

function sheetOf({ about, columns, lines }: SheetRows, formats: readonly string[]): string {
  const header = columns.map(({ name }) => name);
  const styles = columns.map(({ format }) =>
    format === undefined ? STYLE.plain : FORMATTED + formats.indexOf(format),
  );
  const rows: string[] = [];
  let r = 0;
  const row = (cells: readonly string[]) => rows.push(`<row r="${r + 1}">${cells.join('')}</row>`);
  for (const text of about) {
    if (text !== '') row([textCell(text, 0, r, r === 0 ? STYLE.title : STYLE.plain)]);
    r += 1;
  }
  const heading = r;
  const holdsNumbers = (c: number) => lines.some((line) => typeof line[c] === 'number');
  row(header.map((name, c) => textCell(name, c, r, holdsNumbers(c) ? STYLE.headingOfNumbers : STYLE.heading)));
  for (const line of lines) {
    r += 1;
    row(
      line.map((cell, c) => {
        if (cell === null) return '';
        if (typeof cell === 'string') return textCell(cell, c, r, STYLE.text);
        return Number.isFinite(cell) ? `<c r="${columnLetters(c)}${r + 1}" s="${styles[c]}"><v>${cell}</v></c>` : '';
      }),
    );
  }
  const last = `${columnLetters(Math.max(0, header.length - 1))}${r + 1}`;
  const first = `A${heading + 1}`;
  return xml(
    `<worksheet xmlns="${MAIN}"><sheetPr><pageSetUpPr fitToPage="1"/></sheetPr><sheetViews><sheetView workbookViewId="0" showGridLines="0"><pane ySplit="${heading + 1}" topLeftCell="A${heading + 2}" activePane="bottomLeft" state="frozen"/></sheetView></sheetViews>` +
      `<cols>${header.map((name, c) => `<col min="${c + 1}" max="${c + 1}" width="${widthOf(name, lines, c)}" customWidth="1"/>`).join('')}</cols>` +
      `<sheetData>${rows.join('')}</sheetData>${header.length > 0 && lines.length > 0 ? `<autoFilter ref="${first}:${last}"/>` : ''}<pageSetup orientation="landscape" fitToHeight="0"/></worksheet>`,
  );
}

/** Letters across, enough for what a column's first rows hold. */
function widthOf(name: string, lines: readonly (readonly SheetCell[])[], column: number): number {
  const longest = lines
    .slice(0, 500)
    .reduce((most, line) => Math.max(most, typeof line[column] === 'string' ? line[column].length : 12), name.length);
  return Math.min(60, longest + 3);
}

/** Text that begins like a formula carries the mark that keeps it text when its cell is edited. */
function textCell(text: string, column: number, row: number, style: number): string {
  const quoted = { [STYLE.text]: STYLE.quoted, [STYLE.plain]: STYLE.quoted, [STYLE.title]: STYLE.quotedTitle }[style];
  const own = quoted !== undefined && beginsLikeFormula(text) ? quoted : style;
  return `<c r="${columnLetters(column)}${row + 1}" t="inlineStr" s="${own}"><is><t xml:space="preserve">${safe(escapesEscaped(text).slice(0, 32_767))}</t></is></c>`;
}

/** What looks like an escaped character is written so that it is none (ECMA-376, 22.9.2.19). */
const escapesEscaped = (text: string) => text.replace(/_(?=x[0-9A-Fa-f]{4}_)/g, '_x005F_');

/** The style sheet: fixed styles first, then one for each number format. */
function stylesOf(formats: readonly string[]): string {
  const escaped = (text: string) => safe(text).replaceAll('"', '&quot;');
  const numbers = formats.map((format, i) => `<numFmt numFmtId="${OWN_FORMAT + i}" formatCode="${escaped(format)}"/>`);
  const own = formats.map((_, i) => `<xf numFmtId="${OWN_FORMAT + i}" applyNumberFormat="1"/>`);
  return xml(
    `<styleSheet xmlns="${MAIN}">${numbers.length > 0 ? `<numFmts count="${numbers.length}">${numbers.join('')}</numFmts>` : ''}` +
      '<fonts count="3"><font><sz val="11"/><color rgb="FF16202B"/><name val="Arial"/></font><font><b/><sz val="11"/><color rgb="FF16202B"/><name val="Arial"/></font><font><b/><sz val="14"/><color rgb="FF16202B"/><name val="Arial"/></font></fonts>' +
      '<fills count="3"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill><fill><patternFill patternType="solid"><fgColor rgb="FFF3E3B8"/></patternFill></fill></fills>' +
      '<borders count="1"><border/></borders><cellStyleXfs count="1"><xf/></cellStyleXfs>' +
      `<cellXfs count="${FORMATTED + own.length}"><xf/><xf fontId="1" fillId="2" applyFont="1" applyFill="1"/><xf fontId="2" applyFont="1"/><xf numFmtId="49" applyNumberFormat="1"/><xf numFmtId="49" applyNumberFormat="1" quotePrefix="1"/><xf fontId="1" fillId="2" applyFont="1" applyFill="1" applyAlignment="1"><alignment horizontal="right"/></xf><xf fontId="2" numFmtId="49" applyFont="1" applyNumberFormat="1" quotePrefix="1"/>${own.join('')}</cellXfs>` +
      '<cellStyles count="1"><cellStyle name="Normal" xfId="0" builtinId="0"/></cellStyles></styleSheet>',
  );
}
