import * as fontkit from 'fontkit';
import { lettersIn, type FontFiles, type Mark, type Scene, type Weight } from '../scene';

/** One file of a font. */
export interface OpenFont {
  readonly file: Uint8Array;
  readonly font: fontkit.Font;
  /** @param letter a code point */
  has(letter: number): boolean;
  /** Its outline as path data that begins where it stands, and how far the next letter is from it, in pixels. */
  outline(letter: string, size: number): Outline;
}

interface Outline {
  readonly d: string;
  readonly advance: number;
}

const opened = new WeakMap<FontFiles, Readonly<Record<Weight, readonly OpenFont[]>>>();

export function openFonts(files: FontFiles): Readonly<Record<Weight, readonly OpenFont[]>> {
  let fonts = opened.get(files);
  if (!fonts) {
    fonts = { 400: files[400].map(openFont), 600: files[600].map(openFont) };
    opened.set(files, fonts);
  }
  return fonts;
}

function openFont(file: Uint8Array): OpenFont {
  // Of a single font there is a single font in the file.
  const font = fontkit.create(file as never) as fontkit.Font;
  const known = new Set(font.characterSet);
  const outlines = new Map<string, Outline>();
  return {
    file,
    font,
    has: (letter) => known.has(letter),
    outline(letter, size) {
      const key = `${size} ${letter}`;
      let outline = outlines.get(key);
      if (!outline) {
        const glyph = font.glyphForCodePoint(letter.codePointAt(0)!);
        const scale = size / font.unitsPerEm;
        outline = { d: relative(glyph.path.commands, scale), advance: glyph.advanceWidth * scale };
        outlines.set(key, outline);
      }
      return outline;
    },
  };
}

/** Thousandths of a pixel. */
const FINE = 1000;

/**
 * Path data (SVG 2, 9.3) by distances, so that it is the same wherever a letter stands. Distances are those of rounded points:
 * nothing adds up along an outline.
 */
function relative(commands: fontkit.Path['commands'], scale: number): string {
  let [x, y] = [0, 0];
  let [startX, startY] = [0, 0];
  let d = '';
  for (const { command, args } of commands) {
    const points = args.map((n, i) => Math.round((i % 2 === 0 ? n : -n) * scale * FINE));
    d += `${LETTER_OF[command]}${points.map((n, i) => (n - (i % 2 === 0 ? x : y)) / FINE).join(' ')}`;
    if (command === 'closePath') [x, y] = [startX, startY];
    else [x, y] = points.slice(-2) as [number, number];
    if (command === 'moveTo') [startX, startY] = [x, y];
  }
  return d;
}

const LETTER_OF = { moveTo: 'm', lineTo: 'l', quadraticCurveTo: 'q', bezierCurveTo: 'c', closePath: 'z' } as const;

/** A scene whose texts are outlines of their letters, so that it looks the same where the font is not there. Texts with letters no file has stay texts. */
export function outlined(scene: Scene, files: FontFiles): Scene {
  const fonts = openFonts(files);
  const marks = scene.marks.map((mark) => (mark.shape === 'text' ? (outlinedText(mark, fonts) ?? mark) : mark));
  return { ...scene, marks };
}

/** A text as the outlines of its letters, set as it was measured: without kerning. */
function outlinedText(mark: Mark & { shape: 'text' }, fonts: ReturnType<typeof openFonts>): Mark | null {
  const letters: Outline[] = [];
  for (const letter of lettersIn(mark.text)) {
    const font = fonts[mark.weight].find((one) => one.has(letter.codePointAt(0)!));
    if (!font) return null;
    letters.push(font.outline(letter, mark.size));
  }
  const width = letters.reduce((sum, { advance }) => sum + advance, 0);
  let x = mark.x - { start: 0, middle: width / 2, end: width }[mark.anchor];
  let d = '';
  for (const letter of letters) {
    if (letter.d !== '') d += `M${Math.round(x * FINE) / FINE} ${Math.round(mark.y * FINE) / FINE}${letter.d}`;
    x += letter.advance;
  }
  const { role, key, step, value, paint, rule } = mark;
  return { shape: 'path', role, key, step, value, paint, rule, d, points: [] };
}
