import { useEffect, useState } from 'react';
import type * as floatingParts from './floatingParts';

type Parts = typeof floatingParts;

let coming: Promise<Parts> | null = null;
let come: Parts | null = null;

/** Fetches what popovers are made of, so that it is there before one is opened. */
export function fetchFloatingParts(): Promise<Parts> {
  return (coming ??= import('./floatingParts').then((parts) => (come = parts)));
}

/** What popovers are made of, which comes after the page; null until it is there. From then on it is there at once. */
export function useFloatingParts(wanted: boolean): Parts | null {
  const [parts, setParts] = useState(come);
  useEffect(() => {
    if (wanted && !parts) void fetchFloatingParts().then(setParts);
  }, [wanted, parts]);
  return parts ?? come;
}
