'use client';

import type { Look } from '@bold-ruler/core/report';
import { setLook } from '../commands';

/** Whether rows lie across or stand upright. */
export function DirectionField({ figureId, look }: { figureId: string; look: Look }) {
  const orientation = look.orientation ?? 'horizontal';
  return (
    <div role="radiogroup" aria-label="Bars run" className="flex">
      {(['horizontal', 'vertical'] as const).map((way) => (
        <button
          key={way}
          type="button"
          role="radio"
          aria-checked={orientation === way}
          onClick={() => setLook(figureId, 'turn the figure', 'orientation', way === 'horizontal' ? undefined : way)}
          className={`h-8 grow border px-2 text-[13px] first:rounded-l-sm last:rounded-r-sm last:border-l-0 ${orientation === way ? 'border-ink bg-ink text-paper' : 'border-hairline bg-paper hover:border-ink'}`}
        >
          {way === 'horizontal' ? 'across' : 'upright'}
        </button>
      ))}
    </div>
  );
}
