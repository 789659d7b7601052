'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { chooseFigure } from '@/figures/chosen';
import { placeAt } from '@/data/place';
import { desk } from '@/store/desk';
import { edit } from '@/store/edit';
import { useShallow } from 'zustand/react/shallow';
import { useAnswer } from '@/store/useAnswer';
import { useReport } from '@/store/reportStore';
import { useDraft } from '@/store/useDraft';
import { Button } from '@/ui/Button';
import { INPUT } from '@/ui/Field';
import { Popover } from '@/ui/Popover';
import { amount as written, plural } from '@/ui/words';
import type { About } from '@bold-ruler/core/level';
import type { DecisionShown } from '@bold-ruler/core/desk';
import type { FigureEntry } from '@bold-ruler/core/report';
import type { LinesFound } from '@bold-ruler/core/table';
import { pathOf } from '@/store/steps';

/** Milliseconds of quiet before the checks run: they draw every figure. */
const QUIET = 900;
/** No id is empty. */
const EVERYWHERE = '';
/** Places that are named before the others are asked for. */
const NAMED = 3;
/** Letters of a figure that has no name. */
const LONGEST = 44;

/** What is to be decided in the report as it is; null until it has been looked for once. */
function useDecisions(): readonly DecisionShown[] | null {
  const { report, tablesVersion } = useReport(useShallow(({ report, tablesVersion }) => ({ report, tablesVersion })));
  const { value } = useAnswer([report, tablesVersion], (now) => desk().check(now), QUIET);
  return value;
}

/** How much is to be decided, and the list of it: each fact once, with why it matters, what hangs on it, its places and what can be done. */
export function Decide() {
  const decisions = useDecisions();
  const [open, setOpen] = useState(false);
  const { id, report } = useReport(useShallow(({ id, report }) => ({ id, report })));
  const router = useRouter();
  if (!decisions || !report) return null;
  const standing = decisions.filter(({ accepted }) => accepted === null);
  const grave = standing.filter(({ severity }) => severity !== 'note').length;
  const notes = standing.length - grave;
  const go = (path: string) => router.push(path);
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label="Please decide"
      width={440}
      trigger={
        <Button small look="bare" title="What files and checks ask">
          <span
            aria-hidden
            className={`inline-block h-2.5 w-5 border border-ink ${grave > 0 ? 'bg-boxwood' : 'bg-paper'}`}
          />
          {grave > 0 ? `${grave} to decide` : notes > 0 ? plural(notes, 'note') : 'Level'}
        </Button>
      }
    >
      <h2 className="border-b border-hairline px-4 py-2.5 text-[13px] font-semibold">
        Please decide
        <span className="ml-2 font-normal text-quiet">
          {standing.length === 0
            ? 'nothing is open'
            : [grave > 0 ? `${grave} open` : '', notes > 0 ? plural(notes, 'note') : ''].filter(Boolean).join(', ')}
        </span>
      </h2>
      {decisions.length === 0 ? (
        <p className="p-4 text-[13px]">Nothing in this report misleads its reader, as far as can be checked.</p>
      ) : (
        <ul aria-label="Findings" className="max-h-[70vh] space-y-3.5 overflow-y-auto p-3">
          {decisions.map((decision) => (
            <Item
              key={`${decision.code} ${decision.fact} ${decision.table} ${decision.accepted} ${decision.about[0]!.id}`}
              decision={decision}
              onGo={({ kind, id: of }, lines) => {
                setOpen(false);
                if (kind === 'figure') chooseFigure(of, go);
                else if (id && kind === 'table') {
                  if (lines) placeAt(id, of, 'rows', firstOf(decision.lines!));
                  else placeAt(id, of, decision.view ?? 'columns');
                  go(pathOf(id, 'data'));
                } else if (id) go(pathOf(id, kind === 'page' ? 'page' : kind === 'highlight' ? 'figures' : 'numbers'));
              }}
            />
          ))}
        </ul>
      )}
    </Popover>
  );
}

const firstOf = ({ lines, files }: LinesFound) => ({ line: lines[0]!, ...(files ? { file: files[0]! } : {}) });

const WORDS = { error: 'wrong', warning: 'misleading', note: 'to know' } as const;
const PERCENT = new Intl.NumberFormat('en', { style: 'percent', maximumSignificantDigits: 2 });

interface ItemProps {
  readonly decision: DecisionShown;
  /** @param lines to the rows it is about */
  readonly onGo: (about: About, lines: boolean) => void;
}

function Item({ decision, onGo }: ItemProps) {
  const { code, fact, severity, about, text, why, repair, accepted, acceptedBy, amount, lines, table } = decision;
  const repairIt = () => useReport.getState().editBy((now) => desk().repair(now, decision));
  const at: About | null = table === null ? null : { kind: 'table', id: table };
  return (
    <li
      className={`border-l-4 pl-3 text-[13px] leading-snug ${accepted !== null || severity === 'note' ? 'border-hairline' : 'border-behind'}`}
    >
      <div className="flex items-baseline gap-3 text-xs text-quiet">
        <p className="min-w-0 grow">
          {accepted === null ? WORDS[severity] : 'accepted'} · <Places about={about} onGo={(one) => onGo(one, false)} />
        </p>
        {amount && amount.share <= 1 && (
          <p className="shrink-0 font-semibold text-ink" title={`${written.format(amount.sum)} of ${amount.of}`}>
            {PERCENT.format(amount.share)} of {amount.of}
          </p>
        )}
      </div>
      <p className="mt-0.5">{sentence(text)}</p>
      <p className="mt-0.5 text-quiet">{accepted === null ? sentence(why) : sentence(accepted)}</p>
      {accepted === null ? (
        <Accepting of={{ code, fact, text }} about={about}>
          {repair && (
            <Button small className="font-semibold" onClick={() => void repairIt()}>
              {repair.name}
              {about.length > 1 &&
                (repair.places === about.length
                  ? `, in all ${repair.places}`
                  : `, in ${repair.places} of ${about.length}`)}
            </Button>
          )}
          {at && (
            <Button small onClick={() => onGo(at, false)}>
              Decide at the Data step
            </Button>
          )}
          {at && lines && (
            <Button small onClick={() => onGo(at, true)}>
              Show {lines.lines.length === 1 ? 'the row' : 'the first row'}
            </Button>
          )}
        </Accepting>
      ) : (
        <div className="mt-1.5">
          <Button
            small
            onClick={() =>
              edit({
                edit: 'several',
                edits: acceptedBy.map((of) => ({ edit: 'accept-finding' as const, of, reason: null })),
                saying: 'open a finding again',
              })
            }
          >
            Open it again
          </Button>
        </div>
      )}
    </li>
  );
}

/** The figures, tables and so on in which a fact is found, each a way there. */
function Places({ about, onGo }: { about: readonly About[]; onGo: (about: About) => void }) {
  const [isWhole, setWhole] = useState(false);
  const nameOf = useNames();
  const shown = isWhole || about.length <= NAMED + 1 ? about : about.slice(0, NAMED);
  const kind = about[0]!.kind;
  return (
    <>
      {about.length === 1 ? kind : `${about.length} ${kind}s:`}{' '}
      {shown.map((one, i) => (
        <span key={`${one.kind} ${one.id}`}>
          {i > 0 && ', '}
          <button
            type="button"
            className="text-left [overflow-wrap:anywhere] underline underline-offset-2"
            onClick={() => onGo(one)}
          >
            {nameOf(one)}
          </button>
        </span>
      ))}
      {shown.length < about.length && (
        <>
          {' '}
          and{' '}
          <button type="button" className="underline underline-offset-2" onClick={() => setWhole(true)}>
            {about.length - shown.length} more
          </button>
        </>
      )}
    </>
  );
}

function useNames(): (about: About) => string {
  const report = useReport((state) => state.report);
  return ({ kind, id }) =>
    (kind === 'figure' && figureNamed(report?.figures.find((one) => one.id === id))) ||
    (kind === 'page' && report?.pages.find((one) => one.id === id)?.title) ||
    id;
}

/** A figure’s own name, else what it shows. */
function figureNamed(figure: FigureEntry | undefined): string | undefined {
  const name = figure?.name ?? figure?.brief;
  return name === undefined || name.length <= LONGEST ? name : `${name.slice(0, LONGEST).trimEnd()} …`;
}

interface AcceptingProps {
  readonly of: Pick<DecisionShown, 'code' | 'fact' | 'text'>;
  readonly about: readonly About[];
  readonly children: React.ReactNode;
}

/** What can be done, and with it the form in which a fact is accepted: with a reason, everywhere or in one place. */
function Accepting({ of: { code, fact, text }, about, children }: AcceptingProps) {
  const [first] = about as [About];
  const place = `why ${code} of ${first.kind} ${first.id} may stand: ${fact}`;
  const [draft, setDraft, isBegun] = useDraft(place, '');
  const [isAsked, setAsked] = useState(isBegun);
  const [where, setWhere] = useState(about.length > 1 ? EVERYWHERE : first.id);
  const nameOf = useNames();
  // Another one of the same kind is another question; a text that changes with the rows is no other fact.
  const isStable = first.kind === 'table' && fact !== text;
  const close = () => {
    setAsked(false);
    setDraft(null);
  };
  if (!isAsked)
    return (
      <p className="mt-1.5 flex flex-wrap gap-1.5">
        {children}
        <Button small onClick={() => setAsked(true)}>
          Accept …
        </Button>
      </p>
    );
  const reason = draft.trim();
  return (
    <form
      className="mt-1.5 space-y-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        const one = about.find(({ id }) => id === where);
        const of = one
          ? { about: one.kind, id: one.id, ...(isStable ? { fact } : {}) }
          : { about: 'report' as const, id: fact };
        if (reason !== '') void edit({ edit: 'accept-finding', of: { code, ...of }, reason });
        close();
      }}
    >
      {first.kind === 'figure' && (
        <select
          aria-label="Where it is accepted"
          className={`${INPUT} h-7 py-0`}
          value={where}
          onChange={(event) => setWhere(event.target.value)}
        >
          <option value={EVERYWHERE}>in all figures, also later ones</option>
          {about.map((one) => (
            <option key={one.id} value={one.id}>
              only in {nameOf(one)}
            </option>
          ))}
        </select>
      )}
      <span className="flex gap-1.5">
        <input
          autoFocus
          aria-label="Why it is all right"
          placeholder="why it is all right"
          className={`${INPUT} h-7`}
          value={draft}
          onChange={(event) => setDraft(event.target.value)}
        />
        <Button small type="submit" className="shrink-0" disabled={reason === ''}>
          Accept
        </Button>
        <Button small look="bare" className="shrink-0" onClick={close}>
          Cancel
        </Button>
      </span>
    </form>
  );
}

const sentence = (text: string) => `${text.charAt(0).toUpperCase()}${text.slice(1)}${/[.!?]$/.test(text) ? '' : '.'}`;
