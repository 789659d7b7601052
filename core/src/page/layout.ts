import type { PageBlock } from '../report';

/** The paper of a page, in pixels: its margin, the gutters between blocks, and what is too narrow for two of them. */
export const SHEET = { margin: 20, gutter: 20, narrow: 640, row: 20 } as const;
const TWELFTHS = 12;

export interface PlacedBlock {
  readonly x: number;
  readonly width: number;
}

/**
 * Where the blocks of a row stand across a page: shares of twelve columns with gutters between them, so that equal shares in
 * rows below one another line up. Rows that leave twelfths free leave them at the right. On a narrow page (a phone) every
 * block takes the whole width, one beneath the other: `stacked`.
 */
export function placedBlocks(
  blocks: readonly Pick<PageBlock, 'share'>[],
  width: number,
): { columns: PlacedBlock[]; stacked: boolean } {
  const margin = width < SHEET.narrow ? SHEET.margin / 2 : SHEET.margin;
  const inner = width - 2 * margin;
  if (width < SHEET.narrow) return { columns: blocks.map(() => ({ x: margin, width: inner })), stacked: true };
  const twelfth = (inner + SHEET.gutter) / TWELFTHS;
  let before = 0;
  const columns = blocks.map(({ share }) => {
    const column = { x: margin + before * twelfth, width: share * twelfth - SHEET.gutter };
    before += share;
    return column;
  });
  return { columns, stacked: false };
}
