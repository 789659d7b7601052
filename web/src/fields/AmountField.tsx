'use client';

import { useId, useState } from 'react';
import { readAmount } from '@bold-ruler/core/format';
import { useDraft } from '@/store/useDraft';
import { Field, INPUT } from '@/ui/Field';

interface Props<T> {
  /** Where it is typed, among all fields of the report: what is not taken yet is kept there. */
  readonly place: string;
  readonly label: string;
  /** What stands there now; nothing is an empty field. */
  readonly value: T | undefined;
  readonly write?: (value: T) => string;
  /** A text that is no number, such as a name; undefined where it is not known either. */
  readonly named?: (text: string) => T | undefined;
  readonly names?: readonly string[];
  /** Why an amount cannot stand here; null where it can. */
  readonly refuse?: (value: number) => string | null;
  readonly placeholder?: string;
  readonly className?: string;
  /** An empty field means something here. */
  readonly mayBeEmpty?: boolean;
  readonly onKeep: (value: T | number | undefined) => void;
}

/** An amount as people type it: 10M, 10,000,000, €5M. What cannot be read stays where it was typed, with what to do. */
export function AmountField<T = number>({
  place,
  label,
  value,
  write = String,
  named,
  names,
  refuse,
  placeholder,
  className = 'text-right',
  mayBeEmpty = false,
  onKeep,
}: Props<T>) {
  const shown = value === undefined ? '' : write(value);
  const [text, setText] = useDraft(place, shown);
  const [wrong, setWrong] = useState<string | null>(null);
  const list = useId();
  function take(value?: T | number): void {
    setText(null);
    setWrong(null);
    if (value !== undefined || mayBeEmpty) onKeep(value);
  }
  function keep(): void {
    const typed = text.trim();
    if (typed === shown) {
      setText(null);
      return setWrong(null);
    }
    if (typed === '') return take();
    const amount = readAmount(typed);
    if (amount === null) {
      const other = named?.(typed);
      if (other === undefined)
        return setWrong(`“${typed}” is no number${names ? ' and no benchmark' : ''}: write it as 5000, 5,000 or 5K`);
      return take(other);
    }
    const why = refuse?.(amount) ?? null;
    if (why !== null) return setWrong(why);
    take(amount);
  }
  return (
    <Field label={label} {...(wrong === null ? {} : { hint: wrong })}>
      <input
        className={`${INPUT} ${className}`}
        inputMode="decimal"
        value={text}
        onChange={(event) => setText(event.target.value)}
        aria-invalid={wrong === null ? undefined : true}
        {...(placeholder === undefined ? {} : { placeholder })}
        {...(names ? { list } : {})}
        onKeyDown={(event) => {
          if (event.key === 'Enter') keep();
          if (event.key === 'Escape') {
            setText(null);
            setWrong(null);
          }
        }}
        onBlur={keep}
      />
      {names && (
        <datalist id={list}>
          {names.map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
      )}
    </Field>
  );
}
