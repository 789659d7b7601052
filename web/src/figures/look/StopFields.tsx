'use client';

import type { Look } from '@bold-ruler/core/report';
import { AmountField } from '@/fields/AmountField';
import { setLook } from '../commands';
import { useBenchmarkNames } from './ReferencesField';

/** Where dials stop: a number, or a benchmark that follows the members. */
export function StopFields({ figureId, look }: { figureId: string; look: Look }) {
  const names = useBenchmarkNames();
  const stops = look.stops ?? {};
  return (
    <div className="grid grid-cols-2 gap-2">
      {(['low', 'high'] as const).map((end) => (
        <AmountField<number | string>
          key={end}
          place={`stop ${end} of ${figureId}`}
          label={end === 'low' ? 'Stops at' : 'and at'}
          placeholder="what fits"
          className=""
          mayBeEmpty
          value={stops[end]}
          names={names}
          named={(text) => names.find((name) => name.toLowerCase() === text.toLowerCase())}
          onKeep={(stop) => {
            const { [end]: _, ...rest } = stops;
            const next = stop === undefined ? rest : { ...rest, [end]: stop };
            setLook(figureId, 'move a stop', 'stops', Object.keys(next).length > 0 ? next : undefined);
          }}
        />
      ))}
    </div>
  );
}
