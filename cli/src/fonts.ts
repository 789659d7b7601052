import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { inflateSync } from 'node:zlib';
import { FONT_IN_FILES, readFontFiles, type FontFiles } from '@bold-ruler/core/scene';

const require = createRequire(import.meta.url);
const read = (path: string) => readFileSync(require.resolve(path));

/** The figure's font as base64 WOFF2 by weight, for files that carry it along. */
export function embeddedFonts(): Record<number, string> {
  return Object.fromEntries(
    Object.entries(FONT_IN_FILES).map(([weight, path]) => [weight, read(path).toString('base64')]),
  );
}

let files: FontFiles | undefined;

/** The same as OpenType files, with the letters of more languages behind. They are read once. */
export function fontFiles(): FontFiles {
  return (files ??= readFontFiles((path) => unpackedFont(read(path))));
}

/** Bytes of a WOFF file's head, and of each entry of its list of tables. */
const [WOFF_HEAD, WOFF_ENTRY] = [44, 20];
/** The same of an OpenType file. */
const [HEAD, ENTRY] = [12, 16];

/** The OpenType font in a WOFF 1.0 file: what is built in unpacks it ten times as fast as what reads fonts. */
export function unpackedFont(woff: Uint8Array): Uint8Array {
  const from = new DataView(woff.buffer, woff.byteOffset, woff.byteLength);
  const count = from.getUint16(12);
  const font = new Uint8Array(from.getUint32(16));
  const to = new DataView(font.buffer);
  const power = Math.floor(Math.log2(count));
  to.setUint32(0, from.getUint32(4));
  to.setUint16(4, count);
  to.setUint16(6, 16 * 2 ** power);
  to.setUint16(8, power);
  to.setUint16(10, 16 * (count - 2 ** power));
  let at = HEAD + ENTRY * count;
  for (let i = 0; i < count; i++) {
    const entry = WOFF_HEAD + WOFF_ENTRY * i;
    const [tag, start, packed, length, checksum] = [0, 4, 8, 12, 16].map((field) => from.getUint32(entry + field));
    const bytes = woff.subarray(start!, start! + packed!);
    [tag!, checksum!, at, length!].forEach((value, f) => to.setUint32(HEAD + ENTRY * i + 4 * f, value));
    font.set(packed! < length! ? inflateSync(bytes) : bytes, at);
    at += (length! + 3) & ~3;
  }
  return font;
}
