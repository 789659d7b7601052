'use client';

import { counted, listed, type SentProblem } from '@bold-ruler/core/problem';
import { isInDatabase, useOf } from '@bold-ruler/core/report';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { TableTab } from '@bold-ruler/core/level';
import type { FieldsProfile, Match } from '@bold-ruler/core/table';
import { pathOf } from '@/store/steps';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { FileButton } from '@/ui/FileButton';
import { AddTable } from './AddTable';
import { CalendarPanel } from './CalendarPanel';
import { LevelsPanel } from './LevelsPanel';
import { TableName } from './TableName';
import { CalendarRuler } from './CalendarRuler';
import { ColumnPanel } from './ColumnPanel';
import { ColumnsTable } from './ColumnsTable';
import { DerivedEditor } from './DerivedEditor';
import { DatabaseTable } from './DatabaseTable';
import { Grid } from './Grid';
import { HowRead } from './HowRead';
import { LookupPanel } from './LookupPanel';
import { LeftOutList } from './LeftOutList';
import { MatchPanel, useMatch } from './MatchPanel';
import { ProposalPanel } from './ProposalPanel';
import { RemoveTable } from './RemoveTable';
import { proposeFile } from './proposals';
import { desk } from '@/store/desk';
import { edit } from '@/store/edit';
import { useTableAnswer } from './useTableAnswer';
import { placeAt, usePlace } from './place';
import { Settle } from './Settle';
import { useAsOf } from './useAsOf';
import { UseChoice } from './UseChoice';
import { useProfile } from './useProfile';
import { count } from '@/ui/words';

/** The first step: what was read, what was left out, in what order it stands, and how time is counted. */
export function DataStep() {
  const report = useReport((state) => state.report)!;
  const reportId = useReport((state) => state.id);
  const place = usePlace();
  const chosen = place.report === reportId ? place.table : null;
  const setChosen = (table: string) => placeAt(reportId, table);
  const tableId = report.tables.some(({ id }) => id === chosen) ? chosen : (report.tables[0]?.id ?? null);

  const { value: profile, problem } = useProfile(tableId);
  const inDatabase = report.tables.find((entry) => entry.id === tableId && isInDatabase(entry));
  return (
    <main className="grid min-h-0 grow grid-cols-[216px_minmax(0,1fr)] max-[799px]:relative max-[799px]:block max-[799px]:overflow-y-auto">
      <aside className="flex min-h-0 flex-col gap-6 overflow-y-auto border-r border-hairline p-4 max-[799px]:border-r-0 max-[799px]:border-b">
        <section aria-labelledby="tables">
          <h2 id="tables" className="mb-2 text-xs font-semibold text-quiet">
            Tables
          </h2>
          <ul className="space-y-1">
            {report.tables.map(({ id, source }) => (
              <li key={id}>
                <TableButton id={id} file={source.file} isChosen={id === tableId} onChoose={() => setChosen(id)} />
              </li>
            ))}
          </ul>
          <AddTable onAdded={setChosen} />
        </section>
        <CalendarPanel />
        <LevelsPanel />
      </aside>
      {inDatabase && (profile || problem) ? (
        <DatabaseTable
          key={tableId}
          entry={inDatabase}
          profile={profile}
          problem={problem?.message ?? null}
          words={profile ? understanding(profile) : ''}
          onRenamed={setChosen}
        />
      ) : tableId && (profile || problem) ? (
        profile ? (
          <TableView key={tableId} tableId={tableId} profile={profile} onRenamed={setChosen} />
        ) : (
          <div className="px-6 py-4">
            <div className="flex items-start gap-3">
              <h1 className="min-w-0 grow truncate text-xl font-semibold">{tableId}</h1>
              <NewerFile tableId={tableId} />
              <RemoveTable tableId={tableId} />
            </div>
            <p role="alert" className="mt-3 border-l-4 border-behind pl-3">
              {problem?.message}
            </p>
            <ProposalPanel tableId={tableId} />
            <div className="mt-4 max-w-[420px] space-y-4">
              {report.tables
                .find(({ id }) => id === tableId)
                ?.derived?.map(({ name }) => (
                  <DerivedEditor key={name} tableId={tableId} name={name} taken={[]} onDone={() => {}} />
                ))}
            </div>
          </div>
        )
      ) : (
        <div className="px-6 py-4">
          <h1 className="truncate text-xl font-semibold">{tableId ?? 'No table yet'}</h1>
          <p role="status" className="mt-1 text-quiet">
            {tableId
              ? 'Looking at the rows …'
              : 'This report has no table yet. Add one at the left: a file of rows, targets, or both.'}
          </p>
        </div>
      )}
    </main>
  );
}

interface TableButtonProps {
  readonly id: string;
  readonly file: string;
  readonly isChosen: boolean;
  readonly onChoose: () => void;
}

/** A table in the list, with how many rows it has. */
function TableButton({ id, file, isChosen, onChoose }: TableButtonProps) {
  const { value: profile, problem } = useProfile(id);
  return (
    <button
      type="button"
      aria-pressed={isChosen}
      onClick={onChoose}
      className={`block w-full rounded-sm border-l-4 px-2 py-1.5 text-left ${isChosen ? 'border-boxwood bg-paper' : 'border-transparent hover:bg-paper'}`}
    >
      <span className="block truncate font-medium">{id}</span>
      <span className="block truncate text-xs text-quiet" title={file}>
        {profile ? counted(profile.rows, 'row') : problem ? notShown(problem) : 'looking …'} · {file}
      </span>
    </button>
  );
}

/** Why nothing is known of a table, in a word. */
const notShown = ({ code }: SentProblem) => (/^(?:database|server)-/.test(code) ? 'not reached' : 'does not fit');

/** Reads the rows of another file, to be looked at before they are taken. */
function NewerFile({ tableId }: { tableId: string }) {
  return (
    <FileButton
      small
      title="Add the rows of a newer file, or replace the current ones with them"
      label="Newer file"
      onFiles={([file]) => void proposeFile(tableId, file!)}
    >
      Newer file
    </FileButton>
  );
}

function TableView({
  tableId,
  profile,
  onRenamed,
}: {
  tableId: string;
  profile: FieldsProfile;
  onRenamed: (name: string) => void;
}) {
  const report = useReport((state) => state.report)!;
  const reportId = useReport((state) => state.id);
  const place = usePlace();
  const [view, line] =
    place.report === reportId && place.table === tableId ? [place.view, place.line] : (['columns', null] as const);
  const setView = (next: TableTab) => placeAt(reportId, tableId, next);
  const [column, setColumn] = useState<string | null>(null);
  const [deriving, setDeriving] = useState(false);
  const entry = report.tables.find(({ id }) => id === tableId)!;
  const derived = new Set((entry.derived ?? []).map(({ name }) => name));
  const lookedUp = (name: string) => lookups?.joined.find(({ brings }) => brings.includes(name))?.to;
  const { value: lookups } = useTableAnswer([tableId], (now) => desk().lookups(now, tableId));
  const measured = report.measures[0]?.table ?? report.tables[0]!.id;
  // Targets reach beyond the day up to which actuals are complete.
  const asOf = useAsOf(report.measures.some(({ table }) => table === tableId) ? tableId : measured);
  const isTarget = useOf(report, tableId) === 'targets' && measured !== tableId;
  const match = useMatch(measured, isTarget ? tableId : null);
  const leftOut = profile.leftOutCounts.reduce((sum, one) => sum + one.count, 0);
  const shown = profile.columns.find(({ name }) => name === column) ?? profile.columns[0];
  const views: [TableTab, string][] = [
    ['columns', counted(profile.columns.length, 'column')],
    ['rows', counted(profile.rows, 'row')],
    ['left out', leftOut === 0 ? 'nothing left out' : `${count.format(leftOut)} left out`],
    ...(report.tables.length > 1 || entry.joins
      ? ([
          [
            'lookups',
            entry.joins
              ? `looks up in ${listed(
                  entry.joins.map(({ to }) => to),
                  'and',
                )}`
              : 'looks nothing up',
          ],
        ] as [TableTab, string][])
      : []),
    ...(isTarget ? ([['match', `against ${measured}${unmatchedIn(match.value)}`]] as [TableTab, string][]) : []),
  ];
  return (
    <div className={`flex min-h-0 min-w-0 flex-col px-6 py-4 ${view === 'rows' ? '' : 'overflow-y-auto'}`}>
      <div className="flex items-start gap-3 max-[799px]:flex-wrap">
        <div className="min-w-[160px] grow">
          <TableName tableId={tableId} onRenamed={onRenamed} />
        </div>
        {report.tables.length > 1 && <UseChoice key={tableId} tableId={tableId} />}
        {report.figures.length > 0 && measured === tableId && <ToFigure first={report.figures.length === 1} />}
        <HowRead key={JSON.stringify(entry)} entry={entry} files={profile.files} />
        <NewerFile tableId={tableId} />
        <RemoveTable tableId={tableId} />
      </div>
      <p className="mt-0.5 text-quiet">{understanding(profile)}</p>
      <ProposalPanel tableId={tableId} />
      <Settle tableId={tableId} profile={profile} offers={lookups?.offers ?? []} alike={lookups?.alike ?? []} />
      {view !== 'rows' && <CalendarRuler tableId={tableId} asOf={asOf} expected={isOverMonths(profile)} />}
      <div role="tablist" aria-label={`Views of ${tableId}`} className="mt-4 mb-3 flex gap-5 border-b border-hairline">
        {views.map(([id, words]) => (
          <button
            key={id}
            type="button"
            role="tab"
            aria-selected={view === id}
            onClick={() => setView(id)}
            className={`-mb-px border-b-[3px] px-0.5 pb-1.5 ${view === id ? 'border-ink font-semibold' : 'border-transparent text-quiet hover:text-ink'} ${id === 'left out' && leftOut > 0 ? 'text-behind' : ''}`}
          >
            {words}
          </button>
        ))}
      </div>
      {view === 'columns' && (
        <div className="grid grid-cols-[minmax(0,1fr)_320px] items-start gap-5 pb-6 max-[1099px]:grid-cols-[minmax(0,1fr)]">
          <div>
            <ColumnsTable
              profile={profile}
              derived={derived}
              lookedUp={lookedUp}
              chosen={deriving ? null : (shown?.name ?? null)}
              onChoose={(name) => {
                setColumn(name);
                setDeriving(false);
              }}
            />
            <ColumnsAside tableId={tableId} names={profile.aside ?? []} />
            <Button small className="mt-3" onClick={() => setDeriving(true)}>
              Add a column from others
            </Button>
          </div>
          {deriving || (shown && derived.has(shown.name)) ? (
            <DerivedEditor
              key={deriving ? 'new' : shown!.name}
              tableId={tableId}
              name={deriving ? null : shown!.name}
              taken={[...profile.columns.map(({ name }) => name), ...(profile.aside ?? [])]}
              onDone={(name) => {
                setDeriving(false);
                setColumn(name);
              }}
            />
          ) : (
            shown && (
              <ColumnPanel
                tableId={tableId}
                column={shown}
                profile={profile}
                made={entry.long?.name === shown.name || lookedUp(shown.name) !== undefined}
                isLookedUp={lookedUp(shown.name) !== undefined}
                onRenamed={setColumn}
              />
            )
          )}
        </div>
      )}
      {view === 'rows' && <Grid tableId={tableId} total={profile.rows} line={line} />}
      {view === 'left out' && <LeftOutList tableId={tableId} profile={profile} />}
      {view === 'lookups' && <LookupPanel tableId={tableId} columns={profile.columns.map(({ name }) => name)} />}
      {view === 'match' && (
        <MatchPanel
          of={measured}
          targets={tableId}
          match={match}
          fields={profile.columns.filter(({ type }) => type === 'text' || type === 'yesno').map(({ name }) => name)}
        />
      )}
    </div>
  );
}

/** How many names of targets no row has, in words that go on; nothing where there are none. */
function unmatchedIn(match: Match | null): string {
  const names = (match?.fields ?? []).flatMap(({ other, onlyThere }) => (other === null ? [] : onlyThere)).length;
  return names === 0 ? '' : `, ${counted(names, 'name')} unmatched`;
}

/** The columns of the file that are left out, each with the way back. */
function ColumnsAside({ tableId, names }: { tableId: string; names: readonly string[] }) {
  if (names.length === 0) return null;
  return (
    <section aria-label="Columns left out" className="mt-3 flex flex-wrap items-baseline gap-x-2 gap-y-1 text-[13px]">
      <span className="text-quiet">
        {names.length === 1 ? 'This column is left out:' : 'These columns are left out:'}
      </span>
      {names.map((name) => (
        <Button
          key={name}
          small
          title={`Put ${name} back`}
          onClick={() => void edit({ edit: 'put-column-back', table: tableId, column: name })}
        >
          <span className="max-w-48 truncate">{name}</span>
          <span className="text-quiet">&nbsp;put back</span>
        </Button>
      ))}
    </section>
  );
}

/** What was understood of a table, in one sentence. */
function understanding({ file, rows, date, from, to, grain }: FieldsProfile): string {
  const time = date ? `, dated by “${date}” from ${from} to ${to}, ${grain} by ${grain}` : ', without dates';
  return `${counted(rows, 'row')} from ${file}${time}.`;
}

/** The rows are dated within years, and not all in one month. */
function isOverMonths({ from, to, grain }: FieldsProfile): boolean {
  return from !== null && to !== null && grain !== 'year' && from.slice(0, 7) !== to.slice(0, 7);
}

/** On from the rows to the figure that was made of them. */
function ToFigure({ first }: { first: boolean }) {
  const router = useRouter();
  const id = useReport((state) => state.id);
  return (
    <Button look="main" onClick={() => id !== null && router.push(pathOf(id, 'figures'))}>
      {first ? 'To its first figure' : 'To the figures'}
    </Button>
  );
}
