import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { Resvg } from '@resvg/resvg-js';
import opentype, { type Font, type Path } from 'opentype.js';
import { writeSvg, type Mark, type Scene, type Weight } from '@bold-ruler/core/scene';

const require = createRequire(import.meta.url);
const SUBSETS = ['latin', 'latin-ext'] as const;
const opened = new Map<Weight, readonly Font[]>();

/** The figure font of a weight, as the files that ship with the application hold it. */
function fontsOf(weight: Weight): readonly Font[] {
  let fonts = opened.get(weight);
  if (!fonts) {
    fonts = SUBSETS.map((subset) => {
      const { buffer, byteOffset, length } = readFileSync(
        require.resolve(`@fontsource/archivo-narrow/files/archivo-narrow-${subset}-${weight}-normal.woff`),
      );
      return opentype.parse(buffer.slice(byteOffset, byteOffset + length) as ArrayBuffer);
    });
    opened.set(weight, fonts);
  }
  return fonts;
}

/** An outline as path data. The library's own writer makes NaN of fractions that need an exponent. */
function pathData({ commands }: Path): string {
  const point = (x: number, y: number) => `${x.toFixed(3)} ${y.toFixed(3)}`;
  return commands
    .map((command) => {
      switch (command.type) {
        case 'M':
        case 'L':
          return `${command.type}${point(command.x, command.y)}`;
        case 'Q':
          return `Q${point(command.x1, command.y1)} ${point(command.x, command.y)}`;
        case 'C':
          return `C${point(command.x1, command.y1)} ${point(command.x2, command.y2)} ${point(command.x, command.y)}`;
        case 'Z':
          return 'Z';
      }
    })
    .join('');
}

/** A text as the outlines of its letters, set as it was measured: without kerning. Null where the font lacks a letter. */
function outlined(mark: Mark & { shape: 'text' }): Mark | null {
  const fonts = fontsOf(mark.weight);
  const letters = [...mark.text].map((letter) => {
    const font = fonts.find((one) => one.charToGlyphIndex(letter) > 0);
    return font ? { font, glyph: font.charToGlyph(letter) } : null;
  });
  if (letters.some((letter) => letter === null)) return null;
  const advances = letters.map((letter) => ((letter!.glyph.advanceWidth ?? 0) * mark.size) / letter!.font.unitsPerEm);
  const width = advances.reduce((sum, advance) => sum + advance, 0);
  let x = mark.x - { start: 0, middle: width / 2, end: width }[mark.anchor];
  let d = '';
  letters.forEach((letter, i) => {
    d += pathData(letter!.glyph.getPath(x, mark.y, mark.size));
    x += advances[i]!;
  });
  const { role, key, step, value, paint, rule } = mark;
  return { shape: 'path', role, key, step, value, paint, rule, d, points: [] };
}

/** The scene as a PNG, `scale` pixels for each CSS pixel. Letters the figure's font lacks are set in a font of the system. */
export function writePng(scene: Scene, scale = 1): Buffer {
  const marks = scene.marks
    .filter(({ role }) => role !== 'cell')
    .map((mark) => (mark.shape === 'text' ? (outlined(mark) ?? mark) : mark));
  const svg = writeSvg({ ...scene, marks });
  return new Resvg(svg, { fitTo: { mode: 'zoom', value: scale } }).render().asPng();
}
