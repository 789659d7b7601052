import { usePathname } from 'next/navigation';
import { useEffect } from 'react';
import { create } from 'zustand';
import { useReport } from '@/store/reportStore';
import { figureIn, pathOf } from '@/store/steps';

/** The figure that was on the bench last: it lies there again where an address names none. */
const useLast = create<{ readonly figure: string | null }>(() => ({ figure: null }));

/** The figure that lies on the bench: the one that the address names, else the one that lay there last. */
export function useChosen(): string | null {
  const named = figureIn(usePathname());
  const last = useLast(({ figure }) => figure);
  useEffect(() => {
    if (named !== null) useLast.setState({ figure: named });
  }, [named]);
  return named ?? last;
}

/**
 * Lays a figure on the bench and names it in the address, so that reload and Back return to it.
 * @param go enters the figures from another step of the work
 * @param stepping one of many in a row: going back does not walk through them
 */
export function chooseFigure(figure: string, go: ((path: string) => void) | null = null, stepping = false): void {
  const { id } = useReport.getState();
  useLast.setState({ figure });
  if (id === null) return;
  const path = pathOf(id, 'figures', figure);
  if (!window.location.pathname.startsWith(pathOf(id, 'figures'))) go?.(path);
  else if (figureIn(window.location.pathname) === figure) return;
  else if (stepping) window.history.replaceState(null, '', path);
  else window.history.pushState(null, '', path);
}
