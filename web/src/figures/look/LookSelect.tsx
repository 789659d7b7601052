'use client';

import type { Look } from '@bold-ruler/core/report';
import { Field, INPUT } from '@/ui/Field';
import { setLook } from '../commands';

/** The parts of a look that are one word out of a few. */
type WordKey = { [K in keyof Look]-?: NonNullable<Look[K]> extends string ? K : never }[keyof Look];

interface Props {
  readonly figureId: string;
  readonly look: Look;
  readonly of: WordKey;
  readonly label: string;
  /** What can be chosen, with its words; '' leaves it out. */
  readonly choices: readonly (readonly [string, string])[];
}

export function LookSelect({ figureId, look, of, label, choices }: Props) {
  return (
    <Field label={label}>
      <select
        className={INPUT}
        value={look[of] ?? ''}
        onChange={(event) =>
          setLook(figureId, label.toLowerCase(), of, (event.target.value || undefined) as Look[WordKey])
        }
      >
        {choices.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </Field>
  );
}

/** The parts of a look that are on or left out. */
type FlagKey = { [K in keyof Look]-?: NonNullable<Look[K]> extends true ? K : never }[keyof Look];

export function LookFlag({ figureId, look, of, label }: Omit<Props, 'of' | 'choices'> & { readonly of: FlagKey }) {
  return (
    <label className="flex items-center gap-2 text-[13px]">
      <input
        type="checkbox"
        checked={look[of] ?? false}
        onChange={(event) => setLook(figureId, label, of, event.target.checked ? true : undefined)}
      />
      {label}
    </label>
  );
}
