'use client';

import type { Named } from '@bold-ruler/core/report';
import { edit } from '@/store/edit';
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
  const wanted = text.trim();
  const clash =
    wanted.toLowerCase() !== name.toLowerCase() && taken.some((one) => one.toLowerCase() === wanted.toLowerCase());
  async function rename(): Promise<void> {
    setText(null);
    if (wanted === name || wanted === '' || clash) return;
    if (!(await edit({ edit: 'rename', kind, from: name, to: wanted }))) return;
    onRenamed(wanted);
  }
  return (
    <Field label="Name" {...(clash ? { hint: 'Another one has this name.' } : {})}>
      <input
        className={INPUT}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => void rename()}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
          if (event.key === 'Escape') setText(null);
        }}
      />
    </Field>
  );
}
