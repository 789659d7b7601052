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
