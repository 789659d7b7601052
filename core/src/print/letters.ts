import * as fontkit from 'fontkit';
import type { FontFiles, Mark, Scene, Weight } from '../scene';

/** One file of a font. */
export interface OpenFont {
  readonly file: Uint8Array;
  readonly font: fontkit.Font;
  /** @param letter a code point */
  has(letter: number): boolean;
  /** Its outline as path data with its left end at (x, y), and how far the next letter is from it, in pixels. */
  outline(letter: string, size: number, x: number, y: number): { readonly d: string; readonly advance: number };
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
  return {
    file,
    font,
    has: (letter) => known.has(letter),
    outline(letter, size, x, y) {
      const glyph = font.glyphForCodePoint(letter.codePointAt(0)!);
      const scale = size / font.unitsPerEm;
      const d = glyph.path.commands
        .map(({ command, args }) => {
          const points = args.map((n, i) => (i % 2 === 0 ? x + n * scale : y - n * scale).toFixed(3)).join(' ');
          return `${LETTER_OF[command]}${points}`;
        })
        .join('');
      return { d, advance: glyph.advanceWidth * scale };
    },
  };
}

const LETTER_OF = { moveTo: 'M', lineTo: 'L', quadraticCurveTo: 'Q', bezierCurveTo: 'C', closePath: 'Z' } as const;

/** A scene whose texts are outlines of their letters, so that it looks the same where the font is not there. Texts with letters no file has stay texts. */
export function outlined(scene: Scene, files: FontFiles): Scene {
  const fonts = openFonts(files);
  const marks = scene.marks.map((mark) => (mark.shape === 'text' ? (outlinedText(mark, fonts) ?? mark) : mark));
  return { ...scene, marks };
}

/** A text as the outlines of its letters, set as it was measured: without kerning. */
function outlinedText(mark: Mark & { shape: 'text' }, fonts: ReturnType<typeof openFonts>): Mark | null {
  const letters: { readonly letter: string; readonly font: OpenFont; readonly advance: number }[] = [];
  for (const letter of mark.text) {
    const font = fonts[mark.weight].find((one) => one.has(letter.codePointAt(0)!));
    if (!font) return null;
    letters.push({ letter, font, advance: font.outline(letter, mark.size, 0, 0).advance });
  }
  const width = letters.reduce((sum, { advance }) => sum + advance, 0);
  let x = mark.x - { start: 0, middle: width / 2, end: width }[mark.anchor];
  let d = '';
  for (const { letter, font, advance } of letters) {
    d += font.outline(letter, mark.size, x, mark.y).d;
    x += advance;
  }
  const { role, key, step, value, paint, rule } = mark;
  return { shape: 'path', role, key, step, value, paint, rule, d, points: [] };
}
