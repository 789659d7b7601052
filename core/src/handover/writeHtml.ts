import type { DrawnPage, Placed } from '../page';
import { sumWords, type Sentence } from '../reckoning';
import { escaped, FIGURE_FONT, PAPER, rounded, TEXT_STYLE, writeMarks, type Mark } from '../scene';
import { PAGE_SCRIPT, PAGE_SCRIPT_HASH } from './script';

/** The working behind a row, for the file. */
export interface Told {
  readonly title: string;
  readonly sentences: readonly Sentence[];
}

export interface HtmlOptions {
  /** WOFF2 of the figure's font as base64, by weight. */
  readonly fonts: Readonly<Record<number, string>>;
  /** The working behind a cell of a figure on the page; null where none is given away. */
  reckoning(placed: Placed, cell: Mark): Told | null;
}

const DESK = '#ECEDE8';

/**
 * A page as one HTML file that works alone: fonts, words and workings are in it, and it asks for nothing. Its policy lets no
 * other script run; text from data stays text.
 */
export function writeHtml(page: DrawnPage, { fonts, reckoning }: HtmlOptions): string {
  const told: Told[] = [];
  const figures = page.placed.map((placed) =>
    groupOf(placed, (cell) => {
      const one = reckoning(placed, cell);
      return one ? told.push(one) - 1 : null;
    }),
  );
  const [width, height] = [rounded(page.width), rounded(page.height)];
  const data = told.map(({ title, sentences }) => ({
    t: title,
    s: sentences.map((sentence) => [sentence.text, sumWords(sentence) ?? []].flat()),
  }));
  return [
    '<!doctype html>',
    '<html lang="en">',
    '<head>',
    '<meta charset="utf-8">',
    `<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; font-src data:; script-src 'sha256-${PAGE_SCRIPT_HASH}'">`,
    '<meta name="viewport" content="width=device-width">',
    `<title>${escaped(page.title)}</title>`,
    `<style>${faces(fonts)}${STYLE}</style>`,
    '</head>',
    '<body>',
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" style="${TEXT_STYLE}">`,
    ...figures,
    '</svg>',
    '<aside id="reckoning" hidden role="dialog" aria-label="Reckoning"></aside>',
    `<script type="application/json" id="reckonings">${JSON.stringify(data).replaceAll('<', '\\u003c')}</script>`,
    `<script>${PAGE_SCRIPT}</script>`,
    '</body>',
    '</html>',
    '',
  ].join('\n');
}

/** A block where it stands; its cells answer to the pointer and to the keys. */
function groupOf({ x, y, scene, kind }: Placed, number: (cell: Mark) => number | null): string {
  const paper =
    kind === 'figure'
      ? `<rect width="${rounded(scene.width)}" height="${rounded(scene.height)}" fill="${PAPER}"/>`
      : '';
  const cells = scene.marks.flatMap((mark) => {
    if (mark.role !== 'cell' || mark.shape !== 'rect') return [];
    const at = number(mark);
    const words = escaped(mark.words ?? '');
    const reach = at === null ? 'role="img"' : `data-r="${at}" role="button" tabindex="0"`;
    return [
      `<rect ${reach} aria-label="${words}" x="${rounded(mark.x)}" y="${rounded(mark.y)}" width="${rounded(mark.width)}" height="${rounded(mark.height)}" fill="transparent"><title>${words}</title></rect>`,
    ];
  });
  return `<g transform="translate(${rounded(x)} ${rounded(y)})">${paper}${writeMarks(scene)}${cells.join('')}</g>`;
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
  'svg{display:block;margin:0 auto;max-width:100%;height:auto}',
  '[data-r]{cursor:pointer}[data-r]:hover{fill:#16202B;fill-opacity:.05}[data-r]:focus-visible{outline:2px solid #16202B}',
  `#reckoning:not([hidden]){position:fixed;right:0;top:0;bottom:0;width:min(380px,100%);box-sizing:border-box;padding:20px;overflow:auto;background:${PAPER};border-left:8px solid #E9C15B}`,
  '#reckoning ol{padding-left:20px}#reckoning li{margin:0 0 8px}#reckoning small{display:block;color:#56636E;overflow-wrap:anywhere}',
  '#reckoning button{font:inherit;padding:4px 12px;border:1px solid #16202B;border-radius:3px;background:none;cursor:pointer}',
  `@media print{#reckoning{display:none!important}body{background:${PAPER}}}`,
].join('');
