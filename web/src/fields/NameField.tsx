'use client';

import { useState } from 'react';
import type { SentProblem } from '@bold-ruler/core/problem';
import type { Named } from '@bold-ruler/core/report';
import { attempt } from '@/store/edit';
import { useDraft } from '@/store/useDraft';
import { Field, INPUT } from '@/ui/Field';

interface Props {
  readonly kind: Named;
  readonly name: string;
  readonly taken: readonly string[];
  readonly onRenamed: (name: string) => void;
}

/** A name in a report; another name is followed everywhere. */
export function NameField({ kind, name, taken, onRenamed }: Props) {
  const [text, setText] = useDraft(`name of ${kind} ${name}`, name);
  const [refused, setRefused] = useState<SentProblem | null>(null);
  const wanted = text.trim();
  const clash =
    wanted.toLowerCase() !== name.toLowerCase() && taken.some((one) => one.toLowerCase() === wanted.toLowerCase());
  const hint = clash ? 'Another one has this name.' : refused?.message;
  /** A name that cannot be given stays as it was written, with why; an empty one gives way to the one before. */
  async function rename(): Promise<void> {
    if (wanted === name || wanted === '') return setText(null);
    if (clash) return;
    const problem = await attempt({ edit: 'rename', kind, from: name, to: wanted });
    setRefused(problem);
    if (problem) return;
    setText(null);
    onRenamed(wanted);
  }
  return (
    <Field label="Name" {...(hint === undefined ? {} : { hint })}>
      <input
        className={INPUT}
        value={text}
        aria-invalid={hint === undefined ? undefined : true}
        onChange={(event) => {
          setRefused(null);
          setText(event.target.value);
        }}
        onBlur={() => void rename()}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
          if (event.key === 'Escape') {
            setRefused(null);
            setText(null);
          }
        }}
      />
    </Field>
  );
}
