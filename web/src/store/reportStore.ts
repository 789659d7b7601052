import { create as change, apply, type Draft, type Patches } from 'mutative';
import { create } from 'zustand';
import type { Report } from '@bold-ruler/core/report';
import { isProblem } from '@bold-ruler/core/problem';
import { CHANGED_ELSEWHERE } from '@/worker/changedElsewhere';
import { received, sentProblem, type Sent } from '@/worker/sent';
import { desk, onDeskLost } from './desk';
import { ChangedElsewhere, copyReport, loadReport, newId, saveReport } from './library';
import { onChangeElsewhere, tellTabs } from './tabs';

/** A change that can be taken back. */
interface Command {
  readonly name: string;
  readonly forward: Patches;
  readonly back: Patches;
}

type Opening = 'none' | 'opening' | 'open' | 'missing' | 'failed';
/** `elsewhere`: another tab has changed the report, and what is here cannot be saved over it. */
type Saving = 'saved' | 'saving' | 'failed' | 'elsewhere';

interface ReportState {
  readonly id: string | null;
  readonly opening: Opening;
  readonly report: Report | null;
  readonly past: readonly Command[];
  readonly future: readonly Command[];
  readonly saving: Saving;
  /** The state of the report that this tab has read or saved last; see `StoredReport`. */
  readonly seen: number;
  /** Something to be told, until it has been read. */
  readonly notice: string | null;
  /** Grows when tables are added or replaced. */
  readonly tablesVersion: number;
  /** Changes for the report as a whole; each is named, saved and can be undone. */
  run(name: string, recipe: (draft: Draft<Report>) => void): void;
  undo(): void;
  redo(): void;
  open(id: string): Promise<void>;
  /** Runs work that saves tables together with a report; afterwards that report is open, without a history. */
  changeTables(work: (seen: number) => Promise<Sent<number>>, next: Report): Promise<void>;
  /** Puts back the table that was replaced last. */
  putBackTable(): Promise<void>;
  /** Takes the newest state from the library, whatever was here. */
  takeNewest(notice: string | null): Promise<void>;
  /** Keeps what is here as a report of its own; gives its id. */
  keepAsCopy(): Promise<string>;
  dismiss(): void;
}

const MOST_COMMANDS = 200;

export const useReport = create<ReportState>((set, get) => {
  let saved: Promise<unknown> = Promise.resolve();

  function keep(report: Report): void {
    const { id } = get();
    if (!id) return;
    set({ saving: 'saving' });
    // One after the other, so that an older state never lands on a newer one.
    saved = saved
      .then(() => saveReport(id, report, get().seen))
      .then(
        (changed) => {
          if (get().id !== id) return;
          set({ seen: changed });
          tellTabs({ report: id, changed, tables: false });
          if (get().report === report) set({ saving: 'saved' });
        },
        (error: unknown) => {
          if (get().id !== id) return;
          if (error instanceof ChangedElsewhere) set({ saving: 'elsewhere' });
          else set({ saving: 'failed', notice: sentProblem(error).message });
        },
      );
  }

  /** Throws the problem of an answer; one of another tab is also shown. */
  function saving<T>(answer: Sent<T>): T {
    if (!answer.ok && answer.problem.code === CHANGED_ELSEWHERE) set({ saving: 'elsewhere' });
    return received(answer);
  }

  function tablesAre(report: Report, changed: number): void {
    const { id } = get();
    set({ report, seen: changed, past: [], future: [], saving: 'saved', tablesVersion: get().tablesVersion + 1 });
    if (id) tellTabs({ report: id, changed, tables: true });
  }

  if (typeof BroadcastChannel !== 'undefined' && typeof window !== 'undefined') {
    onChangeElsewhere((change) => {
      const { id, seen, saving: state, takeNewest } = get();
      // What is not saved here is not thrown away; the next save finds out.
      if (change.report === id && change.changed !== seen && state === 'saved')
        void takeNewest('Another tab has changed this report. You see its newest state.');
    });
  }

  onDeskLost(() => {
    const { id, report } = get();
    if (!id || !report) return;
    void desk()
      .open(id)
      .then(() => {
        if (get().id === id)
          set({
            tablesVersion: get().tablesVersion + 1,
            notice: 'The part that computes had stopped and was started again. Nothing is lost.',
          });
      });
  });

  return {
    id: null,
    opening: 'none',
    report: null,
    past: [],
    future: [],
    saving: 'saved',
    seen: 0,
    notice: null,
    tablesVersion: 0,

    run(name, recipe) {
      const { report, past } = get();
      if (!report) return;
      const [next, forward, back] = change(report, recipe, { enablePatches: true });
      if (forward.length === 0) return;
      set({ report: next, past: [...past.slice(1 - MOST_COMMANDS), { name, forward, back }], future: [] });
      keep(next);
    },

    undo() {
      const { report, past, future } = get();
      const command = past[past.length - 1];
      if (!report || !command) return;
      const next = apply(report, command.back);
      set({ report: next, past: past.slice(0, -1), future: [command, ...future] });
      keep(next);
    },

    redo() {
      const { report, past, future } = get();
      const [command, ...rest] = future;
      if (!report || !command) return;
      const next = apply(report, command.forward);
      set({ report: next, past: [...past, command], future: rest });
      keep(next);
    },

    async open(id) {
      if (get().id === id && get().opening !== 'failed') return;
      set({ id, opening: 'opening', report: null, past: [], future: [], saving: 'saved', notice: null });
      try {
        const stored = await loadReport(id);
        if (get().id !== id) return;
        if (!stored) return set({ opening: 'missing' });
        await desk().open(id);
        if (get().id === id) set({ opening: 'open', report: stored.report, seen: stored.changed });
      } catch (error) {
        set({ opening: 'failed', notice: isProblem(error) ? error.message : null });
      }
    },

    async changeTables(work, next) {
      tablesAre(next, saving(await work(get().seen)));
    },

    async putBackTable() {
      const { report, changed } = saving(await desk().putBack(get().seen));
      tablesAre(report, changed);
    },

    async takeNewest(notice) {
      const { id } = get();
      const stored = id && (await loadReport(id));
      if (!stored) return;
      await desk().open(id, true);
      if (get().id !== id) return;
      const { report, changed } = stored;
      const tablesVersion = get().tablesVersion + 1;
      set({ report, seen: changed, past: [], future: [], saving: 'saved', notice, tablesVersion });
    },

    async keepAsCopy() {
      const { id, report } = get();
      const copy = newId();
      await copyReport(id!, copy, report!);
      return copy;
    },

    dismiss() {
      set({ notice: null });
    },
  };
});
