'use client';

import type { Look } from '@bold-ruler/core/report';
import { Field, INPUT } from '@/ui/Field';
import { DraftText } from '@/fields/DraftText';
import { setLook } from '../commands';

/** The parts of a look that are one word out of a few. */
export type WordKey = { [K in keyof Look]-?: NonNullable<Look[K]> extends string ? K : never }[keyof Look];

interface Props {
  readonly figureId: string;
  readonly look: Look;
  readonly of: WordKey;
  readonly label: string;
  /** What can be chosen, with its words; '' leaves it out. */
  readonly choices: readonly (readonly [string, string])[];
}

/** The parts of a look that are true, false or left out. */
export type DecidedKey = {
  [K in keyof Look]-?: boolean extends NonNullable<Look[K]>
    ? NonNullable<Look[K]> extends boolean
      ? K
      : never
    : never;
}[keyof Look];

interface DecidedProps extends Omit<Props, 'of' | 'choices'> {
  readonly of: DecidedKey;
  readonly none: string;
  readonly words: Readonly<Record<string, string>>;
}

export function LookDecided({ figureId, look, of, label, none, words }: DecidedProps) {
  const is = look[of];
  return (
    <Field label={label}>
      <select
        className={INPUT}
        value={is === undefined ? '' : is ? 'yes' : 'no'}
        onChange={({ target: { value } }) =>
          setLook(figureId, label.toLowerCase(), of, value === '' ? undefined : value === 'yes')
        }
      >
        {[['', none], ...Object.entries(words)].map(([value, text]) => (
          <option key={value} value={value}>
            {text}
          </option>
        ))}
      </select>
    </Field>
  );
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
export type FlagKey = { [K in keyof Look]-?: NonNullable<Look[K]> extends true ? K : never }[keyof Look];

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

/** The parts of a look that are a whole number or left out. */
export type CountKey = { [K in keyof Look]-?: NonNullable<Look[K]> extends number ? K : never }[keyof Look];

interface CountProps {
  readonly figureId: string;
  readonly look: Look;
  readonly of: CountKey;
  readonly label: string;
  readonly least: number;
  readonly most: number;
  /** What is counted. */
  readonly hint: string;
}

/** A whole number; one too small or too large gives way to the nearest that is allowed. What goes with a smoothed line stands beside it. */
export function CountField({ figureId, look, of, label, least, most, hint }: CountProps) {
  return (
    <div className="grid grid-cols-2 gap-2">
      <Field label={label}>
        <DraftText
          place={`${of} of ${figureId}`}
          type="number"
          min={least}
          max={most}
          className={INPUT}
          placeholder={hint}
          base={String(look[of] ?? '')}
          onTake={(text) => {
            const next = text === '' ? undefined : Math.min(most, Math.max(least, Math.round(Number(text)) || least));
            if (next !== look[of]) setLook(figureId, label.toLowerCase(), of, next);
          }}
        />
      </Field>
      {of === 'smooth' && look.smooth !== undefined && (
        <LookSelect
          figureId={figureId}
          look={look}
          of="window"
          label="which"
          choices={[
            ['', 'this one last'],
            ['preceding', 'those before'],
            ['centred', 'around it'],
          ]}
        />
      )}
    </div>
  );
}
