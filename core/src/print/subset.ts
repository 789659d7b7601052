import type { Font } from 'fontkit';
import type { FontFace, FontFiles, Scene, Weight } from '../scene';
import { base64 } from '../zip';
import { openFonts } from './letters';

// The letters that a picture uses, as fonts of their own. fontkit takes the glyphs out of the font's files; what a browser asks of a font
// besides, as it stands in ISO/IEC 14496-22 (Open Font Format), is written here.

/** Code points of the texts of some scenes, by weight. */
function lettersIn(scenes: readonly Scene[]): ReadonlyMap<Weight, ReadonlySet<number>> {
  const letters = new Map<Weight, Set<number>>();
  for (const { marks } of scenes)
    for (const mark of marks) {
      if (mark.shape !== 'text') continue;
      const some = letters.get(mark.weight) ?? new Set<number>();
      letters.set(mark.weight, some);
      for (const letter of mark.text) some.add(letter.codePointAt(0)!);
    }
  return letters;
}

/**
 * Fonts with the letters that some scenes are set in, to be carried along by their picture: a face for each weight and each file the
 * letters come from. Letters that no file has are left to the reader's fonts.
 * @param files the figure's font; a letter is taken from the first file that has it
 */
export function facesFor(scenes: readonly Scene[], files: FontFiles): FontFace[] {
  const faces: FontFace[] = [];
  for (const [weight, letters] of lettersIn(scenes)) {
    const left = new Set(letters);
    for (const { font, has } of openFonts(files)[weight]) {
      // Characters beyond the first plane are in none of the files.
      const here = [...left].filter((letter) => letter < 0x10000 && has(letter)).sort((a, b) => a - b);
      for (const letter of here) left.delete(letter);
      if (here.length > 0)
        faces.push({ weight, letters: here, format: 'truetype', data: base64(subset(font, here, weight)) });
    }
  }
  return faces;
}

/** A font of some letters of another. */
function subset(font: Font, letters: readonly number[], weight: Weight): Uint8Array {
  const glyphs = font.createSubset();
  // The types say it were a yes or no.
  const put = (letter: number) => Number(glyphs.includeGlyph(font.glyphForCodePoint(letter)));
  const places = letters.map((letter) => [letter, put(letter)] as const);
  const tables = tablesOf(glyphs.encode());
  tables.set('cmap', cmap(places));
  tables.set('OS/2', os2(font, letters, weight));
  tables.set('name', names(`Bold Ruler ${weight}`));
  tables.set(
    'post',
    table(32, (view) => view.setUint32(0, 0x00030000)),
  );
  return sfnt(tables);
}

/** A table of so many bytes, big-endian as all of them are. */
function table(length: number, write: (view: DataView) => void): Uint8Array {
  const bytes = new Uint8Array(length);
  write(new DataView(bytes.buffer));
  return bytes;
}

function tablesOf(bytes: Uint8Array): Map<string, Uint8Array> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  return new Map(
    Array.from({ length: view.getUint16(4) }, (_, i) => {
      const at = 12 + 16 * i;
      const tag = String.fromCharCode(...bytes.subarray(at, at + 4));
      const from = view.getUint32(at + 8);
      return [tag, bytes.slice(from, from + view.getUint32(at + 12))] as const;
    }),
  );
}

/** Which glyph a letter has: format 4, a segment for each letter. */
function cmap(places: readonly (readonly [letter: number, glyph: number])[]): Uint8Array {
  const segments = [...places, [0xffff, 0] as const];
  const count = segments.length;
  const length = 16 + 8 * count;
  return table(12 + length, (view) => {
    view.setUint16(2, 1);
    // Windows, Unicode.
    view.setUint16(4, 3);
    view.setUint16(6, 1);
    view.setUint32(8, 12);
    const power = 2 ** Math.floor(Math.log2(count));
    [4, length, 0, 2 * count, 2 * power, Math.log2(power), 2 * (count - power)].forEach((n, i) =>
      view.setUint16(12 + 2 * i, n),
    );
    segments.forEach(([letter, glyph], i) => {
      view.setUint16(26 + 2 * i, letter);
      view.setUint16(28 + 2 * count + 2 * i, letter);
      // What is added to the letter to give its glyph, modulo 65,536.
      view.setUint16(28 + 4 * count + 2 * i, (letter === 0xffff ? 1 : glyph - letter) & 0xffff);
    });
  });
}

/** Metrics and classes, version 4. */
function os2(font: Font, letters: readonly number[], weight: Weight): Uint8Array {
  const { ascent, descent, lineGap, xHeight, capHeight } = font;
  return table(96, (view) => {
    view.setUint16(0, 4);
    view.setInt16(2, Math.round(font.unitsPerEm / 2));
    view.setUint16(4, weight);
    view.setUint16(6, 5);
    // Regular; its letters are measured by the typographic line.
    view.setUint16(62, 0x00c0);
    view.setUint16(64, letters[0]!);
    view.setUint16(66, letters.at(-1)!);
    view.setInt16(68, ascent);
    view.setInt16(70, descent);
    view.setInt16(72, lineGap);
    view.setUint16(74, ascent);
    view.setUint16(76, Math.abs(descent));
    view.setUint32(78, 1);
    view.setInt16(86, xHeight);
    view.setInt16(88, capHeight);
    view.setUint16(92, 32);
  });
}

/** What the font is called, for those who look. */
function names(family: string): Uint8Array {
  const texts = [
    [1, family],
    [2, 'Regular'],
    [4, family],
    [6, family.replaceAll(' ', '')],
  ] as const;
  const head = 6 + 12 * texts.length;
  return table(head + texts.reduce((sum, [, text]) => sum + 2 * text.length, 0), (view) => {
    view.setUint16(2, texts.length);
    view.setUint16(4, head);
    let at = 0;
    texts.forEach(([id, text], i) => {
      // Windows, Unicode, English.
      [3, 1, 0x409, id, 2 * text.length, at].forEach((n, k) => view.setUint16(6 + 12 * i + 2 * k, n));
      for (let c = 0; c < text.length; c++) view.setUint16(head + at + 2 * c, text.charCodeAt(c));
      at += 2 * text.length;
    });
  });
}

/** The sum of a table's words, by which readers see that it is whole. */
function checksum(bytes: Uint8Array): number {
  let sum = 0;
  for (let i = 0; i < bytes.length; i += 4)
    sum =
      (sum +
        (((bytes[i]! << 24) | ((bytes[i + 1] ?? 0) << 16) | ((bytes[i + 2] ?? 0) << 8) | (bytes[i + 3] ?? 0)) >>>
          0)) >>>
      0;
  return sum;
}

/** Tables as one font file, in the order of their tags. */
function sfnt(tables: ReadonlyMap<string, Uint8Array>): Uint8Array {
  const all = [...tables].sort(([a], [b]) => (a < b ? -1 : 1));
  const padded = (length: number) => (length + 3) & ~3;
  const start = 12 + 16 * all.length;
  const bytes = new Uint8Array(all.reduce((sum, [, { length }]) => sum + padded(length), start));
  const view = new DataView(bytes.buffer);
  const power = 2 ** Math.floor(Math.log2(all.length));
  view.setUint32(0, 0x00010000);
  [all.length, 16 * power, Math.log2(power), 16 * (all.length - power)].forEach((n, i) => view.setUint16(4 + 2 * i, n));
  let at = start;
  let head = 0;
  all.forEach(([tag, data], i) => {
    const entry = 12 + 16 * i;
    const one = data.slice();
    if (tag === 'head') {
      head = at;
      new DataView(one.buffer).setUint32(8, 0);
    }
    for (let c = 0; c < 4; c++) bytes[entry + c] = tag.charCodeAt(c);
    view.setUint32(entry + 4, checksum(one));
    view.setUint32(entry + 8, at);
    view.setUint32(entry + 12, one.length);
    bytes.set(one, at);
    at += padded(one.length);
  });
  view.setUint32(head + 8, (0xb1b0afba - checksum(bytes)) >>> 0);
  return bytes;
}
