'use client';

import { RefreshCw } from 'lucide-react';
import { useState } from 'react';
import { counted } from '@bold-ruler/core/problem';
import type { TableEntry } from '@bold-ruler/core/report';
import type { FieldsProfile } from '@bold-ruler/core/table';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { clockTime } from '@/ui/clock';
import { ColumnsTable } from './ColumnsTable';
import { RemoveTable } from './RemoveTable';
import { TableName } from './TableName';
import { useTableAnswer } from './useTableAnswer';

/** Rows shown at a time. */
const PAGE = 50;

interface Props {
  readonly entry: TableEntry;
  /** Null where it could not be looked at: `problem` says why. */
  readonly profile: FieldsProfile | null;
  readonly problem: string | null;
  readonly words: string;
  readonly onRenamed: (name: string) => void;
}

/** A table whose rows stay in a database: what is known of it, since when, and its rows page by page. */
export function DatabaseTable({ entry, profile, problem, words, onRenamed }: Props) {
  const { id, source, derived = [] } = entry;
  const [column, setColumn] = useState<string | null>(null);
  const [view, setView] = useState<'columns' | 'rows'>('columns');
  // What is known has been asked for when it is shown: then it is known when.
  const { value: at } = useTableAnswer([profile], () => desk().lookedAt());
  const lookAgain = async () => {
    await desk().forget();
    useReport.setState(({ tablesVersion }) => ({ tablesVersion: tablesVersion + 1 }));
  };
  return (
    <div className="flex min-h-0 min-w-0 flex-col overflow-y-auto px-6 py-4">
      <div className="flex items-start gap-3 max-[799px]:flex-wrap">
        <div className="min-w-[160px] grow">
          <TableName tableId={id} onRenamed={onRenamed} />
        </div>
        <Button small onClick={() => void lookAgain()}>
          <RefreshCw aria-hidden size={13} /> Look again
        </Button>
        <RemoveTable tableId={id} />
      </div>
      <p className="mt-0.5 text-quiet">{words}</p>
      <p className="mt-1 max-w-[640px] text-quiet">
        Its rows stay in the database <strong className="font-semibold text-ink">{source.database}</strong>
        {source.query === undefined ? `, in ${source.table}` : ', as a query gives them'}
        {at !== null && `; what is known of them was asked for at ${clockTime(at)}`}. Figures ask for their numbers
        there.
      </p>
      {problem !== null && (
        <p role="alert" className="mt-3 border-l-4 border-behind pl-3">
          {problem}
        </p>
      )}
      {source.query !== undefined && (
        <pre className="mt-3 max-h-40 overflow-auto border border-hairline bg-paper p-2 text-xs whitespace-pre-wrap">
          {source.query}
        </pre>
      )}
      {profile && (
        <>
          <div role="tablist" aria-label={`Views of ${id}`} className="mt-4 mb-3 flex gap-5 border-b border-hairline">
            {(
              [
                ['columns', counted(profile.columns.length, 'column')],
                ['rows', counted(profile.rows, 'row')],
              ] as const
            ).map(([name, text]) => (
              <button
                key={name}
                type="button"
                role="tab"
                aria-selected={view === name}
                onClick={() => setView(name)}
                className={`-mb-px border-b-[3px] px-0.5 pb-1.5 ${view === name ? 'border-ink font-semibold' : 'border-transparent text-quiet hover:text-ink'}`}
              >
                {text}
              </button>
            ))}
          </div>
          {view === 'columns' ? (
            <ColumnsTable
              profile={profile}
              derived={new Set(derived.map(({ name }) => name))}
              lookedUp={() => undefined}
              chosen={column}
              onChoose={setColumn}
            />
          ) : (
            <Rows tableId={id} total={profile.rows} asked={profile} />
          )}
        </>
      )}
    </div>
  );
}

/** Its rows, a page at a time, as the database gives them. */
function Rows({ tableId, total, asked }: { tableId: string; total: number; asked: FieldsProfile }) {
  const [from, setFrom] = useState(0);
  const { value: found, problem } = useTableAnswer([tableId, from, asked], (now) =>
    desk().rowsFrom(now, tableId, from, PAGE),
  );
  if (problem)
    return (
      <p role="alert" className="border-l-4 border-behind pl-3">
        {problem.message}
      </p>
    );
  if (!found)
    return (
      <p role="status" className="text-quiet">
        Asking for rows …
      </p>
    );
  const last = from + found.lines.length;
  return (
    <>
      <div className="overflow-x-auto">
        <table className="border-t border-hairline bg-paper text-[13px]">
          <thead>
            <tr className="text-left text-xs text-quiet">
              {found.columns.map(({ name, kind }) => (
                <th key={name} className={`px-3 py-1.5 font-medium ${kind === 'number' ? 'text-right' : ''}`}>
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.lines.map((line, i) => (
              <tr key={i} className="border-t border-hairline">
                {line.map((cell, c) => (
                  <td
                    key={c}
                    className={`max-w-[220px] truncate px-3 py-1 ${found.columns[c]!.kind === 'number' ? 'text-right' : ''}`}
                  >
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="mt-2 flex items-center gap-2 text-[13px] text-quiet">
        <Button small disabled={from === 0} onClick={() => setFrom(Math.max(0, from - PAGE))}>
          Before
        </Button>
        <span>
          {total === 0
            ? 'no rows'
            : `${(from + 1).toLocaleString('en')} to ${last.toLocaleString('en')} of ${total.toLocaleString('en')}`}
        </span>
        <Button small disabled={last >= total} onClick={() => setFrom(from + PAGE)}>
          Next
        </Button>
      </div>
    </>
  );
}
