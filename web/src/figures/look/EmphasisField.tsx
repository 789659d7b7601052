'use client';

import { declarationOf } from '@bold-ruler/core/form';
import { setLook } from '../commands';
import type { FieldFacts } from './OptionField';

/** Who stands out among the lines: pressed in the figure, let go here. */
export function EmphasisField({ figureId, look, form }: FieldFacts) {
  const emphasis = look.emphasis ?? [];
  if (emphasis.length === 0)
    return declarationOf(form).ranks ? (
      <p className="text-xs text-quiet">Click a member to let it stand out, again to let it go.</p>
    ) : null;
  return (
    <p className="text-[13px]">
      {emphasis.join(', ')} {emphasis.length === 1 ? 'stands' : 'stand'} out.{' '}
      <button
        type="button"
        className="underline"
        onClick={() => setLook(figureId, 'no one stands out', 'emphasis', undefined)}
      >
        No one
      </button>
    </p>
  );
}
