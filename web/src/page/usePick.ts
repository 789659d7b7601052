import { useCallback } from 'react';
import type { PageSpot } from '@bold-ruler/core/desk';
import { pickedBack, pickedNext } from '@bold-ruler/core/brief';
import { useReader } from './readerState';

/** A member pressed in one figure narrows the others, and goes into it where the report has a level below; pressed again it is let go. */
export function usePick(): (figure: string, spot: PageSpot) => void {
  return useCallback((figure: string, { key }: PageSpot) => {
    const { choice, choose } = useReader.getState();
    const [field, member] = Object.entries(key)[0] ?? [];
    if (field !== undefined) choose({ picked: pickedNext(choice.picked, { figure, field, member: member ?? null }) });
  }, []);
}

/** Lets go what was picked last: one level back in the figure that was gone into. */
export function letGo(): void {
  const { choice, choose } = useReader.getState();
  const { picked } = choice;
  if (picked) choose({ picked: pickedBack(picked, (picked.within ?? []).length) });
}
