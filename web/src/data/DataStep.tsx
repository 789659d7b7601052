'use client';

import { useEffect, useState } from 'react';
import type { FieldsProfile } from '@bold-ruler/core/table';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { received } from '@/worker/sent';
import { AddTable } from './AddTable';
import { CalendarPanel } from './CalendarPanel';
import { ColumnsTable } from './ColumnsTable';
import { LeftOutList } from './LeftOutList';
import { RowsPreview } from './RowsPreview';

const count = new Intl.NumberFormat('en');

/** The first step: what was read, what was left out, and how time is counted. */
export function DataStep() {
  const report = useReport((state) => state.report)!;
  const version = useReport((state) => state.tablesVersion);
  const [chosen, setChosen] = useState<string | null>(null);
  const [profiles, setProfiles] = useState<Readonly<Record<string, FieldsProfile>>>({});
  const tableId = chosen ?? report.tables[0]?.id ?? null;

  useEffect(() => {
    let current = true;
    for (const { id } of report.tables) {
      void desk()
        .profile(useReport.getState().report!, id)
        .then((answer) => current && setProfiles((known) => ({ ...known, [id]: received(answer) })));
    }
    return () => {
      current = false;
    };
  }, [report.tables, version]);

  const profile = tableId === null ? null : profiles[tableId];
  return (
    <main className="grid min-h-0 grow grid-cols-[232px_minmax(0,1fr)]">
      <aside className="flex min-h-0 flex-col gap-6 overflow-y-auto border-r border-hairline p-4">
        <section aria-labelledby="tables">
          <h2 id="tables" className="mb-2 text-xs font-semibold text-quiet">
            Tables
          </h2>
          <ul className="space-y-1">
            {report.tables.map(({ id, source }) => (
              <li key={id}>
                <button
                  type="button"
                  aria-pressed={id === tableId}
                  onClick={() => setChosen(id)}
                  className={`block w-full rounded-sm border-l-4 px-2 py-1.5 text-left ${id === tableId ? 'border-boxwood bg-paper' : 'border-transparent hover:bg-paper'}`}
                >
                  <span className="block truncate font-medium">{id}</span>
                  <span className="block truncate text-xs text-quiet">
                    {profiles[id] ? `${count.format(profiles[id].rows)} rows` : 'looking …'} · {source.file}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          <AddTable />
        </section>
        <CalendarPanel />
      </aside>
      <div className="min-h-0 min-w-0 overflow-y-auto px-6 py-5">
        {profile && tableId ? (
          <>
            <h1 className="text-xl font-semibold">{tableId}</h1>
            <p className="mt-1 text-quiet">{understanding(profile)}</p>
            <ColumnsTable profile={profile} />
            <LeftOutList profile={profile} />
            <RowsPreview key={`${tableId} ${version}`} tableId={tableId} total={profile.rows} />
          </>
        ) : (
          <p role="status" className="text-quiet">
            {tableId ? 'Looking at the rows …' : 'This report has no table yet. Add one at the left.'}
          </p>
        )}
      </div>
    </main>
  );
}

/** What was understood of a table, in one sentence. */
function understanding({ file, rows, date, from, to, grain, totalsRows }: FieldsProfile): string {
  const time = date ? `, dated by “${date}” from ${from} to ${to}, ${grain} by ${grain}` : ', without dates';
  const totals =
    totalsRows.length > 0
      ? `. ${totalsRows.length === 1 ? 'Line' : 'Lines'} ${totalsRows.slice(0, 5).join(', ')} ${totalsRows.length === 1 ? 'looks' : 'look'} like totals among the rows`
      : '';
  return `${count.format(rows)} rows from ${file}${time}${totals}.`;
}
