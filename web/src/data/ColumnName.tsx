'use client';

import { useState } from 'react';
import { attempt } from '@/store/edit';
import { DraftText } from '@/fields/DraftText';
import { Field, INPUT } from '@/ui/Field';

interface Props {
  readonly tableId: string;
  readonly name: string;
  readonly onRenamed: (name: string) => void;
}

/** The name of a column: another one is followed to every figure, measure, filter and expression that uses it. */
export function ColumnName({ tableId, name, onRenamed }: Props) {
  const [refused, setRefused] = useState<string | null>(null);
  const place = `name of column ${name} of ${tableId}`;
  async function rename(to: string): Promise<void> {
    const problem = await attempt({ edit: 'rename-column', table: tableId, column: name, to });
    setRefused(problem?.message ?? null);
    if (!problem) onRenamed(to);
  }
  return (
    <Field label="Name" {...(refused === null ? {} : { hint: refused })}>
      <DraftText
        className={INPUT}
        place={place}
        base={name}
        aria-invalid={refused === null ? undefined : true}
        onTake={(text) => {
          if (text !== '' && text !== name) void rename(text);
        }}
      />
    </Field>
  );
}
