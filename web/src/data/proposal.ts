import type { Draft } from 'mutative';
import { create } from 'zustand';
import { listed } from '@bold-ruler/core/problem';
import type { Report, TableEntry } from '@bold-ruler/core/report';
import type { AddedRows, Difference, Overlap } from '@bold-ruler/core/table';
import { useReport } from '@/store/reportStore';
import type { Lacking } from '@/worker/keeping';

/** What a newer file calls columns otherwise, by their names in the report. */
export type Called = Readonly<Record<string, string>>;

/** A newer file, and how its rows are taken. */
export interface Newer {
  readonly file: File;
  /** In place of the current rows, or added to them. */
  readonly mode: 'replace' | 'add';
  /** It goes on from the rows there are, or somebody has said how it is taken. */
  readonly isChosen: boolean;
  /** Of days that are in both, whose rows are kept. */
  readonly keep: AddedRows;
  readonly overlap: Overlap | null;
  /** The rows there are, and those of the newer file. */
  readonly rows: readonly [number, number];
  /** A row that is there already does not count once more. */
  readonly isOnce: boolean;
  /** Columns that the newer file lacks under the report's name, and those it has that the report does not know. */
  readonly lacking: readonly Lacking[];
  readonly come: readonly string[];
  /** What the newer file calls columns otherwise, by their names in the report. */
  readonly called: Called;
  /** What was asked to change, without what its columns and its sheet are called. */
  readonly asked: Proposal['change'];
  /** A sheet that stands in for one that is not there any more. */
  readonly sheet: { readonly from: string; readonly to: string } | null;
}

/** An answer to a question about a table. */
export interface Answer {
  /** The question: a later answer to it takes this one's place. */
  readonly about: string;
  /** What it does: `read “net” as text`. */
  readonly what: string;
  readonly change: (entry: Draft<TableEntry>) => void;
}

/** A table read once more, in another way or from a newer file, before it is accepted. */
export interface Proposal {
  readonly tableId: string;
  /** What all answers together do. */
  readonly what: string;
  readonly answers: readonly Answer[];
  readonly change: Answer['change'];
  readonly state: 'reading' | 'ready' | 'accepted' | 'failed' | 'no file';
  readonly rows: number;
  readonly difference: Difference | null;
  readonly newer: Newer | null;
  /** What the report says of rows that were put together. */
  readonly entry: TableEntry | null;
  /** Tables that are put under this one, and the report as it is then. */
  readonly together: { readonly gone: readonly string[]; readonly report: Report } | null;
  readonly problem: string | null;
  readonly cancel: () => void;
}

/** Answers that are not taken yet, and stepped aside for another proposal. */
export interface Waiting {
  /** The report whose table it is. */
  readonly report: string | null;
  readonly answers: readonly Answer[];
  readonly newer: File | null;
  /** It is tried as soon as its table is seen. */
  readonly isNext?: true;
}

interface Proposals {
  readonly proposal: Proposal | null;
  /** By their tables, the next first. */
  readonly waiting: ReadonlyMap<string, readonly Waiting[]>;
}

export const useProposal = create<Proposals>(() => ({ proposal: null, waiting: new Map() }));

/** Answers and a newer file that are shown and not taken; null where there are none. */
export function openOf(proposal: Proposal | null): Waiting | null {
  if (!proposal || proposal.state === 'accepted' || proposal.together) return null;
  const report = useReport.getState().id;
  return { report, answers: proposal.answers, newer: proposal.newer?.file ?? null };
}

/** Lets what is shown and not taken wait for its turn. */
export function stepAside(): void {
  const { proposal } = useProposal.getState();
  proposal?.cancel();
  const open = openOf(proposal);
  if (open) waits(proposal!.tableId, [open, ...waitingFor(proposal!.tableId)]);
}

function waits(tableId: string, own: readonly Waiting[]): void {
  const waiting = new Map([...useProposal.getState().waiting, [tableId, own] as const]);
  if (own.length === 0) waiting.delete(tableId);
  useProposal.setState({ waiting });
}

/** What waits for a table of the report that is open, the next first. */
export function waitingFor(tableId: string, waiting = useProposal.getState().waiting): readonly Waiting[] {
  const { id } = useReport.getState();
  return (waiting.get(tableId) ?? []).filter(({ report }) => report === id);
}

/** Lets go of what waits next for a table. */
export const letGo = (tableId: string): void => waits(tableId, waitingFor(tableId).slice(1));

/** The question which rows a table has. */
export const WHICH_FILE = 'which file';

export const rowsOf = (file: File): Answer => ({
  about: WHICH_FILE,
  what: `take the rows of ${file.name}`,
  change: (draft) => {
    delete draft.source.files;
    draft.source.file = file.name;
  },
});
/** Has newer files of a report wait at their tables, each in its turn; the first is tried as soon as its table is seen. */
export function waitWith(report: string, newer: readonly (readonly [tableId: string, file: File])[]): void {
  const waiting = new Map<string, readonly Waiting[]>();
  newer.forEach(([tableId, file], i) => {
    const one = { report, answers: [rowsOf(file)], newer: file, ...(i === 0 ? { isNext: true as const } : {}) };
    waiting.set(tableId, [...(waiting.get(tableId) ?? []), one]);
  });
  useProposal.setState({ waiting });
}

export const wordsFor = (answers: readonly Answer[]): string =>
  listed(
    answers.map(({ what }) => what),
    'and',
  );
