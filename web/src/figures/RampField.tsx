'use client';

import { DIVERGING, SEQUENTIAL } from '@bold-ruler/core/highlight';
import type { Ramp } from '@bold-ruler/core/report';
import { DraftText } from '@/fields/DraftText';
import { Field, INPUT } from '@/ui/Field';

interface Props {
  /** Which highlight it belongs to. */
  readonly of: string;
  readonly ramp: Ramp | undefined;
  /** The middle may lie at each row's benchmark. */
  readonly hasBenchmark: boolean;
  readonly onRamp: (ramp: Ramp | undefined) => void;
}

/** What is painted by no rule: plain ink, or inks between two ends. */
export function RampField({ of, ramp, hasBenchmark, onRamp }: Props) {
  const ink = (label: string, value: string, set: (ink: string) => Ramp) => (
    <label className="text-xs text-quiet">
      <span className="mb-1 block">{label}</span>
      <input
        type="color"
        className="h-6 w-full"
        value={value}
        onChange={(event) => onRamp(set(event.target.value.toUpperCase()))}
      />
    </label>
  );
  const middle = ramp?.middle;
  return (
    <div className="space-y-2">
      <Field label="What no rule paints">
        <select
          className={INPUT}
          value={ramp ? (middle ? 'parting' : 'growing') : ''}
          onChange={(event) =>
            onRamp(event.target.value === '' ? undefined : event.target.value === 'parting' ? DIVERGING : SEQUENTIAL)
          }
        >
          <option value="">plain ink</option>
          <option value="growing">darker with the number</option>
          <option value="parting">two inks that part at a middle</option>
        </select>
      </Field>
      {ramp && (
        <div className="grid grid-cols-3 gap-1.5">
          {ink('lowest', ramp.low, (low) => ({ ...ramp, low }))}
          {middle && ink('middle', middle.ink, (next) => ({ ...ramp, middle: { ...middle, ink: next } }))}
          {ink('highest', ramp.high, (high) => ({ ...ramp, high }))}
        </div>
      )}
      {ramp && middle && (
        <Field label="Where the middle lies">
          <DraftText
            place={`middle of ${of}`}
            base={String(middle.at)}
            className={INPUT}
            list="ramp-middle"
            onTake={(text) => {
              const at =
                text === 'benchmark' && hasBenchmark ? text : text === '' ? NaN : Number(text.replace('−', '-'));
              if (at !== middle.at && (at === 'benchmark' || Number.isFinite(at)))
                onRamp({ ...ramp, middle: { ...middle, at } });
            }}
          />
          <datalist id="ramp-middle">
            <option value="0" />
            {hasBenchmark && <option value="benchmark" />}
          </datalist>
        </Field>
      )}
    </div>
  );
}
