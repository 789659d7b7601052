'use client';

import { useReport } from '@/store/reportStore';
import { setLook } from '../commands';
import { LookSelect } from './LookSelect';
import type { FieldFacts } from './OptionField';

/** The order of a waterfall's steps. */
export function OrderField({ figureId, look }: FieldFacts) {
  return (
    <label className="flex items-center gap-2 text-[13px]">
      <input
        type="checkbox"
        checked={look.order === 'size'}
        onChange={(event) => setLook(figureId, 'order the steps', 'order', event.target.checked ? 'size' : undefined)}
      />
      the largest steps first
    </label>
  );
}

/** What of a gap comes from quantity and price. */
export function QuantityField({ figureId, look }: FieldFacts) {
  const measures = useReport((state) => state.report!.measures);
  return (
    <LookSelect
      figureId={figureId}
      look={look}
      of="quantity"
      label="Split into volume, price and mix by"
      choices={[['', 'not split'], ...measures.map(({ name }) => [name, name] as const)]}
    />
  );
}
