'use client';

import type { Look } from '@bold-ruler/core/report';
import { BUILT_IN_BENCHMARKS } from '@bold-ruler/core/report';
import { useReport } from '@/store/reportStore';
import { Field, INPUT } from '@/ui/Field';
import { setLook } from '../commands';

/** Every benchmark there is, one's own first. */
export function useBenchmarkNames(): string[] {
  const benchmarks = useReport((state) => state.report!.benchmarks);
  const own = benchmarks.map(({ name }) => name);
  return [...own, ...BUILT_IN_BENCHMARKS.map(({ name }) => name).filter((name) => !own.includes(name))];
}

/** How a headline stands, what else it is held against, and how changes are written. */
export function HeadlineFields({ figureId, look }: { figureId: string; look: Look }) {
  const names = useBenchmarkNames();
  const references = look.references ?? [];
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <Field label="Layout">
          <select
            className={INPUT}
            value={look.layout ?? 'text'}
            onChange={(event) =>
              setLook(figureId, 'change the layout', 'layout', event.target.value as NonNullable<Look['layout']>)
            }
          >
            <option value="text">text</option>
            <option value="over">over a bar</option>
            <option value="beside">beside a bar</option>
          </select>
        </Field>
        <Field label="Changes as">
          <select
            className={INPUT}
            value={look.change ?? ''}
            onChange={(event) =>
              setLook(figureId, 'write changes', 'change', (event.target.value || undefined) as Look['change'])
            }
          >
            <option value="">% and amount</option>
            <option value="percent">%</option>
            <option value="absolute">amount</option>
          </select>
        </Field>
      </div>
      <label className="flex items-center gap-2 text-[13px]">
        <input
          type="checkbox"
          checked={look.spark ?? false}
          onChange={(event) => setLook(figureId, 'a line of steps', 'spark', event.target.checked ? true : undefined)}
        />
        with a line of its steps
      </label>
      <fieldset>
        <legend className="mb-1 text-xs text-quiet">Also held against, up to four</legend>
        {names.map((name) => (
          <label key={name} className="flex items-center gap-2 py-0.5 text-[13px]">
            <input
              type="checkbox"
              checked={references.includes(name)}
              disabled={!references.includes(name) && references.length >= 4}
              onChange={(event) => {
                const next = event.target.checked ? [...references, name] : references.filter((one) => one !== name);
                setLook(figureId, 'hold against more', 'references', next.length > 0 ? next : undefined);
              }}
            />
            {name}
          </label>
        ))}
      </fieldset>
    </>
  );
}
