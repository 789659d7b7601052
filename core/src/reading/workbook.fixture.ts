import { strToU8, zipSync } from 'fflate';

/** Styles of the cells of a made-up workbook, by their place. */
export const STYLE = { plain: 0, date: 1, percent: 2, dayFirst: 3, time: 4, month: 5 } as const;

type Made =
  | string
  | number
  | boolean
  | null
  | { readonly v: number | string; readonly s?: number; readonly t?: string };

export interface MadeSheet {
  readonly name: string;
  readonly rows: readonly (readonly Made[])[];
  /** The line of the first row. */
  readonly from?: number;
  readonly merged?: readonly string[];
  readonly hidden?: boolean;
}

const escape = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');
const letters = (c: number): string =>
  (c < 26 ? '' : letters(Math.floor(c / 26) - 1)) + String.fromCharCode(65 + (c % 26));

/** The bytes of a workbook, as spreadsheets write them. */
export function workbook(
  sheets: readonly MadeSheet[],
  extra: {
    readonly since1904?: boolean;
    /** Changes the sheets before they are packed. */
    readonly sheetBytes?: (xml: Uint8Array) => Uint8Array;
  } = {},
): Uint8Array {
  const shared: string[] = [];
  const place = (text: string) => {
    const known = shared.indexOf(text);
    return known >= 0 ? known : shared.push(text) - 1;
  };
  const cell = (value: Made, ref: string): string => {
    if (value === null) return '';
    if (typeof value === 'string') return `<c r="${ref}" t="s"><v>${place(value)}</v></c>`;
    if (typeof value === 'number') return `<c r="${ref}"><v>${value}</v></c>`;
    if (typeof value === 'boolean') return `<c r="${ref}" t="b"><v>${value ? 1 : 0}</v></c>`;
    const type = value.t === undefined ? '' : ` t="${value.t}"`;
    const style = value.s === undefined ? '' : ` s="${value.s}"`;
    const inside =
      value.t === 'inlineStr' ? `<is><t>${escape(String(value.v))}</t></is>` : `<v>${escape(String(value.v))}</v>`;
    return `<c r="${ref}"${style}${type}>${inside}</c>`;
  };
  const files: Record<string, Uint8Array> = {};
  sheets.forEach(({ rows, from = 1, merged = [] }, i) => {
    const body = rows
      .map((row, r) => `<row r="${from + r}">${row.map((v, c) => cell(v, `${letters(c)}${from + r}`)).join('')}</row>`)
      .join('');
    const merges =
      merged.length === 0
        ? ''
        : `<mergeCells>${merged.map((ref) => `<mergeCell ref="${ref}"/>`).join('')}</mergeCells>`;
    files[`xl/worksheets/sheet${i + 1}.xml`] = strToU8(
      `<?xml version="1.0" encoding="UTF-8"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${body}</sheetData>${merges}</worksheet>`,
    );
  });
  files['xl/workbook.xml'] = strToU8(
    `<workbook xmlns:r="r"><workbookPr${extra.since1904 ? ' date1904="1"' : ''}/><sheets>${sheets
      .map(
        ({ name, hidden }, i) =>
          `<sheet name="${escape(name)}" sheetId="${i + 1}"${hidden ? ' state="hidden"' : ''} r:id="rId${i + 1}"/>`,
      )
      .join('')}</sheets></workbook>`,
  );
  files['xl/_rels/workbook.xml.rels'] = strToU8(
    `<Relationships>${sheets.map((_, i) => `<Relationship Id="rId${i + 1}" Target="worksheets/sheet${i + 1}.xml"/>`).join('')}</Relationships>`,
  );
  files['xl/styles.xml'] = strToU8(
    `<styleSheet><numFmts><numFmt numFmtId="164" formatCode="dd\\.mm\\.yyyy"/><numFmt numFmtId="165" formatCode="mmm\\ yyyy"/></numFmts><cellStyleXfs><xf numFmtId="9"/></cellStyleXfs><cellXfs><xf numFmtId="0"/><xf numFmtId="14"/><xf numFmtId="10"/><xf numFmtId="164"/><xf numFmtId="20"/><xf numFmtId="165"/></cellXfs></styleSheet>`,
  );
  files['xl/sharedStrings.xml'] = strToU8(
    `<sst>${shared.map((text) => `<si><r><t xml:space="preserve">${escape(text)}</t></r><rPh><t>aloud</t></rPh></si>`).join('')}</sst>`,
  );
  const { sheetBytes } = extra;
  if (sheetBytes)
    for (const path of Object.keys(files).filter((name) => name.includes('/sheet')))
      files[path] = sheetBytes(files[path]!);
  return zipSync(files);
}
