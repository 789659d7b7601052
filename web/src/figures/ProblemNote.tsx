'use client';

import { useEffect, useState } from 'react';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import type { RepairShown } from '@/worker/desk.worker';
import type { SentProblem } from '@/worker/sent';

interface Props {
  readonly problem: SentProblem;
  /** The figure whose brief is to be mended; its brief, so that repairs are looked for anew. */
  readonly figureId: string;
  readonly text: string;
  readonly onText: (text: string) => void;
}

/** Why a figure cannot be drawn, and what would let it be, each a press away. */
export function ProblemNote({ problem, figureId, text, onText }: Props) {
  const [found, setFound] = useState<{ text: string; repairs: readonly RepairShown[] }>({ text: '', repairs: [] });
  useEffect(() => {
    let current = true;
    void desk()
      .repairs(useReport.getState().report!, figureId)
      .then((answer) => current && setFound({ text, repairs: answer.ok ? answer.value : [] }));
    return () => {
      current = false;
    };
  }, [figureId, text]);
  const repairs = found.text === text ? found.repairs : [];
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
