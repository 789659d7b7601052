import { useLayoutEffect, useRef, type RefObject } from 'react';

/**
 * Shows marks in an `<svg>`. What is drawn again as it was stays where it is, so that only what is new is set and measured: of a page
 * that is filtered a third of the texts are the same.
 * @param marks SVG elements as text, written by the core, which lets nothing through that is not a mark or a text
 */
export function useMarks(marks: string): RefObject<SVGSVGElement | null> {
  const svg = useRef<SVGSVGElement>(null);
  useLayoutEffect(() => {
    const now = svg.current!;
    const next = now.cloneNode(false) as SVGSVGElement;
    next.innerHTML = marks;
    const [shown, wanted] = [[...now.childNodes], [...next.childNodes]];
    wanted.forEach((node, i) => {
      const there = shown[i];
      if (!there) now.append(node);
      else if (!there.isEqualNode(node)) there.replaceWith(node);
    });
    for (const node of shown.slice(wanted.length)) node.remove();
  }, [marks]);
  return svg;
}
