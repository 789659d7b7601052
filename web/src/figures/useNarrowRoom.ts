import { useEffect, useState } from 'react';

/** A paper of this width shows a figure as it is drawn by itself. */
const WIDE = 700;
const LEAST = 240;

/** Pixels within an element's padding, in steps of ten; null where a figure has the room it is drawn for by itself. */
export function useNarrowRoom(element: HTMLElement | null): number | null {
  const [room, setRoom] = useState<number | null>(null);
  useEffect(() => {
    if (!element) return;
    const watch = new ResizeObserver(() => {
      const { paddingLeft, paddingRight } = getComputedStyle(element);
      const width = element.clientWidth - parseFloat(paddingLeft) - parseFloat(paddingRight);
      setRoom(width >= WIDE ? null : Math.max(LEAST, Math.floor(width / 10) * 10));
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, [element]);
  return room;
}
