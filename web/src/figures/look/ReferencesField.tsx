'use client';

import { BUILT_IN_BENCHMARKS } from '@bold-ruler/core/report';
import { useReport } from '@/store/reportStore';
import { setLook } from '../commands';
import type { FieldFacts } from './OptionField';

/** Every benchmark there is, one's own first. */
export function useBenchmarkNames(): string[] {
  const benchmarks = useReport((state) => state.report!.benchmarks);
  const own = benchmarks.map(({ name }) => name);
  return [...own, ...BUILT_IN_BENCHMARKS.map(({ name }) => name).filter((name) => !own.includes(name))];
}

/** What else a headline is held against. */
export function ReferencesField({ figureId, look }: FieldFacts) {
  const names = useBenchmarkNames();
  const references = look.references ?? [];
  return (
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
  );
}
