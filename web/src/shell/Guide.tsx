'use client';

import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { useDrawings } from '@/store/drawings';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { GUIDE, useGuide, type GuideStep } from '@/store/guide';
import type { Step } from '@/store/steps';

const WORDS: Readonly<Record<GuideStep, readonly [title: string, words: string]>> = {
  by: [
    'A sentence makes the figure',
    'It stands above the paper, and each of its words can be pressed. Press “territory” and choose “product line”.',
  ],
  against: [
    'What is it held against?',
    'Now press “plan” and choose “last year”. The title, the bars and the colours follow.',
  ],
  row: ['How did it come about?', 'Press a bar. At the right stands its reckoning, from the rows to the pixel.'],
  page: [
    'For somebody who reads it',
    'Go to “Page” at the left (or press 4), and press a member there: all figures follow.',
  ],
  own: [
    'And now with your own rows',
    'Drop a file of sales on the first page. You see how its rows were understood, and one press leads to its first figure; targets in a second file become something to hold it against.',
  ],
};

/** Five steps for somebody new: each waits until it has been done, and the last leads to their own data. */
export function Guide({ at }: { at: Step }) {
  const router = useRouter();
  const { step, done, end } = useGuide();
  const first = useReport(({ report }) => report?.figures[0]?.id ?? '');
  const brief = useDrawings(({ byFigure }) => byFigure[first]?.drawn?.readable.brief);
  useEffect(() => {
    if (brief && brief.by[0] !== 'territory') done('by');
    if (brief && brief.against !== 'plan') done('against');
  }, [brief, step, done]);
  useEffect(() => {
    if (at === 'page') done('page');
  }, [at, step, done]);
  if (step === null) return null;
  const [title, words] = WORDS[step];
  const place = GUIDE.indexOf(step);
  return (
    <aside
      aria-label="Guide"
      aria-live="polite"
      className="fixed bottom-4 left-[92px] z-20 w-[340px] border border-ink/25 bg-paper shadow-popover"
    >
      <div aria-hidden className="flex h-2.5 gap-px bg-paper">
        {GUIDE.map((one, i) => (
          <span key={one} className={`grow ${i <= place ? 'bg-boxwood' : 'bg-hairline'}`} />
        ))}
      </div>
      <div className="p-4 text-[13px] leading-snug">
        <p className="text-xs text-quiet">
          {place + 1} of {GUIDE.length}
        </p>
        <h2 className="text-[15px] font-semibold">{title}</h2>
        <p className="mt-1">{words}</p>
        <p className="mt-3 flex gap-2">
          {step === 'own' ? (
            <Button
              small
              look="main"
              onClick={() => {
                end();
                router.push('/');
              }}
            >
              To the first page
            </Button>
          ) : (
            <Button small onClick={() => done(step)}>
              Next
            </Button>
          )}
          <Button small look="bare" onClick={end}>
            Leave the guide
          </Button>
        </p>
      </div>
    </aside>
  );
}
