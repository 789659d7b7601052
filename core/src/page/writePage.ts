import { PAPER, writeSheet, type FontFace } from '../scene';
import type { DrawnPage } from './drawPage';

/**
 * A page as one SVG, everything where it stands. The same page gives the same bytes.
 * @param fonts what the picture carries along
 */
export function writePage(page: DrawnPage, fonts: readonly FontFace[] = []): string {
  return writeSheet(
    page,
    page.placed.map(({ x, y, scene, kind }) => ({ x, y, scene, paper: kind === 'figure' ? PAPER : null })),
    fonts,
  );
}
