'use client';

import type { InputHTMLAttributes } from 'react';
import { useDraft } from '@/store/useDraft';

type Common = Omit<
  InputHTMLAttributes<HTMLInputElement & HTMLTextAreaElement>,
  'value' | 'defaultValue' | 'onChange' | 'onBlur' | 'onKeyDown'
>;

interface Props extends Common {
  /** Where it is written: what is not taken yet is kept there. */
  readonly place: string;
  /** What the report has. */
  readonly base: string;
  /** Lines of a long text; without them it is one line, which Enter ends. */
  readonly rows?: number;
  /**
   * Takes the text when the field is left.
   * @returns false when it cannot be taken: it stays as it was written
   */
  readonly onTake: (text: string) => boolean | void;
}

/** A text that is taken when its field is left, as it may be none that can stand before; until then it is kept as a draft. */
export function DraftText({ place, base, rows, onTake, ...more }: Props) {
  const [text, setText, isDraft] = useDraft(place, base);
  const shared = {
    ...more,
    value: text,
    onChange: (event: { target: { value: string } }) => setText(event.target.value),
    onKeyDown: (event: React.KeyboardEvent<HTMLInputElement & HTMLTextAreaElement>) => {
      if (event.key === 'Escape') setText(null);
      if (event.key === 'Enter' && rows === undefined) event.currentTarget.blur();
    },
    onBlur: () => {
      if (isDraft && onTake(text.trim()) !== false) setText(null);
    },
  };
  return rows === undefined ? <input {...shared} /> : <textarea rows={rows} {...shared} />;
}
