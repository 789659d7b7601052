import { transfer } from 'comlink';
import { create as change, type Draft } from 'mutative';
import { create } from 'zustand';
import type { Report, TableEntry } from '@bold-ruler/core/report';
import type { AddedRows, ColumnMatch, Difference, Overlap, Table } from '@bold-ruler/core/table';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { nearest, received } from '@bold-ruler/core/problem';
import { beginReading, lookInto } from '@/worker/reading';
import { buffersOf } from '@/worker/transferables';

/** A newer file, and how its rows are taken. */
export interface Newer {
  readonly file: File;
  /** Instead of the rows there are, or besides them. */
  readonly mode: 'replace' | 'add';
  /** Of days that are in both, whose rows are kept. */
  readonly keep: AddedRows;
  readonly overlap: Overlap | null;
  /** Columns that the newer file calls otherwise, by their names in the report. */
  readonly renamed: readonly ColumnMatch[];
  /** A sheet that stands in for one that is not there any more. */
  readonly sheet: { readonly from: string; readonly to: string } | null;
}

/** A table read once more, in another way or from a newer file, before it is accepted. */
export interface Proposal {
  readonly tableId: string;
  /** What it is about: `read “net” as text`. */
  readonly what: string;
  readonly change: (entry: Draft<TableEntry>) => void;
  readonly state: 'reading' | 'ready' | 'accepted' | 'failed' | 'no file';
  readonly rows: number;
  readonly difference: Difference | null;
  readonly newer: Newer | null;
  /** What the report says of rows that were put together. */
  readonly entry: TableEntry | null;
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

/** The report as it would be with what is proposed. */
export function proposedReport(report: Report, { tableId, change: alter, entry }: Proposal): Report {
  if (!entry) return changed(report, tableId, alter);
  return { ...report, tables: report.tables.map((one) => (one.id === tableId ? entry : one)) };
}

const codeOf = (error: unknown) => (error as { readonly code?: unknown } | null)?.code;
const wordsOf = (error: unknown) => (error instanceof Error ? error.message : String(error));

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
  const nothing = { rows: 0, difference: null, newer: null, entry: null, problem: null };
  useProposal.setState({ proposal: { tableId, what, change: alter, state: 'reading', ...nothing, cancel } });
  const read = (entry: TableEntry, file: File) => {
    const reading = beginReading(entry, file, false, ({ rows }) => put({ rows }));
    stop = reading.cancel;
    return reading.done.then(({ table }) => table);
  };
  try {
    const file = newer ?? (await desk().file(report, tableId));
    if (cancelled) return;
    if (!file) return put({ state: 'no file' });
    const entryAfter = (one: Proposal['change']) =>
      changed(report, tableId, one).tables.find(({ id }) => id === tableId)!;
    let change = alter;
    let renamed: readonly ColumnMatch[] = [];
    let sheet: Newer['sheet'] = null;
    let table: Table;
    try {
      table = await read(entryAfter(change), file);
    } catch (error) {
      if (!newer || !['unknown-column', 'no-such-sheet'].includes(String(codeOf(error)))) throw error;
      if (codeOf(error) === 'no-such-sheet') {
        const wanted = entryAfter(alter).source.sheet!;
        const look = lookInto(file, file.name);
        stop = look.cancel;
        const sheets = await look.done;
        const to = nearest(wanted, sheets)[0] ?? sheets[0]!;
        sheet = { from: wanted, to };
        change = (entry) => {
          alter(entry);
          if (to === '') delete entry.source.sheet;
          else entry.source.sheet = to;
        };
      }
      // What the file calls its columns is seen without what the report says of them.
      const { id, source } = entryAfter(change);
      table = await read({ id, source }, file);
    }
    if (newer) {
      const matches = received(await desk().columnMatches(table));
      if (matches.length > 0 || sheet) {
        const base = change;
        const names = new Map(entryAfter(base).columns?.map(({ name, header }) => [header ?? name, name]));
        renamed = matches.map((one) => ({ ...one, from: names.get(one.from) ?? one.from }));
        const called = renamed;
        change = (entry) => {
          base(entry);
          for (const { from, to } of called) columnIn(entry, from).header = to;
        };
        table = await read(entryAfter(change), file);
      }
    }
    if (cancelled) return;
    const { difference, overlap } = received(await desk().propose(transfer(table, buffersOf([table])), newer ?? null));
    if (cancelled) return;
    const more = newer
      ? { file: newer, mode: 'replace' as const, keep: 'new' as const, overlap, renamed, sheet }
      : null;
    put({ state: 'ready', difference, change, newer: more });
  } catch (error) {
    if (!cancelled) put({ state: 'failed', problem: wordsOf(error) });
  }
}

/** Takes the rows of the newer file in another way: instead of those there are, or besides them. */
export async function takeNewer(mode: Newer['mode'], keep: AddedRows): Promise<void> {
  const { proposal } = useProposal.getState();
  const { report } = useReport.getState();
  const entry = report?.tables.find(({ id }) => id === proposal?.tableId);
  if (!proposal?.newer || !entry) return;
  const { what, change, newer } = proposal;
  if (mode === 'replace') {
    await propose(proposal.tableId, `take the rows of ${newer.file.name}`, change, newer.file);
    return;
  }
  put({ state: 'reading', what: `add the rows of ${newer.file.name}` });
  try {
    const added = received(await desk().proposeAdded(entry, keep));
    put({
      state: 'ready',
      difference: added.difference,
      entry: added.entry,
      newer: { ...newer, mode, keep, overlap: added.overlap },
    });
  } catch (error) {
    put({ state: 'failed', what, problem: wordsOf(error) });
  }
}

/** Takes the proposed table: figures follow. */
export async function accept(): Promise<void> {
  const { proposal } = useProposal.getState();
  const { report, editRows } = useReport.getState();
  if (!proposal || !report) return;
  const columns = proposal.difference?.columns ?? [];
  const entry = proposedReport(report, proposal).tables.find(({ id }) => id === proposal.tableId)!;
  // By the names that the report has for them.
  const names = new Map(entry.columns?.map(({ name, header }) => [header ?? name, name]));
  const isRenamed = new Set(proposal.newer?.renamed.flatMap(({ from, to }) => [from, to]));
  const called = (name: string) => names.get(name) ?? name;
  try {
    await editRows(
      {
        edit: 'read-table',
        saying: proposal.what,
        entry,
        columns: {
          lost: columns.flatMap(({ name, after }) =>
            after?.kind === 'number' || isRenamed.has(name) ? [] : [called(name)],
          ),
          newNumbers: columns.flatMap(({ name, before, after }) =>
            after?.kind === 'number' && before?.kind !== 'number' && !isRenamed.has(name)
              ? [{ name: called(name), ...(after.unit ? { unit: after.unit } : {}) }]
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
