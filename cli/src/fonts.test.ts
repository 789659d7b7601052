import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { create, type Font } from 'fontkit';
import { expect, test } from 'vitest';
import { readFontFiles } from '@bold-ruler/core/scene';
import { fontFiles, unpackedFont } from './fonts';

const require = createRequire(import.meta.url);
const packed = readFontFiles((path) => readFileSync(require.resolve(path)));

test('a font that is unpacked here is, glyph by glyph, the one that a reader of fonts unpacks', () => {
  const text = 'Ærøskøbing 1,234.5 % €';
  const shapesOf = (bytes: Uint8Array) => {
    const font = create(Buffer.from(bytes)) as Font;
    return [
      font.postscriptName,
      font.numGlyphs,
      font.unitsPerEm,
      font.layout(text).glyphs.map((glyph) => [glyph.id, glyph.advanceWidth, glyph.path.toSVG()]),
    ];
  };
  const files = fontFiles();
  for (const weight of [400, 600] as const)
    packed[weight].forEach((woff, i) => expect(shapesOf(files[weight][i]!)).toEqual(shapesOf(woff)));
  // What is no WOFF file is not taken for one.
  expect(() => unpackedFont(new Uint8Array(8))).toThrow();
});
