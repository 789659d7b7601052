import { eachAttribute, PATTERN_GROUND, PATTERN_TILES, patternsOf, rounded, tagOf, type Put } from './elements';
import type { FontFace } from './fontFiles';
import { compounded, eachCompoundAttribute, type Compound } from './compound';
import type { Mark, Scene } from './scene';
import { FIGURE_FONT } from './text';

/** What every text of a figure is set with, so that it takes the room it was measured to take. */
export const TEXT_STYLE = `font-family:'${FIGURE_FONT}','Arial Narrow',sans-serif;font-kerning:none;font-variant-ligatures:none;font-variant-numeric:tabular-nums`;

export const PAPER = '#FAFAF7';

export interface SvgOptions {
  /** A colour behind the figure, or null for none. */
  readonly background?: string | null;
  /** Fonts to carry along, so that the picture looks the same everywhere. */
  readonly fonts?: readonly FontFace[];
}

/** The scene as SVG text (SVG 1.1 with a title, a description and a title on each cell). The same scene gives the same bytes. */
export function writeSvg(scene: Scene, { background = PAPER, fonts }: SvgOptions = {}): string {
  const [width, height] = [rounded(scene.width), rounded(scene.height)];
  const lines = [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" role="img" aria-labelledby="title description" style="${TEXT_STYLE}">`,
    `<title id="title">${escaped(scene.title)}</title>`,
    `<desc id="description">${escaped(scene.description)}</desc>`,
  ];
  lines.push(...stylesOf(fonts));
  lines.push(...definitions([scene]));
  if (background) lines.push(`<rect width="${width}" height="${height}" fill="${escaped(background)}"/>`);
  lines.push(...elementsOf(scene.marks));
  return `${lines.join('\n')}\n</svg>\n`;
}

/** The patterns scenes are painted with, each once. */
function definitions(scenes: readonly Pick<Scene, 'marks'>[]): string[] {
  const patterns = patternsOf({ marks: scenes.flatMap(({ marks }) => marks) }).map(({ id, kind, ink }) => {
    const { size, box, turn } = PATTERN_TILES[kind];
    const fill = `fill="${escaped(ink)}"`;
    return (
      `<pattern id="${escaped(id)}" width="${size}" height="${size}" patternUnits="userSpaceOnUse" patternTransform="rotate(${turn})">` +
      `<rect width="${size}" height="${size}" ${fill} fill-opacity="${PATTERN_GROUND}"/>` +
      `<rect x="${box.x}" y="${box.y}" width="${box.width}" height="${box.height}" ${fill}/></pattern>`
    );
  });
  return patterns.length > 0 ? [`<defs>${patterns.join('')}</defs>`] : [];
}

/** Marks as elements, one each. */
function elementsOf(marks: readonly (Mark | Compound)[]): string[] {
  const lines: string[] = [];
  let element = '';
  const put: Put = (name, value, plain) => {
    element += ` ${name}="${plain ? value : escaped(value)}"`;
  };
  for (const mark of marks) {
    if (mark.shape === 'compound') {
      element = '<path';
      eachCompoundAttribute(mark, put);
      lines.push(`${element}/>`);
      continue;
    }
    const tag = tagOf(mark);
    element = `<${tag}`;
    eachAttribute(mark, put);
    const inner =
      mark.shape === 'text' ? escaped(mark.text) : mark.words ? `<title>${escaped(mark.words)}</title>` : '';
    lines.push(inner === '' ? `${element}/>` : `${element}>${inner}</${tag}>`);
  }
  return lines;
}

/**
 * What is seen of a scene as SVG elements without their `<svg>`: shapes painted alike are one element where no eye can tell, and marks
 * that only answer to the pointer are left out.
 */
export function writeMarks(scene: Scene): string {
  const shown = scene.marks.filter(({ role }) => role !== 'cell');
  return [...definitions([{ marks: shown }]), ...elementsOf(compounded(shown))].join('');
}

/** Several scenes on one paper, each with its left upper corner; the titles of figures stand as groups' titles. */
export function writeSheet(
  sheet: { readonly width: number; readonly height: number; readonly title: string },
  placed: readonly { readonly x: number; readonly y: number; readonly scene: Scene; readonly paper: string | null }[],
  fonts: readonly FontFace[] = [],
): string {
  const [width, height] = [rounded(sheet.width), rounded(sheet.height)];
  const lines = [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" role="img" aria-labelledby="title" style="${TEXT_STYLE}">`,
    `<title id="title">${escaped(sheet.title)}</title>`,
    ...stylesOf(fonts),
    ...definitions(placed.map(({ scene }) => scene)),
    `<rect width="${width}" height="${height}" fill="${DESK}"/>`,
  ];
  for (const { x, y, scene, paper } of placed) {
    lines.push(`<g transform="translate(${rounded(x)} ${rounded(y)})">`, `<title>${escaped(scene.title)}</title>`);
    if (paper) lines.push(`<rect width="${rounded(scene.width)}" height="${rounded(scene.height)}" fill="${paper}"/>`);
    lines.push(...elementsOf(scene.marks), '</g>');
  }
  return `${lines.join('\n')}\n</svg>\n`;
}

/** What a page lies on. */
const DESK = '#FFFFFF';

const stylesOf = (fonts: readonly FontFace[] = []): string[] =>
  fonts.length === 0 ? [] : [`<style>${fonts.map(fontFace).join('')}</style>`];

function fontFace({ weight, letters, format, data }: FontFace): string {
  const range = letters.map((letter) => `U+${letter.toString(16)}`).join(',');
  return `@font-face{font-family:'${FIGURE_FONT}';font-weight:${weight};unicode-range:${range};src:url(data:font/ttf;base64,${data}) format('${format}')}`;
}

/** For what is written beside a scene. Text from data stays text; characters that XML cannot hold are left away. */
export function escaped(text: string): string {
  // Most texts and all numbers are as they are written.
  return UNSAFE.test(text) ? text.replace(EVERY_UNSAFE, (character) => SAFE[character] ?? '') : text;
}

// oxlint-disable-next-line no-control-regex
const UNSAFE = /[&<>"\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/;
const EVERY_UNSAFE = new RegExp(UNSAFE, 'g');
const SAFE: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
