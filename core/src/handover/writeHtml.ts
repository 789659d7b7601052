import type { Picked } from '../brief';
import type { DrawnPage, Placed } from '../page';
import { sumWords, type Sentence } from '../reckoning';
import { escaped, FIGURE_FONT, PAPER, rounded, TEXT_STYLE, type Mark } from '../scene';
import { toBase91 } from './base91';
import type { Carried } from './carried';
import { pageMarks } from './pageMarks';
import { LOADER_SCRIPT, LOADER_SCRIPT_HASH, PAGE_SCRIPT, PAGE_SCRIPT_HASH } from './script';
import type { Deflate } from './smallest';
import { framed } from './streams';

/** The working behind a row, for the file. */
export interface ToldCell {
  readonly title: string;
  readonly sentences: readonly Sentence[];
}

export interface HtmlOptions {
  /** WOFF2 of the figure's font as base64, by weight. */
  readonly fonts: Readonly<Record<number, string>>;
  /** The working behind a cell of a figure on the page; null where none is given away. */
  reckoning(placed: Placed, cell: Mark): ToldCell | null;
  /** The program and the data with which its reader can choose what it shows; without them it stays as it is. */
  readonly live?: {
    readonly carried: Carried;
    readonly program: Program;
    /** What is chosen when it is opened. */
    readonly chosen?: Chosen;
    readonly deflate: Deflate;
  };
}

/** What the reader of a page as a file has chosen; the period as a brief says it, empty for each figure's own. */
export interface Chosen {
  readonly only: Readonly<Record<string, readonly (string | null)[]>>;
  readonly period: string;
  readonly switched: readonly string[];
  /** A member that a figure was gone into by. */
  readonly picked?: Picked | null;
}

/** The program of a page as a file: packed, in letters, and the base64 of its text's SHA-256. */
export interface Program {
  readonly packed: string;
  readonly hash: string;
  /** WOFF2 of the figure's font with `BASIC_LETTERS` alone, as base64, by weight. */
  readonly fonts: Readonly<Record<number, string>>;
}

const json = (id: string, value: unknown) =>
  `<script type="application/json" id="${id}">${JSON.stringify(value).replaceAll('<', '\\u003c')}</script>`;

const DESK = '#ECEDE8';

/**
 * A page as one HTML file that works alone: fonts, words and workings are in it, and it asks for nothing. Its policy lets no
 * other script run; text from data stays text.
 */
export function writeHtml(page: DrawnPage, { fonts, reckoning, live }: HtmlOptions): string {
  const told: ToldCell[] = [];
  const answers = (placed: Placed, cell: Mark) => {
    const one = reckoning(placed, cell);
    return one !== null && told.push(one) > 0;
  };
  // The program in it draws it anew at once, and makes workings when they are asked for.
  const { svg } = pageMarks(page, live ? null : answers);
  const [width, height] = [rounded(page.width), rounded(page.height)];
  const hashes = live ? [LOADER_SCRIPT_HASH, live.program.hash] : [PAGE_SCRIPT_HASH];
  const data = told.map(({ title, sentences }) => ({
    t: title,
    s: sentences.map((sentence) => [sentence.text, sumWords(sentence) ?? []].flat()),
  }));
  return [
    '<!doctype html>',
    '<html lang="en">',
    '<head>',
    '<meta charset="utf-8">',
    `<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; font-src data:; script-src ${hashes.map((hash) => `'sha256-${hash}'`).join(' ')}">`,
    '<meta name="viewport" content="width=device-width">',
    `<title>${escaped(page.title)}</title>`,
    `<style>${faces(fonts)}${STYLE}</style>`,
    '</head>',
    '<body>',
    '<main>',
    `<h1>${escaped(page.title)}</h1>`,
    ...(live ? ['<div id="choices" role="group" aria-label="What the page shows"></div>'] : []),
    `<svg id="page" xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" style="${TEXT_STYLE}">`,
    svg,
    '</svg>',
    '</main>',
    '<aside id="reckoning" hidden role="dialog" aria-label="Reckoning"></aside>',
    ...(live
      ? [
          json('carried', { ...live.carried, tables: undefined, chosen: live.chosen }),
          `<script type="text/plain" id="tables">${toBase91(framed(live.carried.tables.map(live.deflate)))}</script>`,
          `<script type="text/plain" id="program">${live.program.packed}</script>`,
          `<script>${LOADER_SCRIPT}</script>`,
        ]
      : [json('reckonings', data), `<script>${PAGE_SCRIPT}</script>`]),
    '</body>',
    '</html>',
    '',
  ].join('\n');
}

function faces(fonts: HtmlOptions['fonts']): string {
  return Object.entries(fonts)
    .map(
      ([weight, data]) =>
        `@font-face{font-family:'${FIGURE_FONT}';font-weight:${weight};src:url(data:font/woff2;base64,${data}) format('woff2')}`,
    )
    .join('');
}

const STYLE = [
  `body{margin:0;background:${DESK};color:#16202B;font:15px/1.4 '${FIGURE_FONT}','Arial Narrow',sans-serif}`,
  'h1{position:absolute;width:1px;height:1px;margin:0;overflow:hidden;clip-path:inset(50%)}#choices p{flex-basis:100%;margin:0;padding-left:8px;border-left:4px solid #E9C15B;font-size:13px}',
  'svg{display:block;margin:0 auto;max-width:100%;height:auto}',
  'rect[role],[data-r]{fill:transparent}[data-r]{cursor:pointer}[data-r]:hover{fill:#16202B;fill-opacity:.05}[data-r]:focus-visible{outline:2px solid #16202B}',
  `#reckoning:not([hidden]){position:fixed;z-index:2;right:0;top:0;bottom:0;width:min(380px,100%);box-sizing:border-box;padding:20px;overflow:auto;background:${PAPER};border-left:8px solid #E9C15B}`,
  '#reckoning ol{padding-left:20px}#reckoning li{margin:0 0 8px}#reckoning small{display:block;color:#56636E;overflow-wrap:anywhere}',
  '#reckoning button{font:inherit;padding:4px 12px;border:1px solid #16202B;border-radius:3px;background:none;cursor:pointer}',
  '#choices{position:sticky;top:0;z-index:1;display:flex;flex-wrap:wrap;gap:8px;padding:8px 20px;background:#ECEDE8;border-bottom:1px solid #C9CCC6}#choices:empty{display:none}',
  '#choices summary,#choices button,#choices select{font:inherit;height:30px;line-height:28px;padding:0 10px;box-sizing:border-box;border:1px solid #C9CCC6;border-radius:3px;background:#FAFAF7;color:inherit;cursor:pointer;list-style:none}#choices summary::-webkit-details-marker{display:none}#choices [data-set]{border-color:#8A6A12;background:#F7E9C2}',
  '#choices details{position:relative}#choices details>div{position:absolute;top:34px;left:0;width:240px;max-height:60vh;overflow:auto;padding:8px;background:#FAFAF7;border:1px solid #16202B;border-radius:3px}#choices label[hidden]{display:none}#choices label:not([hidden]){display:flex;gap:8px;padding:3px 4px;cursor:pointer}#choices input[type=search]{font:inherit;width:100%;box-sizing:border-box;margin-bottom:6px;padding:3px 6px;border:1px solid #C9CCC6;border-radius:3px}',
  '#reckoning table{border-collapse:collapse;font-size:13px;display:block;overflow-x:auto}#reckoning td,#reckoning th{padding:2px 8px 2px 0;text-align:left;white-space:nowrap;border-bottom:1px solid #C9CCC6}',
  `@media print{#choices,#reckoning{display:none!important}body{background:${PAPER}}}`,
].join('');
