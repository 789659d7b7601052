'use client';

import { useEffect, useState } from 'react';
import type { Brief } from '@bold-ruler/core/brief';
import { isWriting } from '@/ui/isWriting';
import { desk } from '@/store/desk';
import { useAnswer } from '@/store/useAnswer';
import { useReport } from '@/store/reportStore';
import type { Offered, ReadableBrief } from '@bold-ruler/core/desk';
import type { SentProblem } from '@bold-ruler/core/problem';
import { BriefText } from './BriefText';
import type { Part } from './parts';
import { ProblemNote } from './ProblemNote';
import { BriefSentence } from './BriefSentence';

interface Props {
  readonly figureId: string;
  readonly text: string;
  readonly readable: ReadableBrief | null;
  readonly offered: Offered | null;
  /** A part to open, touched elsewhere. */
  readonly opened: { readonly part: Part } | null;
  readonly problem: SentProblem | null;
  readonly onText: (text: string) => void;
  /** Another brief than the one that is shown: what differs is changed. */
  readonly onBrief: (next: Brief, shown: Brief) => void;
  readonly onRefused: (problem: SentProblem) => void;
}

/** The brief above the paper: a sentence of buttons, or with “/” a text. */
export function BriefLine({ figureId, text, readable, offered, opened, problem, onText, onBrief, onRefused }: Props) {
  const place = `brief of ${figureId}`;
  // What was written before the page was left goes on.
  const [writing, setWriting] = useState(() => useReport.getState().drafts.get(place)?.base === text);
  // A figure that cannot be drawn may still have a brief that can be read.
  const unaided = useAnswer([text], readable ? null : (now) => desk().read(now, text));
  const read = readable ?? (unaided.isFresh ? unaided.value : null);
  const unreadable = !readable && unaided.isFresh && unaided.value === null;

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== '/' || event.ctrlKey || event.metaKey || isWriting(event.target)) return;
      event.preventDefault();
      setWriting(true);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  /** A part written by hand: the brief without it, and the words behind. */
  async function writePart(rest: Brief, words: string): Promise<void> {
    const { report } = useReport.getState();
    const without = await desk().write(report!, rest);
    const answer = without.ok ? await desk().read(report!, `${without.value.text} ${words}`) : without;
    if (answer.ok) onBrief(answer.value.brief, read!.brief);
    else onRefused(answer.problem);
  }

  return (
    <div className="mb-3">
      {writing || (unreadable && offered) ? (
        <BriefText
          text={text}
          place={place}
          onDraw={(next) => {
            onText(next);
            setWriting(false);
          }}
          onLeave={() => setWriting(false)}
        />
      ) : (
        read && (
          <BriefSentence
            readable={read}
            offered={offered}
            opened={opened}
            onBrief={(brief) => onBrief(brief, read.brief)}
            onWords={(rest, words) => void writePart(rest, words)}
            onWrite={() => setWriting(true)}
          />
        )
      )}
      {/* Where nothing can be asked for, its words stand as they are. */}
      {unreadable && !offered && !writing && <p>{text}</p>}
      {problem && !writing && !(unreadable && offered) && (
        <ProblemNote problem={problem} figureId={figureId} text={text} onText={onText} />
      )}
    </div>
  );
}
