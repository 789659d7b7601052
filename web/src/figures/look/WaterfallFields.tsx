'use client';

import type { Look } from '@bold-ruler/core/report';
import { useReport } from '@/store/reportStore';
import { Field, INPUT } from '@/ui/Field';
import { setLook } from '../commands';
import { LookFlag } from './LookSelect';

/** The order of a waterfall's steps, its ruler, and what of a gap comes from quantity and price. */
export function WaterfallFields({
  figureId,
  look,
  hasBenchmark,
}: {
  figureId: string;
  look: Look;
  hasBenchmark: boolean;
}) {
  const measures = useReport((state) => state.report!.measures);
  return (
    <>
      <label className="flex items-center gap-2 text-[13px]">
        <input
          type="checkbox"
          checked={look.order === 'size'}
          onChange={(event) => setLook(figureId, 'order the steps', 'order', event.target.checked ? 'size' : undefined)}
        />
        the largest steps first
      </label>
      <LookFlag figureId={figureId} look={look} of="zoom" label="steps on a ruler of their own, totals broken" />
      {hasBenchmark && (
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
      )}
    </>
  );
}
