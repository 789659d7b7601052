const keep = (event: Event) => event.preventDefault();

/** For the `ref` of something inside a drawing that is dragged: a finger on it drags, and does not scroll the page. */
export function heldByTouch(element: Element | null): (() => void) | undefined {
  if (!element) return undefined;
  // What says so in styles is not heard for shapes within a drawing.
  element.addEventListener('touchstart', keep, { passive: false });
  return () => element.removeEventListener('touchstart', keep);
}
