import { useLayoutEffect, useState, type RefObject } from 'react';

/** Pages are drawn anew for every width in steps of this many pixels. */
const STEP = 20;
const LEAST = 320;
const MOST = 1500;

/** The width an element has for a page; 0 until it is known. `isThere` tells when the element comes later than what asks, `most` how wide it may become. */
export function useWidth(element: RefObject<HTMLElement | null>, isThere = true, most = MOST): number {
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const box = element.current;
    if (!box) return;
    const measure = () => setWidth(Math.min(most, Math.max(LEAST, Math.floor(box.clientWidth / STEP) * STEP)));
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(box);
    return () => observer.disconnect();
  }, [element, isThere, most]);
  return width;
}
