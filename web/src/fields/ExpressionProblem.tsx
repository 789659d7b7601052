'use client';

import type { SentProblem } from '@bold-ruler/core/problem';
import { Button } from '@/ui/Button';

interface Props {
  readonly problem: SentProblem;
  /** The expression it is about; null where its place in it is not shown. */
  readonly text: string | null;
  /** Takes the expression as one of the fixes makes it; left out where it cannot be written here. */
  readonly onFix?: (text: string) => void;
}

/** Letters that are shown around the place of a mistake. */
const AROUND = 24;

/** What is wrong with an expression: where, what, and a button for each way to put it right. */
export function ExpressionProblem({ problem: { sentence, remedy, place, fixes }, text, onFix }: Props) {
  const span = text === null ? undefined : place?.span;
  return (
    <div role="alert" className="mt-2 text-[13px] text-behind">
      {span && (
        <span className="mb-1 block font-figure text-ink">
          {text!.slice(Math.max(0, span[0] - AROUND), span[0])}
          <span className="underline decoration-behind decoration-2 underline-offset-2">
            {text!.slice(span[0], span[1]) || ' '}
          </span>
          {text!.slice(span[1], span[1] + AROUND)}
        </span>
      )}
      {sentence}
      {remedy && !(onFix && fixes.length > 0) ? ` — ${remedy}` : ''}
      {onFix &&
        text !== null &&
        fixes.map((fix) => (
          <span key={fix.text} className="mt-1 block">
            <Button small onClick={() => onFix(text.slice(0, fix.from) + fix.text + text.slice(fix.to))}>
              Write {fix.text}
            </Button>
          </span>
        ))}
    </div>
  );
}
