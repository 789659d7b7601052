'use client';

import { useMemo, useState, type RefObject } from 'react';
import type { Mark, Scene } from '@bold-ruler/core/scene';

/** A figure of more rows than this is scrolled, and only what is seen of it is drawn. */
const MANY_ROWS = 60;
/** Height of the window on a scrolled figure, and how far beyond it marks are drawn, in pixels. */
export const WINDOW = 620;
const BEYOND = 400;

/** The height at which a mark begins. */
function topOf(mark: Mark): number {
  switch (mark.shape) {
    case 'rect':
    case 'text':
      return mark.y;
    case 'line':
      return Math.min(mark.y1, mark.y2);
    case 'circle':
    case 'arc':
      return mark.cy;
    case 'path':
      return mark.points[0]?.[1] ?? 0;
  }
}

export interface Scrolled {
  /** The part of the scene that is drawn now; all of it where it is not scrolled. */
  readonly shown: Scene;
  readonly isScrolled: boolean;
  /** What stays above the rows once it has been scrolled by: its height, and its marks. */
  readonly heading: { readonly from: number; readonly height: number; readonly scene: Scene } | null;
  /** A mark lies where it is drawn now. */
  sees(mark: Mark): boolean;
  onScroll(): void;
  /** Brings a mark into the window. */
  reveal(mark: Mark): void;
}

const HEADING = 34;

/** What is to be drawn of a figure that may be far higher than the window on it. */
export function useScrolled(scene: Scene, box: RefObject<HTMLDivElement | null>): Scrolled {
  const [top, setTop] = useState(0);
  const { scroll } = scene;
  const isScrolled = scroll !== undefined && (scroll.bottom - scroll.top) / scroll.row > MANY_ROWS;
  const tops = useMemo(() => (isScrolled ? scene.marks.map(topOf) : []), [scene, isScrolled]);
  // Redrawn when the window has moved by half of what lies beyond it.
  const from = Math.floor(top / (BEYOND / 2)) * (BEYOND / 2) - BEYOND;
  const to = from + WINDOW + 2.5 * BEYOND;
  const shown = useMemo(
    () => (isScrolled ? { ...scene, marks: scene.marks.filter((_, i) => tops[i]! >= from && tops[i]! <= to) } : scene),
    [scene, isScrolled, tops, from, to],
  );
  const heading = useMemo(() => {
    if (!isScrolled) return null;
    const start = scroll.top - HEADING;
    const marks = scene.marks.filter((_, i) => tops[i]! > start && tops[i]! <= scroll.top + 0.5);
    return { from: start, height: HEADING, scene: { ...scene, marks } };
  }, [scene, isScrolled, scroll, tops]);
  const scale = () => (box.current ? box.current.clientWidth / scene.width : 1);
  return {
    shown,
    isScrolled,
    heading: heading && top > heading.from ? heading : null,
    sees: (mark) => !isScrolled || (topOf(mark) >= from && topOf(mark) <= to),
    onScroll: () => setTop((box.current?.scrollTop ?? 0) / scale()),
    reveal(mark) {
      if (!isScrolled || !box.current) return;
      const y = topOf(mark) * scale();
      const { scrollTop, clientHeight } = box.current;
      if (y < scrollTop + 60) box.current.scrollTo({ top: y - 60 });
      else if (y > scrollTop + clientHeight - 60) box.current.scrollTo({ top: y - clientHeight + 60 });
    },
  };
}
