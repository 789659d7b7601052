import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

const require = createRequire(import.meta.url);

/** The figure's font as base64 WOFF2 by weight, for files that carry it along. */
export function embeddedFonts(): Record<number, string> {
  const fontOf = (weight: number) =>
    readFileSync(
      require.resolve(`@fontsource/archivo-narrow/files/archivo-narrow-latin-${weight}-normal.woff2`),
    ).toString('base64');
  return { 400: fontOf(400), 600: fontOf(600) };
}

let files: Record<400 | 600, Uint8Array[]> | undefined;

/** The same as WOFF files, with the letters of more languages behind. They are read once. */
export function fontFiles(): Record<400 | 600, Uint8Array[]> {
  const filesOf = (weight: number) =>
    ['latin', 'latin-ext', 'vietnamese'].map((subset) =>
      readFileSync(require.resolve(`@fontsource/archivo-narrow/files/archivo-narrow-${subset}-${weight}-normal.woff`)),
    );
  return (files ??= { 400: filesOf(400), 600: filesOf(600) });
}
