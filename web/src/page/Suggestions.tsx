'use client';

import type { Page } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { useShallow } from 'zustand/react/shallow';
import { useReport } from '@/store/reportStore';
import { useAnswer } from '@/store/useAnswer';
import { Button } from '@/ui/Button';
import { dismissFinding, takeFinding } from './commands';

/** What the figures of the page say: each sentence can be taken onto it, where it stays alive, or dismissed. */
export function Suggestions({ page }: { page: Page }) {
  const { report, tablesVersion } = useReport(useShallow(({ report, tablesVersion }) => ({ report, tablesVersion })));
  const { value, problem } = useAnswer([report, tablesVersion, page.id], (now) => desk().suggestions(now, page.id));
  const found = problem ? [] : value;
  return (
    <section aria-label="Findings">
      <h2 className="mb-1.5 text-xs text-quiet">What the figures say</h2>
      {found === null ? (
        <p className="text-[13px] text-quiet">Reading the numbers …</p>
      ) : found.length === 0 ? (
        <p className="text-[13px] text-quiet">Nothing more that stands out.</p>
      ) : (
        <ul className="space-y-2">
          {found.map((one) => (
            <li
              key={`${one.figure} ${one.claim.kind}`}
              className="border-l-4 border-boxwood bg-paper p-2 text-[13px] leading-snug"
            >
              <p>{one.text}.</p>
              <p className="mt-1.5 flex gap-1.5">
                <Button small onClick={() => takeFinding(page.id, one)}>
                  Put on the page
                </Button>
                <Button small look="bare" onClick={() => dismissFinding(page.id, one.figure, one.claim.kind)}>
                  Dismiss
                </Button>
              </p>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
