import { create } from 'zustand';
import type { BlockPlace } from '@bold-ruler/core/edit';

/** Where a figure that is dragged would lie: before or behind a block, or in a row of its own at the end. */
export interface Target {
  readonly over: BlockPlace | null;
  /** Where it would be put; null for a row of its own. */
  readonly at: BlockPlace | null;
}

/** A figure that is dragged from the list onto the paper, and where it is now. */
export const useFigureDrag = create<{
  readonly held: { readonly id: string; readonly title: string; readonly x: number; readonly y: number } | null;
  readonly target: Target | null;
}>(() => ({ held: null, target: null }));

/** The place of the block under a point of the screen. */
export function placeUnder(x: number, y: number): BlockPlace | null {
  const found = blockUnder(x, y);
  const [row, block] = found?.dataset['place']?.split(' ').map(Number) ?? [];
  return row === undefined || block === undefined ? null : [row, block];
}

const blockUnder = (x: number, y: number): HTMLElement | undefined =>
  document
    .elementsFromPoint(x, y)
    .find((one): one is HTMLElement => one instanceof HTMLElement && one.dataset['place'] !== undefined);

/** Where a figure let go at a point of the screen would lie; null beside the paper. */
export function targetUnder(x: number, y: number): Target | null {
  const over = placeUnder(x, y);
  if (!over) {
    const paper = document.elementsFromPoint(x, y).some((one) => one.closest('[data-arranging]'));
    return paper ? { over: null, at: null } : null;
  }
  const { left, width } = blockUnder(x, y)!.getBoundingClientRect();
  return { over, at: [over[0], over[1] + (x > left + width / 2 ? 1 : 0)] };
}
