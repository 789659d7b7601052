'use client';

import { useDraft } from '@/store/useDraft';

interface Props {
  /** Where it is written: what is not taken yet is kept there. */
  readonly place: string;
  /** What the report has. */
  readonly base: string;
  readonly rows: number;
  readonly className: string;
  /** Takes the text when the field is left. */
  readonly onTake: (text: string) => void;
}

/** A text that is taken when its field is left, as it may be no expression before; until then it is kept as a draft. */
export function DraftText({ place, base, rows, className, onTake }: Props) {
  const [text, setText] = useDraft(place, base);
  return (
    <textarea
      rows={rows}
      className={className}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onKeyDown={(event) => event.key === 'Escape' && setText(null)}
      onBlur={() => {
        setText(null);
        if (text.trim() !== base) onTake(text.trim());
      }}
    />
  );
}
