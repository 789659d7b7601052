'use client';

import { desk } from '@/store/desk';
import { useAnswer } from '@/store/useAnswer';
import { Button } from '@/ui/Button';
import type { SentProblem } from '@bold-ruler/core/problem';

interface Props {
  readonly problem: SentProblem;
  /** The figure whose brief is to be mended; its brief, so that repairs are looked for anew. */
  readonly figureId: string;
  readonly text: string;
  readonly onText: (text: string) => void;
}

/** Why a figure cannot be drawn, and what would let it be, each a press away. */
export function ProblemNote({ problem, figureId, text, onText }: Props) {
  const { value, isFresh } = useAnswer([figureId, text], (now) => desk().repairs(now, figureId));
  const repairs = isFresh && value ? value : [];
  return (
    <div role="alert" className="mt-2 border-l-4 border-behind bg-paper px-3 py-1.5 text-[13px]">
      <p>{problem.message}</p>
      {repairs.length > 0 && (
        <p className="mt-1.5 flex flex-wrap gap-1.5">
          {repairs.map(({ name, text: mended }) => (
            <Button key={mended} small onClick={() => onText(mended)}>
              {name.charAt(0).toUpperCase() + name.slice(1)}
            </Button>
          ))}
        </p>
      )}
    </div>
  );
}
