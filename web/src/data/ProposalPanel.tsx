'use client';

import { useEffect } from 'react';
import { counted } from '@bold-ruler/core/problem';
import type { ColumnDifference, Difference, ChangedNames } from '@bold-ruler/core/table';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { FileButton } from '@/ui/FileButton';
import { FiguresCompared, NewerRows } from './NewerRows';
import { letGo, useProposal, waitingFor, wordsFor } from './proposal';
import { accept, chooseAgain, discard, goOn, putBack } from './proposals';
import { amount, count, KINDS } from '@/ui/words';

/** A table that was read again: what would change, and whether it shall. */
export function ProposalPanel({ tableId }: { tableId: string }) {
  const { proposal, waiting } = useProposal();
  const last = useReport((state) => state.past.at(-1)?.name);
  const [next] = waitingFor(tableId, waiting);
  useEffect(() => {
    if (next?.isNext) void goOn(tableId);
  }, [next, tableId]);
  const isTried = proposal?.tableId === tableId && proposal.state !== 'accepted';
  const later = next && !isTried ? <NotTakenYet tableId={tableId} what={wordsFor(next.answers)} /> : null;
  if (proposal?.tableId !== tableId) return later;
  const { what, state, rows, difference, problem } = proposal;
  const isLast = last === what;
  const isAsked = proposal.newer?.isChosen === false;
  return (
    <>
      <section
        aria-label="Proposed change"
        className="mt-4 border [border-left-width:6px] border-ink/30 border-l-boxwood bg-paper"
      >
        <div className="flex items-center gap-3 px-4 py-2.5">
          <p role="status" className="min-w-0 grow">
            {state === 'reading' && (
              <>
                Trying it: {what} … <span className="text-quiet">{counted(rows, 'row')} read</span>
              </>
            )}
            {state === 'ready' && (
              <strong className="font-semibold">
                {isAsked ? `How are the rows of ${proposal.newer!.file.name} taken?` : `If you ${what}`}
              </strong>
            )}
            {state === 'accepted' && <>Done: {what}. Figures follow.</>}
            {state === 'no file' && <>This browser had no room to keep the file. Choose it once more to {what}.</>}
            {state === 'failed' && <span className="text-behind">{problem}</span>}
          </p>
          {state === 'ready' && !isAsked && (
            <Button small look="main" onClick={() => void accept()}>
              Accept
            </Button>
          )}
          {state === 'no file' && (
            <FileButton small label="The file once more" onFiles={([file]) => void chooseAgain(file!)}>
              Choose the file
            </FileButton>
          )}
          {state === 'accepted' ? (
            <>
              {isLast && (
                <Button small onClick={() => void putBack()}>
                  Put it back
                </Button>
              )}
              <Button small look="bare" onClick={discard}>
                Close
              </Button>
            </>
          ) : (
            <Button small onClick={discard}>
              {state === 'reading' ? 'Cancel' : state === 'ready' ? 'Leave as it is' : 'Close'}
            </Button>
          )}
        </div>
        {(state === 'ready' || state === 'failed') && proposal.newer && (
          <NewerRows newer={proposal.newer} rows={difference && state === 'ready' ? difference.rows[1] : null} />
        )}
        {state === 'ready' && difference && !isAsked && (
          <Changes difference={difference} renamed={new Set(Object.entries(proposal.newer?.called ?? {}).flat())} />
        )}
        {state === 'ready' && difference && !isAsked && <FiguresCompared proposal={proposal} />}
      </section>
      {later}
    </>
  );
}

/** What was answered before something else was, and waits to be taken. */
function NotTakenYet({ tableId, what }: { tableId: string; what: string }) {
  return (
    <section
      aria-label="Not taken yet"
      className="mt-4 flex items-center gap-3 border [border-left-width:6px] border-ink/30 border-l-boxwood bg-paper px-4 py-2.5"
    >
      <p className="min-w-0 grow">Not taken yet: {what}.</p>
      <Button small look="main" onClick={() => void goOn(tableId)}>
        Show what it does
      </Button>
      <Button small onClick={() => letGo(tableId)}>
        Leave as it is
      </Button>
    </section>
  );
}

function Changes({ difference, renamed }: { difference: Difference; renamed: ReadonlySet<string> }) {
  const { rows, from, to, leftOut } = difference;
  const columns = difference.columns.filter(({ name }) => !renamed.has(name));
  const facts: [string, string, string][] = [
    ['rows', count.format(rows[0]), count.format(rows[1])],
    ['first day', from[0] ?? '–', from[1] ?? '–'],
    ['last day', to[0] ?? '–', to[1] ?? '–'],
    ['left out', count.format(leftOut[0]), count.format(leftOut[1])],
  ];
  const changed = facts.filter(([, before, after]) => before !== after);
  if (changed.length === 0 && columns.length === 0)
    return <p className="border-t border-hairline px-4 py-2 text-quiet">Nothing changes: the rows are the same.</p>;
  return (
    <div className="max-h-72 overflow-y-auto border-t border-hairline">
      <table className="w-full text-[13px]">
        <thead>
          <tr className="text-left text-xs text-quiet">
            <th className="w-40 px-4 py-1.5 font-medium">what</th>
            <th className="px-3 font-medium">now</th>
            <th className="px-3 font-medium">then</th>
          </tr>
        </thead>
        <tbody>
          {changed.map(([name, before, after]) => (
            <tr key={name} className="border-t border-hairline">
              <th scope="row" className="px-4 py-1.5 text-left font-normal text-quiet">
                {name}
              </th>
              <td className="px-3">{before}</td>
              <td className="px-3 font-semibold">{after}</td>
            </tr>
          ))}
          {columns.map((column) => (
            <ColumnChange key={column.name} column={column} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function ColumnChange({ column }: { column: ColumnDifference }) {
  const { name, before, after, gained, lost } = column;
  const say = (held: ColumnDifference['before']) =>
    held === null
      ? 'not there'
      : [
          KINDS[held.kind],
          held.kind === 'text' || held.kind === 'yesno' ? null : held.convention,
          held.sum === null ? null : `sum ${amount.format(held.sum)}`,
          held.blank > 0 ? `${count.format(held.blank)} blank` : null,
          held.unread > 0 ? `${count.format(held.unread)} not read` : null,
        ]
          .filter((part) => part !== null)
          .join(', ');
  return (
    <tr className="border-t border-hairline align-baseline">
      <th scope="row" className="max-w-40 truncate px-4 py-1.5 text-left font-medium" title={name}>
        {name}
      </th>
      <td className={`px-3 ${before === null ? 'text-quiet' : ''}`}>
        {say(before)}
        {lost.count > 0 && <Listed words="no longer there" names={lost} />}
      </td>
      <td className={`px-3 ${after === null ? 'font-semibold text-behind' : 'font-semibold'}`}>
        {say(after)}
        {gained.count > 0 && <Listed words="new" names={gained} />}
      </td>
    </tr>
  );
}

function Listed({ words, names }: { words: string; names: ChangedNames }) {
  const more = names.count - names.first.length;
  return (
    <span className="block font-normal text-quiet">
      {words}: {names.first.join(', ')}
      {more > 0 && ` and ${count.format(more)} more`}
    </span>
  );
}
