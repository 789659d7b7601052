import { PAPER, writeSheet } from '../scene';
import type { DrawnPage } from './drawPage';

/** A page as one SVG, everything where it stands. The same page gives the same bytes. */
export function writePage(page: DrawnPage): string {
  return writeSheet(
    page,
    page.placed.map(({ x, y, scene, kind }) => ({ x, y, scene, paper: kind === 'figure' ? PAPER : null })),
  );
}
