import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
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

/** The same as WOFF files, with the letters of more languages behind. They are read once. */
export function fontFiles(): FontFiles {
  return (files ??= readFontFiles(read));
}
