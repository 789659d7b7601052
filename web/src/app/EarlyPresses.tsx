'use client';

import { useEffect } from 'react';
import { EARLY } from './early';

declare global {
  interface Window {
    [EARLY]?: { readonly pressed: HTMLElement | null; end(): void };
  }
}

/** Does what was pressed before the page could answer, as soon as it can. */
export function EarlyPresses() {
  useEffect(() => {
    const early = window[EARLY];
    if (!early) return;
    early.end();
    delete window[EARLY];
    if (early.pressed?.isConnected) early.pressed.click();
  }, []);
  return null;
}
