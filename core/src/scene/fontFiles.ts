import type { Weight } from './text';

/** The figure's font by weight: WOFF files, in the order in which a letter is looked for in them. */
export type FontFiles = Readonly<Record<Weight, readonly Uint8Array[]>>;

/** A font that a picture carries along: some letters of the figure's font, in one weight. */
export interface FontFace {
  readonly weight: Weight;
  /** Code points, in order. */
  readonly letters: readonly number[];
  readonly format: 'truetype';
  /** Base64. */
  readonly data: string;
}

const file = (subset: string, weight: number, kind: string) =>
  `@fontsource/archivo-narrow/files/archivo-narrow-${subset}-${weight}-normal.${kind}`;

/** The files of the figure's font that files carry along, as paths in its package. */
export const FONT_IN_FILES = { 400: file('latin', 400, 'woff2'), 600: file('latin', 600, 'woff2') } as const;

const ASCII = String.fromCharCode(...Array.from({ length: 95 }, (_, i) => 32 + i));

/** The letters of smaller files of the font, for pages that have no others: ASCII, and what our words and numbers are written with. */
export const BASIC_LETTERS = `${ASCII}\u00a0£¥°±²·×–—‘’“”•…\u202f›€→−`;

/**
 * The figure's font with the letters of more languages behind, for PDF and for outlines.
 * @param read gives the bytes of a file by its path in the font's package
 */
export function readFontFiles(read: (path: string) => Uint8Array): FontFiles {
  const filesOf = (weight: number) =>
    ['latin', 'latin-ext', 'vietnamese'].map((subset) => read(file(subset, weight, 'woff')));
  return { 400: filesOf(400), 600: filesOf(600) };
}
