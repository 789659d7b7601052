import { contentTypes, coreProperties, packed, relations, RELATIONS, safe, xml } from './parts';

export type SheetCell = string | number | null;

export interface SheetRows {
  /** What the sheet is called; made fit for a workbook: at most 31 letters, none of []:*?/\, no two alike. */
  readonly name: string;
  /** Lines above the heading, such as a title. */
  readonly about: readonly string[];
  readonly header: readonly string[];
  /** `percent` columns hold shares: 0.1 is shown as 10.0%. */
  readonly percent?: readonly string[];
  readonly lines: readonly (readonly SheetCell[])[];
}

const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
/** Numbers of the cell formats in the style sheet below. */
const STYLE = {
  plain: 0,
  heading: 1,
  title: 2,
  number: 3,
  percent: 4,
  text: 5,
  quoted: 6,
  headingOfNumbers: 7,
} as const;

/** A workbook (XLSX, ECMA-376) of numbers and text. There is no formula in it: text that begins like one is kept text, also when its cell is edited. */
export function writeXlsx(title: string, sheets: readonly SheetRows[]): Uint8Array {
  const names = sheetNames(sheets.map(({ name }) => name));
  const at = (i: number) => `xl/worksheets/sheet${i + 1}.xml`;
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
    'xl/styles.xml': STYLES,
    ...Object.fromEntries(sheets.map((sheet, i) => [at(i), sheetOf(sheet)])),
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

function sheetOf({ about, header, percent = [], lines }: SheetRows): string {
  const isPercent = header.map((name) => percent.includes(name));
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
        const style = isPercent[c] ? STYLE.percent : STYLE.number;
        return Number.isFinite(cell) ? `<c r="${columnName(c)}${r + 1}" s="${style}"><v>${cell}</v></c>` : '';
      }),
    );
  }
  const last = `${columnName(Math.max(0, header.length - 1))}${r + 1}`;
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
  const isQuoted = style === STYLE.text && /^[=+\-@\t\r]/.test(text);
  return `<c r="${columnName(column)}${row + 1}" t="inlineStr" s="${isQuoted ? STYLE.quoted : style}"><is><t xml:space="preserve">${safe(text.slice(0, 32_767))}</t></is></c>`;
}

/** A, B, … Z, AA, … */
export function columnName(column: number): string {
  const letter = String.fromCharCode(65 + (column % 26));
  return column < 26 ? letter : `${columnName(Math.floor(column / 26) - 1)}${letter}`;
}

const STYLES = xml(
  `<styleSheet xmlns="${MAIN}"><numFmts count="2"><numFmt numFmtId="164" formatCode="#,##0.##;\u2212#,##0.##"/><numFmt numFmtId="165" formatCode="0.0%;\u22120.0%"/></numFmts>` +
    '<fonts count="3"><font><sz val="11"/><color rgb="FF16202B"/><name val="Arial"/></font><font><b/><sz val="11"/><color rgb="FF16202B"/><name val="Arial"/></font><font><b/><sz val="14"/><color rgb="FF16202B"/><name val="Arial"/></font></fonts>' +
    '<fills count="3"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill><fill><patternFill patternType="solid"><fgColor rgb="FFF3E3B8"/></patternFill></fill></fills>' +
    '<borders count="1"><border/></borders><cellStyleXfs count="1"><xf/></cellStyleXfs>' +
    '<cellXfs count="8"><xf/><xf fontId="1" fillId="2" applyFont="1" applyFill="1"/><xf fontId="2" applyFont="1"/><xf numFmtId="164" applyNumberFormat="1"/><xf numFmtId="165" applyNumberFormat="1"/><xf numFmtId="49" applyNumberFormat="1"/><xf numFmtId="49" applyNumberFormat="1" quotePrefix="1"/><xf fontId="1" fillId="2" applyFont="1" applyFill="1" applyAlignment="1"><alignment horizontal="right"/></xf></cellXfs>' +
    '<cellStyles count="1"><cellStyle name="Normal" xfId="0" builtinId="0"/></cellStyles></styleSheet>',
);
