import { useEffect, useState } from 'react';

/** What came of the work, and what it was done for. */
export interface Found<T> {
  readonly of: readonly unknown[];
  readonly value: T;
  /** When, as milliseconds of the clock. */
  readonly at: number;
}

const isSame = (a: readonly unknown[], b: readonly unknown[]) =>
  a.length === b.length && a.every((one, i) => Object.is(one, b[i]));

/**
 * Does work that takes time whenever what it rests on has changed; what comes late, for something before, is not taken.
 * @param of what it rests on
 * @param work null does nothing; where it fails, what was found before stays, and `failed` is told
 * @param options.quiet milliseconds without a change before it is begun
 * @param options.left is told of work that nobody waits for any more
 * @returns the last that was found, and whether it is for what is wanted now
 */
export function useLatest<T>(
  of: readonly unknown[],
  work: (() => Promise<T>) | null,
  {
    quiet = 0,
    failed = () => {},
    left = () => {},
  }: {
    readonly quiet?: number;
    readonly failed?: (error: unknown) => void;
    readonly left?: (work: Promise<T>) => void;
  } = {},
): { readonly found: Found<T> | null; readonly isFresh: boolean } {
  const [wanted, setWanted] = useState(of);
  const [found, setFound] = useState<Found<T> | null>(null);
  if (!isSame(wanted, of)) setWanted(of);
  const isWorking = work !== null;
  useEffect(() => {
    if (!work) return;
    let current = true;
    let begun: Promise<T> | null = null;
    const begin = () => {
      begun = work();
      return begun.then(
        (value) => current && setFound({ of: wanted, value, at: Date.now() }),
        (error: unknown) => current && failed(error),
      );
    };
    // What need not be quiet first is asked for at once, not in a turn of its own.
    const timer = quiet > 0 ? setTimeout(() => void begin(), quiet) : null;
    if (timer === null) void begin();
    return () => {
      current = false;
      if (timer !== null) clearTimeout(timer);
      if (begun) left(begun);
    };
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- what it rests on is told
  }, [wanted, isWorking, quiet]);
  const now = isWorking ? found : null;
  return { found: now, isFresh: now !== null && now.of === wanted && isSame(wanted, of) };
}
