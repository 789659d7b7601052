import { WIDTHS } from './widths';

export type Weight = 400 | 600;

/** The family every text of a figure is set in; the widths below are its own. */
export const FIGURE_FONT = 'Archivo Narrow';

/** Text smaller than this is not set. */
export const MIN_SIZE = 11;

/** Width of a character the font lacks, in thousandths of an em: another font's letter stands in for it. */
const UNKNOWN = 560;
/** Ideographs and the like take a full em. */
const WIDE = 1000;

/** The advance of every character of one code unit, in thousandths of an em. */
function advances(known: (typeof WIDTHS)[Weight]): Uint16Array {
  const table = new Uint16Array(0x10000).fill(UNKNOWN, 0, 0x1100).fill(WIDE, 0x1100);
  for (const [code, width] of known) table[code] = width;
  return table;
}

const tables: Record<Weight, Uint16Array> = { 400: advances(WIDTHS[400]), 600: advances(WIDTHS[600]) };

/** Width of a text in CSS pixels: the sum of its advances, as the browser sets it without kerning and ligatures. */
export function textWidth(text: string, size: number, weight: Weight = 400): number {
  const table = tables[weight];
  let sum = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    sum += table[code]!;
    // Two code units that stand for one character take its width once.
    if (code >= 0xd800 && code < 0xdc00 && (text.charCodeAt(i + 1) & 0xfc00) === 0xdc00) i++;
  }
  return (sum * size) / 1000;
}

/**
 * Names shortened to fit a width, so that those that differ can still be told apart: where cutting their ends makes two alike,
 * all are cut in the middle.
 */
export function shortenAll(names: readonly string[], width: number, size: number, weight: Weight = 400): string[] {
  if (names.every((name) => textWidth(name, size, weight) <= width)) return [...names];
  const cut = names.map((name) => shorten(name, width, size, weight));
  if (new Set(cut).size === new Set(names).size) return cut;
  return names.map((name) => shortenMiddle(name, width, size, weight));
}

/** The letters of a text; an accent that stands behind its letter belongs to it, as fonts have them together. */
export const lettersIn = (text: string): string[] => [...text.normalize('NFC')];

function shortenMiddle(text: string, width: number, size: number, weight: Weight): string {
  if (textWidth(text, size, weight) <= width) return text;
  const letters = lettersIn(text);
  for (let kept = letters.length - 1; kept > 0; kept--) {
    const head = Math.ceil(kept / 2);
    const cut = `${letters.slice(0, head).join('').trimEnd()}…${letters
      .slice(letters.length - (kept - head))
      .join('')
      .trimStart()}`;
    if (textWidth(cut, size, weight) <= width) return cut;
  }
  return '';
}

/** The text, shortened with an ellipsis to fit a width; empty when not even one letter fits. */
export function shorten(text: string, width: number, size: number, weight: Weight = 400): string {
  if (textWidth(text, size, weight) <= width) return text;
  const letters = lettersIn(text);
  let low = 0;
  let high = letters.length;
  const cut = (n: number) => `${letters.slice(0, n).join('').trimEnd()}…`;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (textWidth(cut(middle), size, weight) <= width) low = middle;
    else high = middle - 1;
  }
  return low === 0 ? '' : cut(low);
}

/** The text in at most so many lines that fit a width, broken at spaces; null where it does not fit whole. */
export function wrapWhole(text: string, width: number, size: number, weight: Weight = 400, most = 2): string[] | null {
  const lines = wrap(text, width, size, weight, most);
  return lines.join(' ') === text.split(/\s+/).filter(Boolean).join(' ') ? lines : null;
}

/** The text in lines that fit a width, broken at spaces; the last of at most `most` lines is shortened. */
export function wrap(text: string, width: number, size: number, weight: Weight = 400, most = 2): string[] {
  const words = text.split(/\s+/).filter((word) => word !== '');
  const lines: string[] = [];
  let line = '';
  for (let i = 0; i < words.length; i++) {
    const longer = line === '' ? words[i]! : `${line} ${words[i]!}`;
    if (line === '' || textWidth(longer, size, weight) <= width) {
      line = longer;
      continue;
    }
    if (lines.length === most - 1) return [...lines, shorten([line, ...words.slice(i)].join(' '), width, size, weight)];
    lines.push(shorten(line, width, size, weight));
    line = words[i]!;
  }
  return line === '' ? lines : [...lines, shorten(line, width, size, weight)];
}
