import { FULL_ROW, type BlockPlace } from '@bold-ruler/core/edit';
import type { Claim, PageBlock, PageFilter, PageRow } from '@bold-ruler/core/report';
import { freeId } from '@/store/freeName';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';

/** So many figures stand on a new page. */
const FIRST_FIGURES = 6;

/** A page behind the others, with the report's first figures. Gives its id. */
export function addPage(): string {
  const report = useReport.getState().report!;
  const id = freeId(
    'p',
    report.pages.map((page) => page.id),
  );
  // Two by two; a last one alone has the row for itself.
  const figures = report.figures.slice(0, FIRST_FIGURES);
  const rows: PageRow[] = [];
  for (let i = 0; i < figures.length; i += 2) {
    const pair = figures.slice(i, i + 2);
    rows.push({ blocks: pair.map((figure) => ({ figure: figure.id, share: FULL_ROW / pair.length })) });
  }
  void edit({ edit: 'add-page', page: { id, title: report.name, filters: [], rows } });
  return id;
}

export function removePage(page: string): void {
  void edit({ edit: 'remove-page', page });
}

export function setTitle(page: string, title: string, place: string): void {
  void edit({ edit: 'set-title', page, title }, place);
}

export function setFilters(page: string, filters: readonly PageFilter[], period: boolean): void {
  void edit({ edit: 'set-filters', page, filters, period });
}

/** Puts something on the page: into the last row where it has room, else into a row of its own. */
export function addBlock(page: string, saying: string, block: PageBlock, own = false): void {
  void edit({ edit: 'add-block', saying, page, block, ...(own ? { own } : {}) });
}

export function addHead(page: string): void {
  void edit({ edit: 'add-head', page, head: 'Section' });
}

export function moveRow(page: string, from: number, to: number): void {
  void edit({ edit: 'move-row', page, from, to });
}

export function removeRow(page: string, row: number): void {
  void edit({ edit: 'remove-row', page, row });
}

export function setHead(page: string, row: number, head: string, place: string): void {
  void edit({ edit: 'set-head', page, row, head }, place);
}

/** Pixels of a row; null lets it be as high as its figures need. */
export function setHeight(page: string, row: number, height: number | null): void {
  void edit({ edit: 'set-height', page, row, height });
}

/** Makes a block wider or narrower; its right neighbour, or else its left one, gives or takes where the row is full. */
export function widen(page: string, row: number, block: number, by: number): void {
  void edit({ edit: 'widen-block', page, at: [row, block], by });
}

/** Moves a block one place in reading order: within its row, or into the row before or after, where there is room. */
export function moveBlock(page: string, row: number, block: number, by: -1 | 1): void {
  void edit({ edit: 'step-block', page, at: [row, block], by });
}

/** Puts a block where another one stands, which makes way. */
export function moveBlockTo(page: string, from: BlockPlace, to: BlockPlace): void {
  void edit({ edit: 'move-block', page, from, to });
}

/** Two blocks change places. */
export function swapBlocks(page: string, from: BlockPlace, to: BlockPlace): void {
  void edit({ edit: 'swap-blocks', page, from, to });
}

/** Puts a figure before the block at a place, or without one into a row of its own. */
export function putFigure(page: string, figure: string, at: BlockPlace | null): void {
  void edit({
    edit: 'add-block',
    page,
    block: { figure, share: at ? 4 : 6 },
    ...(at ? { at } : { own: true as const }),
  });
}

export function removeBlock(page: string, row: number, block: number): void {
  void edit({ edit: 'remove-block', page, at: [row, block] });
}

/** Puts a finding on the page: into the text that tells of its figure, or as a text of its own. */
export function takeFinding(page: string, found: { figure: string; claim: Claim; template: string }): void {
  const { figure, claim, template } = found;
  void edit({ edit: 'take-finding', page, figure, claim, template });
}

/** A suggestion that is not made again. */
export function dismissFinding(page: string, figure: string, kind: Claim['kind']): void {
  void edit({ edit: 'dismiss-finding', page, figure, kind });
}

/** What a text says, and whose values it tells. */
export function setText(page: string, row: number, block: number, text: string, about: string | null, place?: string) {
  void edit({ edit: 'set-text', page, at: [row, block], text, about }, place);
}
