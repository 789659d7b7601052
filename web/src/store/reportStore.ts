import { create as change, apply, type Draft, type Patches } from 'mutative';
import { create } from 'zustand';
import type { Report } from '@bold-ruler/core/report';
import { isProblem } from '@bold-ruler/core/problem';
import { CHANGED_ELSEWHERE, GONE } from '@/worker/changedElsewhere';
import { received, sentProblem, type Sent } from '@/worker/sent';
import { desk, onDeskLost } from './desk';
import { askForPersistence } from './persistence';
import {
  ChangedElsewhere,
  keepDraft,
  loadDrafts,
  loadHistory,
  loadReport,
  newId,
  ReportGone,
  saveReport,
} from './library';
import { onChangeElsewhere, tellTabs } from './tabs';

/** A change that can be taken back. */
interface Command {
  readonly name: string;
  readonly forward: Patches;
  readonly back: Patches;
  /** Where a text is written: what follows in the same place is one command with it. */
  readonly place?: string;
}

/** A report as a command changes it. */
export type ReportDraft = Draft<Report>;

/** A text that is being written and does not stand in the report yet. */
export interface Written {
  /** What stood there when it was begun. */
  readonly base: string;
  readonly text: string;
}

type Opening = 'none' | 'opening' | 'open' | 'missing' | 'failed';
/**
 * `elsewhere`: another tab has changed the report, and what is here cannot be saved over it. `gone`: it is not in this browser
 * any more.
 */
type Saving = 'saved' | 'saving' | 'failed' | 'elsewhere' | 'gone';

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
  /** Texts that are being written, by their places. */
  readonly drafts: ReadonlyMap<string, Written>;
  /** Whether the browser has promised not to clear what is kept; null while that is not known. */
  readonly persisted: boolean | null;
  /** A text that is being written could not be kept. */
  readonly draftsFailed: boolean;
  /** Fields in which something is written that is on its way into the report. */
  readonly writing: number;
  /** Fields that show a text which is not taken yet. */
  readonly drafting: number;
  /** Changes for the report as a whole; each is named, saved and can be undone. */
  run(name: string, recipe: (draft: Draft<Report>) => void, place?: string): void;
  /** Keeps a text that is being written; null when it is not any more. */
  write(place: string, written: Written | null): void;
  /** A field holds something that is not in the report yet, on its way or as a draft; ended by what is given. */
  begin(what: 'writing' | 'drafting'): () => void;
  /** Saves what could not be saved once more. */
  retry(): void;
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

/** A command as it is kept: what is written after a reload is a step of its own. */
function ended({ name, forward, back }: Command): Command {
  return { name, forward, back };
}

export const useReport = create<ReportState>((set, get) => {
  let saved: Promise<unknown> = Promise.resolve();
  let drafting: Promise<unknown> = Promise.resolve();

  function keep(report: Report): void {
    // What can be taken back is that of this state, also where it is saved when there is a newer one.
    const { id, past, future } = get();
    if (!id) return;
    set({ saving: 'saving' });
    // One after the other, so that an older state never lands on a newer one.
    saved = saved
      .then(() => saveReport(id, report, get().seen, { past: past.map(ended), future }))
      .then(
        (changed) => {
          if (get().id !== id) return;
          set({ seen: changed });
          if (get().persisted === null) void askForPersistence().then((persisted) => set({ persisted }));
          tellTabs({ report: id, changed, tables: false });
          if (get().report === report) set({ saving: 'saved' });
        },
        (error: unknown) => {
          if (get().id !== id) return;
          if (error instanceof ChangedElsewhere) set({ saving: 'elsewhere' });
          else if (error instanceof ReportGone) set({ saving: 'gone' });
          else set({ saving: 'failed', notice: sentProblem(error).message });
        },
      );
  }

  /** Throws the problem of an answer; one of another tab is also shown. */
  function saving<T>(answer: Sent<T>): T {
    if (!answer.ok && answer.problem.code === CHANGED_ELSEWHERE) set({ saving: 'elsewhere' });
    if (!answer.ok && answer.problem.code === GONE) set({ saving: 'gone' });
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
    drafts: new Map(),
    persisted: null,
    draftsFailed: false,
    writing: 0,
    drafting: 0,

    write(place, written) {
      const { id, drafts } = get();
      if (!id) return;
      const next = new Map(drafts);
      if (written) next.set(place, written);
      else if (!next.delete(place)) return;
      set({ drafts: next });
      // One after the other, so that an older text never lands on a newer one.
      drafting = drafting
        .then(() => keepDraft(id, place, written))
        .catch(() => {
          // Where it cannot be kept, whoever leaves is asked; see `isUnsaved`.
          if (get().id === id) set({ draftsFailed: true });
        });
    },

    begin(what) {
      const add = (n: number) => set((state) => ({ ...state, [what]: state[what] + n }));
      add(1);
      let isOver = false;
      return () => {
        if (!isOver) add(-1);
        isOver = true;
      };
    },

    retry() {
      const { report } = get();
      set({ notice: null });
      if (report) keep(report);
    },

    run(name, recipe, place) {
      const { report, past } = get();
      if (!report) return;
      const [next, forward, back] = change(report, recipe, { enablePatches: true });
      if (forward.length === 0) return;
      const last = past.at(-1);
      const isSame = place !== undefined && last?.place === place;
      const command: Command = isSame
        ? { ...last, forward: [...last.forward, ...forward] as Patches, back: [...back, ...last.back] as Patches }
        : { name, forward, back, ...(place === undefined ? {} : { place }) };
      set({
        report: next,
        past: [...(isSame ? past.slice(0, -1) : past.slice(1 - MOST_COMMANDS)), command],
        future: [],
      });
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
      if (get().id === id && get().opening !== 'failed' && get().opening !== 'missing') return;
      set({
        id,
        opening: 'opening',
        report: null,
        past: [],
        future: [],
        saving: 'saved',
        notice: null,
        drafts: new Map(),
      });
      try {
        const stored = await loadReport(id);
        if (get().id !== id) return;
        if (!stored) return set({ opening: 'missing' });
        await desk().open(id);
        const [{ past, future }, drafts] = await Promise.all([loadHistory(id, stored.changed), loadDrafts(id)]);
        if (get().id === id)
          set({
            opening: 'open',
            report: stored.report,
            seen: stored.changed,
            past: past as readonly Command[],
            future: future as readonly Command[],
            drafts: new Map(drafts.map(({ place, base, text }) => [place, { base, text }])),
          });
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
      received(await desk().keepCopy(copy, { ...report!, name: `${report!.name} (copy)` }));
      // What is here is kept, so nobody who leaves has to be asked.
      if (get().id === id) set({ saving: 'saved' });
      return copy;
    },

    dismiss() {
      set({ notice: null });
    },
  };
});

/** Something is lost if the page is left now. */
export function isUnsaved(): boolean {
  const { saving, writing, draftsFailed, drafts } = useReport.getState();
  return saving !== 'saved' || writing > 0 || (draftsFailed && drafts.size > 0);
}
