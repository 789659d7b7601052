import { transfer } from 'comlink';
import { create as change, type Draft } from 'mutative';
import { create } from 'zustand';
import type { Report, TableEntry } from '@bold-ruler/core/report';
import type { Difference } from '@bold-ruler/core/table';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { received } from '@bold-ruler/core/problem';
import { beginReading } from '@/worker/reading';
import { buffersOf } from '@/worker/transferables';

/** A table read once more, in another way or from a newer file, before it is accepted. */
export interface Proposal {
  readonly tableId: string;
  /** What it is about: `read “net” as text`. */
  readonly what: string;
  readonly change: (entry: Draft<TableEntry>) => void;
  readonly state: 'reading' | 'ready' | 'accepted' | 'failed' | 'no file';
  readonly rows: number;
  readonly difference: Difference | null;
  readonly problem: string | null;
  readonly cancel: () => void;
}

export const useProposal = create<{ readonly proposal: Proposal | null }>(() => ({ proposal: null }));

const put = (part: Partial<Proposal>) =>
  useProposal.setState(({ proposal }) => ({ proposal: proposal && { ...proposal, ...part } }));

function changed(report: Report, tableId: string, alter: Proposal['change']): Report {
  return change(report, (draft) => {
    const entry = draft.tables.find(({ id }) => id === tableId);
    if (entry) alter(entry);
  });
}

/** Reads a table again as its entry would be after a change, and shows what would be different. */
export async function propose(tableId: string, what: string, alter: Proposal['change'], newer?: File): Promise<void> {
  useProposal.getState().proposal?.cancel();
  const { report } = useReport.getState();
  if (!report) return;
  let cancelled = false;
  let stop = () => {};
  const cancel = () => {
    cancelled = true;
    stop();
  };
  useProposal.setState({
    proposal: { tableId, what, change: alter, state: 'reading', rows: 0, difference: null, problem: null, cancel },
  });
  try {
    const file = newer ?? (await desk().file(report, tableId));
    if (cancelled) return;
    if (!file) return put({ state: 'no file' });
    const entry = changed(report, tableId, alter).tables.find(({ id }) => id === tableId)!;
    const reading = beginReading(entry, file, false, ({ rows }) => put({ rows }));
    stop = reading.cancel;
    const { table } = await reading.done;
    const difference = received(await desk().propose(transfer(table, buffersOf([table])), newer ?? null));
    if (!cancelled) put({ state: 'ready', difference });
  } catch (error) {
    if (!cancelled) put({ state: 'failed', problem: error instanceof Error ? error.message : String(error) });
  }
}

/** Takes the proposed table: figures follow. */
export async function accept(): Promise<void> {
  const { proposal } = useProposal.getState();
  const { report, editRows } = useReport.getState();
  if (!proposal || !report) return;
  const columns = proposal.difference?.columns ?? [];
  const entry = changed(report, proposal.tableId, proposal.change).tables.find(({ id }) => id === proposal.tableId)!;
  try {
    await editRows(
      {
        edit: 'read-table',
        saying: proposal.what,
        entry,
        columns: {
          lost: columns.flatMap(({ name, after }) => (after?.kind === 'number' ? [] : [name])),
          newNumbers: columns.flatMap(({ name, before, after }) =>
            after?.kind === 'number' && before?.kind !== 'number'
              ? [{ name, ...(after.unit ? { unit: after.unit } : {}) }]
              : [],
          ),
        },
      },
      [proposal.tableId],
      'proposed',
    );
    put({ state: 'accepted' });
  } catch (error) {
    put({ state: 'failed', problem: error instanceof Error ? error.message : String(error) });
  }
}

export function discard(): void {
  useProposal.getState().proposal?.cancel();
  useProposal.setState({ proposal: null });
  void desk().discard();
}

/** Takes back what was accepted, as long as nothing was changed since. */
export async function putBack(): Promise<void> {
  await useReport.getState().undo();
  useProposal.setState({ proposal: null });
}

/** What the report says of a column, to be changed; begun where it says nothing yet. */
export function columnIn(entry: Draft<TableEntry>, name: string): Draft<NonNullable<TableEntry['columns']>[number]> {
  entry.columns ??= [];
  let column = entry.columns.find((known) => known.name === name);
  if (!column) entry.columns.push((column = { name }));
  return column;
}

export const LEAVE_REPEATS_OUT = 'leave out rows that stand there already';

/**
 * Says of a table which rows are the same row once more, and whether they are left out.
 * @param key the columns that tell a row from others; with none all do
 */
export function setRepeats(entry: Draft<TableEntry>, key: readonly string[], isLeftOut: boolean): void {
  const by = key.length === 0 ? ('row' as const) : [...key];
  if (isLeftOut) entry.repeats = { by, keep: 'first' };
  else if (by === 'row') delete entry.repeats;
  else entry.repeats = { by, keep: 'all' };
}
