'use client';

import type { PathStep } from '@bold-ruler/core/desk';

interface Props {
  readonly path: readonly PathStep[];
  /** The field that is shown now. */
  readonly by: string;
  readonly onBack: (text: string) => void;
}

/** The members a figure was gone into, each a way back to what was seen there. */
export function WayBack({ path, by, onBack }: Props) {
  if (path.length === 0) return null;
  const button = 'underline decoration-boxwood decoration-2 underline-offset-4 hover:decoration-ink';
  return (
    <nav aria-label="Way back" className="mb-2 flex flex-wrap items-baseline gap-x-2 text-[13px]">
      {path.map(({ field, text }, i) => (
        <span key={field} className="flex items-baseline gap-2">
          <button type="button" className={button} onClick={() => onBack(text)}>
            {i === 0 ? `every ${field}` : path[i - 1]!.member}
          </button>
          <span aria-hidden>›</span>
        </span>
      ))}
      <strong className="font-semibold">{path.at(-1)!.member}</strong>
      <span className="text-quiet">by {by}</span>
    </nav>
  );
}
