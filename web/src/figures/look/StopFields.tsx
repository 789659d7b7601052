'use client';

import type { Look } from '@bold-ruler/core/report';
import { Field, INPUT } from '@/ui/Field';
import { setLook } from '../commands';
import { useBenchmarkNames } from './HeadlineFields';

/** Where dials stop: a number, or a benchmark that follows the members. */
export function StopFields({ figureId, look }: { figureId: string; look: Look }) {
  const names = useBenchmarkNames();
  const stops = look.stops ?? {};
  return (
    <div className="grid grid-cols-2 gap-2">
      {(['low', 'high'] as const).map((end) => (
        <Field key={end} label={end === 'low' ? 'Stops at' : 'and at'}>
          <input
            key={String(stops[end])}
            list={`stops-${end}`}
            className={INPUT}
            placeholder="what fits"
            defaultValue={stops[end] ?? ''}
            onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
            onBlur={(event) => {
              const text = event.target.value.trim();
              const { [end]: _, ...rest } = stops;
              const stop = text === '' ? undefined : Number.isFinite(Number(text)) ? Number(text) : text;
              if (stop === stops[end]) return;
              const next = stop === undefined ? rest : { ...rest, [end]: stop };
              setLook(figureId, 'move a stop', 'stops', Object.keys(next).length > 0 ? next : undefined);
            }}
          />
          <datalist id={`stops-${end}`}>
            {names.map((name) => (
              <option key={name} value={name} />
            ))}
          </datalist>
        </Field>
      ))}
    </div>
  );
}
