import { useCallback } from 'react';
import type { PageSpot } from '@bold-ruler/core/desk';
import { useReader } from './readerState';

/** A member pressed in one figure narrows the others; pressed again it is let go. */
export function usePick(): (figure: string, spot: PageSpot) => void {
  return useCallback((figure: string, { key }: PageSpot) => {
    const { choice, choose } = useReader.getState();
    const [field, member] = Object.entries(key)[0] ?? [];
    if (field === undefined) return;
    const { picked } = choice;
    const isSame = picked?.figure === figure && picked.field === field && picked.member === (member ?? null);
    choose({ picked: isSame ? null : { figure, field, member: member ?? null } });
  }, []);
}
