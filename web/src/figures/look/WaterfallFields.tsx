'use client';

import { useReport } from '@/store/reportStore';
import { Field, INPUT } from '@/ui/Field';
import { setLook } from '../commands';
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
    <Field label="Split into volume, price and mix by">
      <select
        className={INPUT}
        value={look.quantity ?? ''}
        onChange={(event) => setLook(figureId, 'split the gap', 'quantity', event.target.value || undefined)}
      >
        <option value="">not split</option>
        {measures.map(({ name }) => (
          <option key={name}>{name}</option>
        ))}
      </select>
    </Field>
  );
}
