import type { FontFiles } from '@bold-ruler/core/print';

const FILES = {
  400: new URL('@fontsource/archivo-narrow/files/archivo-narrow-latin-400-normal.woff2', import.meta.url),
  600: new URL('@fontsource/archivo-narrow/files/archivo-narrow-latin-600-normal.woff2', import.meta.url),
} as const;

/** The figure's font as base64 WOFF2 by weight, for files that carry it along. It is served beside the application. */
export async function fetchEmbeddedFonts(): Promise<Record<number, string>> {
  const fontOf = async (weight: keyof typeof FILES) => {
    const bytes = new Uint8Array(await (await fetch(FILES[weight])).arrayBuffer());
    let text = '';
    for (const byte of bytes) text += String.fromCharCode(byte);
    return btoa(text);
  };
  return { 400: await fontOf(400), 600: await fontOf(600) };
}

const OUTLINES = {
  400: [
    new URL('@fontsource/archivo-narrow/files/archivo-narrow-latin-400-normal.woff', import.meta.url),
    new URL('@fontsource/archivo-narrow/files/archivo-narrow-latin-ext-400-normal.woff', import.meta.url),
    new URL('@fontsource/archivo-narrow/files/archivo-narrow-vietnamese-400-normal.woff', import.meta.url),
  ],
  600: [
    new URL('@fontsource/archivo-narrow/files/archivo-narrow-latin-600-normal.woff', import.meta.url),
    new URL('@fontsource/archivo-narrow/files/archivo-narrow-latin-ext-600-normal.woff', import.meta.url),
    new URL('@fontsource/archivo-narrow/files/archivo-narrow-vietnamese-600-normal.woff', import.meta.url),
  ],
} as const;

/** The figure's font as WOFF files, for PDF and for outlines. */
export async function fetchFontFiles(): Promise<FontFiles> {
  const filesOf = (urls: readonly URL[]) =>
    Promise.all(urls.map(async (url) => new Uint8Array(await (await fetch(url)).arrayBuffer())));
  return { 400: await filesOf(OUTLINES[400]), 600: await filesOf(OUTLINES[600]) };
}
