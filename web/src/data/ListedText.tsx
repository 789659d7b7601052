'use client';

import { useState } from 'react';
import { DraftText } from '@/fields/DraftText';
import { Field, INPUT } from '@/ui/Field';
import { FileButton } from '@/ui/FileButton';

interface Props {
  /** Where what is not taken yet is kept. */
  readonly place: string;
  readonly label: string;
  /** What stands below it while all of it can be read. */
  readonly hint: string;
  readonly lines: readonly string[];
  /** Says what a button that reads a file is called, and for those who only hear it. */
  readonly file: { readonly label: string; readonly button: string };
  readonly rows?: number;
  /** Takes what is written or in a file; a sentence where it cannot be read, which then stays to be mended. */
  readonly onTake: (text: string, from: 'field' | 'file') => string | null;
}

/** A list with one thing a line, typed, pasted or from a file. */
export function ListedText({ place, label, hint, lines, file, rows = 6, onTake }: Props) {
  const [problem, setProblem] = useState<string | null>(null);
  const take = (text: string, from: 'field' | 'file') => {
    const said = onTake(text, from);
    setProblem(said);
    return said === null;
  };
  return (
    <>
      <Field label={label} hint={problem ?? hint}>
        <DraftText
          place={place}
          rows={rows}
          className={`${INPUT} h-auto py-1.5 font-figure`}
          aria-invalid={problem === null ? undefined : true}
          base={lines.join('\n')}
          onTake={(text) => take(text, 'field')}
        />
      </Field>
      <FileButton
        small
        className="w-full"
        label={file.label}
        onFiles={([first]) => void first!.text().then((text) => take(text, 'file'))}
      >
        {file.button}
      </FileButton>
    </>
  );
}
