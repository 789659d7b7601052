'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { chooseFigure } from '@/figures/chosen';
import { desk } from '@/store/desk';
import { edit } from '@/store/edit';
import { useShallow } from 'zustand/react/shallow';
import { useAnswer } from '@/store/useAnswer';
import { useReport } from '@/store/reportStore';
import { useDraft } from '@/store/useDraft';
import { Button } from '@/ui/Button';
import { INPUT } from '@/ui/Field';
import { Popover } from '@/ui/Popover';
import type { FindingShown } from '@bold-ruler/core/desk';
import { pathOf } from '@/store/steps';

/** Milliseconds of quiet before the checks run: they draw every figure. */
const QUIET = 900;

/** What the level checks find in the report as it is; null until they have run once. */
function useFindings(): readonly FindingShown[] | null {
  const { report, tablesVersion } = useReport(useShallow(({ report, tablesVersion }) => ({ report, tablesVersion })));
  const { value } = useAnswer([report, tablesVersion], (now) => desk().check(now), QUIET);
  return value;
}

/** How many findings are open, and the list of them: each with why it matters, a repair where there is one, and a way to let it stand. */
export function Checks() {
  const findings = useFindings();
  const [open, setOpen] = useState(false);
  const { id, report } = useReport(useShallow(({ id, report }) => ({ id, report })));
  const router = useRouter();
  if (!findings || !report) return null;
  const standing = findings.filter(({ accepted }) => accepted === null);
  const grave = standing.filter(({ severity }) => severity !== 'note').length;
  const notes = standing.length - grave;
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label="Level checks"
      width={420}
      trigger={
        <Button small look="bare" title="What could mislead a reader">
          <span
            aria-hidden
            className={`inline-block h-2.5 w-5 border border-ink ${grave > 0 ? 'bg-boxwood' : 'bg-paper'}`}
          />
          {grave > 0 ? `${grave} to check` : notes > 0 ? `${notes} ${notes === 1 ? 'note' : 'notes'}` : 'Level'}
        </Button>
      }
    >
      {findings.length === 0 ? (
        <p className="p-4 text-[13px]">Nothing in this report misleads its reader, as far as can be checked.</p>
      ) : (
        <ul aria-label="Findings" className="max-h-[70vh] space-y-3 overflow-y-auto p-3">
          {findings.map((finding) => (
            <Item
              key={`${finding.code} ${finding.about.id} ${finding.text}`}
              finding={finding}
              onGo={() => {
                setOpen(false);
                const go = (path: string) => router.push(path);
                if (finding.about.kind === 'figure') chooseFigure(finding.about.id, go);
                else if (id) go(pathOf(id, finding.about.kind === 'table' ? 'data' : 'figures'));
              }}
            />
          ))}
        </ul>
      )}
    </Popover>
  );
}

const WORDS = { error: 'wrong', warning: 'misleading', note: 'to know' } as const;

function Item({ finding, onGo }: { finding: FindingShown; onGo: () => void }) {
  const { severity, about, text, why, repair, accepted } = finding;
  const name = useReport(
    ({ report }) => report?.figures.find(({ id }) => about.kind === 'figure' && id === about.id)?.name,
  );
  const place = `why ${finding.code} of ${about.kind} ${about.id} may stand`;
  const [draft, setDraft, isBegun] = useDraft(place, '');
  const [isAsked, setAsked] = useState(isBegun);
  const reason = isAsked ? draft : null;
  const setReason = (next: string | null) => {
    setAsked(next !== null);
    setDraft(next);
  };
  const repairIt = () => useReport.getState().editBy((now) => desk().repair(now, finding));
  const accept = (words: string | null) =>
    edit({ edit: 'accept-finding', of: { code: finding.code, about: about.kind, id: about.id }, reason: words });
  return (
    <li
      className={`border-l-4 pl-3 text-[13px] leading-snug ${accepted !== null || severity === 'note' ? 'border-hairline' : 'border-behind'}`}
    >
      <p className="text-xs text-quiet">
        {accepted === null ? WORDS[severity] : 'accepted'} ·{' '}
        <button type="button" className="underline underline-offset-2" onClick={onGo}>
          {about.kind} {name ?? about.id}
        </button>
      </p>
      <p className="mt-0.5">{sentence(text)}</p>
      <p className="mt-0.5 text-quiet">{accepted === null ? sentence(why) : sentence(accepted)}</p>
      {reason !== null ? (
        <form
          className="mt-1.5 flex gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            if (reason.trim() !== '') accept(reason.trim());
            setReason(null);
          }}
        >
          <input
            autoFocus
            aria-label="Why it may stand"
            placeholder="why it may stand"
            className={`${INPUT} h-7`}
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
          <Button small type="submit" disabled={reason.trim() === ''}>
            Accept
          </Button>
        </form>
      ) : (
        <p className="mt-1.5 flex gap-1.5">
          {accepted === null ? (
            <>
              {repair && (
                <Button small className="font-semibold" onClick={() => void repairIt()}>
                  {repair}
                </Button>
              )}
              <Button small onClick={() => setReason('')}>
                Let it stand …
              </Button>
            </>
          ) : (
            <Button small onClick={() => accept(null)}>
              Open it again
            </Button>
          )}
        </p>
      )}
    </li>
  );
}

const sentence = (text: string) => `${text.charAt(0).toUpperCase()}${text.slice(1)}${/[.!?]$/.test(text) ? '' : '.'}`;
