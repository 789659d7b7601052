import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { create, type Font } from 'fontkit';
import { expect, test } from 'vitest';
import type { Program } from '@bold-ruler/core/handover';
import { BASIC_LETTERS, FONT_IN_FILES, readFontFiles, textWidth, type Weight } from '@bold-ruler/core/scene';
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

test('the smaller font of pages has all basic letters, as the whole one has them, and digits of one width', () => {
  const { fonts } = JSON.parse(
    readFileSync(new URL('../../web/public/program/page.json', import.meta.url), 'utf8'),
  ) as Program;
  expect(Object.keys(fonts)).toEqual(['400', '600']);
  for (const weight of [400, 600] as Weight[]) {
    const smaller = create(Buffer.from(fonts[weight]!, 'base64')) as Font;
    const whole = create(readFileSync(require.resolve(FONT_IN_FILES[weight]))) as Font;
    expect(smaller.unitsPerEm).toBe(whole.unitsPerEm);
    let held = 0;
    for (const letter of BASIC_LETTERS) {
      const code = letter.codePointAt(0)!;
      // What the font does not have is set in another one either way.
      expect([letter, smaller.hasGlyphForCodePoint(code)]).toEqual([letter, whole.hasGlyphForCodePoint(code)]);
      if (!whole.hasGlyphForCodePoint(code)) continue;
      held += 1;
      const [mine, theirs] = [smaller, whole].map(
        (font) => font.layout(letter, { tnum: true, kern: false }).glyphs[0]!,
      );
      expect([letter, mine!.advanceWidth, mine!.path.toSVG()]).toEqual([
        letter,
        theirs!.advanceWidth,
        theirs!.path.toSVG(),
      ]);
      expect(mine!.advanceWidth / smaller.unitsPerEm).toBeCloseTo(textWidth(letter, 1, weight), 3);
    }
    expect(held).toBeGreaterThan(110);
  }
});
