import { useEffect, useState } from 'react';
import type * as floatingParts from './floatingParts';

type Parts = typeof floatingParts;

let coming: Promise<Parts> | null = null;
let come: Parts | null = null;

/** Fetches what popovers are made of, so that it is there before one is opened. */
export function fetchFloatingParts(): Promise<Parts> {
  coming ??= import('./floatingParts').then(
    (parts) => (come = parts),
    (error: unknown) => {
      // Whoever opens one next tries once more.
      coming = null;
      throw error;
    },
  );
  return coming;
}

/** What popovers are made of, which comes after the page; null until it is there. From then on it is there at once. */
export function useFloatingParts(wanted: boolean): Parts | null {
  const [parts, setParts] = useState(come);
  useEffect(() => {
    if (!wanted || parts) return;
    fetchFloatingParts().then(setParts, (error: unknown) =>
      // The page says it as it says every failure of its own.
      setParts(() => {
        throw error;
      }),
    );
  }, [wanted, parts]);
  return parts ?? come;
}
