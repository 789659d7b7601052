import { create } from 'zustand';
import {
  editedPlain,
  ended,
  isPlain,
  NO_HISTORY,
  redone,
  remembered,
  undone,
  type Command,
  type Edit,
  type Edited,
  type History,
  type RowsChange,
  type Remembering,
  type Stepped,
} from '@bold-ruler/core/edit';
import type { Report } from '@bold-ruler/core/report';
import type { Table } from '@bold-ruler/core/table';
import { isProblem } from '@bold-ruler/core/problem';
import { CHANGED_ELSEWHERE, GONE } from '@/worker/changedElsewhere';
import { received, sentProblem, type Sent } from '@bold-ruler/core/problem';
import { desk, onDeskLost } from './desk';
import { askForPersistence } from '@/storage/persistence';
import {
  ChangedElsewhere,
  keepDraft,
  loadDrafts,
  loadHistory,
  loadReport,
  newId,
  ReportGone,
  saveReport,
  type Files,
} from '@/storage/library';
import { onChangeElsewhere, tellTabs } from '@/storage/tabs';

/** A text that is being written and does not stand in the report yet. */
export interface Written {
  /** What stood there when it was begun. */
  readonly base: string;
  readonly text: string;
  /** What is on its way into the report: what is typed since is begun from it. */
  readonly sent?: string;
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
  /** Which of its rows each table has; see `StoredReport`. */
  readonly versions: Readonly<Record<string, number>>;
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
  /**
   * Changes the report. Each edit is saved and can be undone. One that has to know names is worked out by the desk, for the report
   * as it is when the answer comes.
   * @param place of writing a text: what follows in the same place is one step with it
   * @returns whether it was done; why not stands in `notice`
   */
  edit(edit: Edit, place?: string): Promise<boolean>;
  /** The same for whoever shows why it was not done; throws a `Problem`. */
  attempt(edit: Edit, place?: string): Promise<boolean>;
  /** The same for an edit that has to be found out first, such as a repair; null changes nothing. */
  editBy(ask: (report: Report) => Promise<Sent<Edit | null>>): Promise<boolean>;
  /** Keeps a text that is being written; null when it is not any more. */
  write(place: string, written: Written | null): void;
  /** A field holds something that is not in the report yet, on its way or as a draft; ended by what is given. */
  begin(what: 'writing' | 'drafting'): () => void;
  /** Saves what could not be saved once more. */
  retry(): Promise<void>;
  undo(): Promise<void>;
  redo(): Promise<void>;
  open(id: string): Promise<void>;
  /**
   * Changes the report together with rows of its tables, which can be undone as well. What is changed meanwhile waits.
   * @param tables the tables that have other rows, and the rows themselves or those that were proposed to the desk
   */
  editRows(edit: Edit, tables: readonly string[], rows: readonly Table[] | 'proposed', files?: Files): Promise<void>;
  /** Takes the newest state from the library, whatever was here. */
  takeNewest(notice: string | null): Promise<void>;
  /** Keeps what is here as a report of its own; gives its id. */
  keepAsCopy(): Promise<string>;
  dismiss(): void;
}

export const useReport = create<ReportState>((set, get) => {
  let saved: Promise<unknown> = Promise.resolve();
  let drafting: Promise<unknown> = Promise.resolve();
  /** Texts that are on their way to be kept, by their report and place. */
  const unkept = new Map<string, Written | null>();
  /** Work that brings other rows, for which edits wait. */
  let held: Promise<void> | null = null;
  /** Edits that somebody else works out now. */
  const workedOut = new Set<Promise<unknown>>();

  function keep(report: Report): void {
    // What can be taken back is that of this state, also where it is saved when there is a newer one.
    const { id, past, future } = get();
    if (!id) return;
    set({ saving: 'saving' });
    // One after the other, so that an older state never lands on a newer one.
    saved = saved
      .then(() => saveReport(id, report, get().seen, ended({ past, future })))
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

  /** Takes what an edit has made of the report that is here. */
  function take(done: Edited, place?: string): void {
    if (done.forward.length === 0) return;
    set({ report: done.report, ...remembered(get(), done, place) });
    keep(done.report);
  }

  /**
   * Takes an edit that somebody else works out. Where the report has changed in the meantime, it is worked out once more for what
   * it is now: an old answer never lands on a newer report.
   */
  function settle(ask: (report: Report) => Promise<Sent<Edited | null>>, place?: string): Promise<boolean> {
    const work = settled(ask, place);
    workedOut.add(work);
    const over = () => void workedOut.delete(work);
    work.then(over, over);
    return work;
  }

  async function settled(ask: (report: Report) => Promise<Sent<Edited | null>>, place?: string): Promise<boolean> {
    const { id } = get();
    for (;;) {
      const before = get().report;
      if (!before || get().id !== id) return false;
      const done = received(await ask(before));
      while (held) await held;
      if (get().report !== before || get().id !== id) continue;
      if (done) take(done, place);
      return done !== null;
    }
  }

  /** Tells what an edit could not be done for. */
  async function told(work: Promise<boolean>): Promise<boolean> {
    try {
      return await work;
    } catch (error) {
      set({ notice: sentProblem(error).message });
      return false;
    }
  }

  /** Waits for rows that are on their way; false where another report is open by then. */
  async function isReady(): Promise<boolean> {
    const { id } = get();
    while (held) await held;
    return get().id === id;
  }

  /** Goes a step back or on, with the rows that belong to it. What was asked for before is done first, so that it is what is taken back. */
  async function step(way: (now: Remembering) => Stepped | null): Promise<void> {
    if (!(await isReady())) return;
    await Promise.allSettled(workedOut);
    if (!(await isReady())) return;
    const { report, past, future } = get();
    const next = report && way({ report, past, future });
    if (!next) return;
    const { rows, ...state } = next;
    if (rows.length > 0) {
      await told(holding(() => saveRows(state.report, state, rows, [])).then(() => true));
      return;
    }
    set(state);
    keep(state.report);
  }

  /** Runs work that brings other rows, for the report that is open now; edits wait for it. */
  function holding(work: () => Promise<void>): Promise<void> {
    const { id } = get();
    const run = (held ?? Promise.resolve()).then(() => (get().id === id ? work() : undefined));
    const over: Promise<void> = run
      .catch(() => {})
      .then(() => {
        if (held === over) held = null;
      });
    held = over;
    return run;
  }

  /** Saves a report with other rows, in its turn behind what is being saved, and has it here then. */
  function saveRows(
    report: Report,
    history: History,
    changes: readonly RowsChange[],
    rows: readonly Table[] | 'proposed',
    files: Files = new Map(),
  ): Promise<void> {
    const { id } = get();
    const work = saved.then(async () => {
      const save = { report, seen: get().seen, history: ended(history), changes };
      const { changed, isForgotten } = saving(await desk().saveRows(save, rows, files));
      if (id) tellTabs({ report: id, changed, tables: true });
      if (get().id !== id) return;
      const versions = { ...get().versions };
      for (const { table, after } of changes) {
        if (after === null) delete versions[table];
        else versions[table] = after;
      }
      const { past, future } = isForgotten ? NO_HISTORY : history;
      if (isForgotten) set({ notice: 'There was no room to keep the rows as they were: this cannot be undone.' });
      const tablesVersion = get().tablesVersion + 1;
      set({ report, past, future, seen: changed, versions, saving: 'saved', tablesVersion });
    });
    saved = work.catch(() => {});
    return work;
  }

  /** Throws the problem of an answer; one of another tab is also shown. */
  function saving<T>(answer: Sent<T>): T {
    if (!answer.ok && answer.problem.code === CHANGED_ELSEWHERE) set({ saving: 'elsewhere' });
    if (!answer.ok && answer.problem.code === GONE) set({ saving: 'gone' });
    return received(answer);
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
    versions: {},
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
      // One after the other, and of what is typed fast only what stands there by then.
      const key = `${id} ${place}`;
      const isWaiting = unkept.has(key);
      unkept.set(key, written);
      if (isWaiting) return;
      const done = get().begin('writing');
      drafting = drafting
        .then(() => {
          const last = unkept.get(key) ?? null;
          unkept.delete(key);
          return keepDraft(id, place, last);
        })
        .catch(() => {
          // Where it cannot be kept, whoever leaves is asked; see `isUnsaved`.
          if (get().id === id) set({ draftsFailed: true });
        })
        .finally(done);
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

    async retry() {
      set({ notice: null });
      if (!(await isReady())) return;
      const { report } = get();
      if (report) keep(report);
    },

    edit(edit, place) {
      return told(get().attempt(edit, place));
    },

    async attempt(edit, place) {
      // What nothing holds up is done at once, so that a field shows it with the key that wrote it.
      if (held && !(await isReady())) return false;
      const { report } = get();
      if (!report) return false;
      if (!isPlain(edit)) return settle((now) => desk().edited(now, edit), place);
      take(editedPlain(report, edit), place);
      return true;
    },

    editBy(ask) {
      return told(
        settle(async (now) => {
          const edit = received(await ask(now));
          if (edit === null) return { ok: true, value: null };
          return isPlain(edit) ? { ok: true, value: editedPlain(now, edit) } : desk().edited(now, edit);
        }),
      );
    },

    undo: () => step(undone),

    redo: () => step(redone),

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
        const [history, drafts] = await Promise.all([loadHistory(id, stored.changed), loadDrafts(id)]);
        if (get().id === id)
          set({
            opening: 'open',
            report: stored.report,
            seen: stored.changed,
            versions: stored.versions ?? {},
            ...historyOf(history),
            drafts: new Map(drafts.map(({ place, base, text }) => [place, { base, text }])),
          });
      } catch (error) {
        set({ opening: 'failed', notice: isProblem(error) ? error.message : null });
      }
    },

    editRows(edit, tables, rows, files = new Map()) {
      return holding(async () => {
        const { report } = get();
        if (!report) return;
        const done = isPlain(edit) ? editedPlain(report, edit) : received(await desk().edited(report, edit));
        const version = Date.now();
        const changes = tables.map((table) => ({
          table,
          before: report.tables.some((entry) => entry.id === table) ? (get().versions[table] ?? 0) : null,
          after: done.report.tables.some((entry) => entry.id === table) ? version : null,
        }));
        const history = remembered(get(), done, undefined, changes);
        await saveRows(done.report, history, changes, rows, files);
      });
    },

    async takeNewest(notice) {
      const { id } = get();
      const stored = id && (await loadReport(id));
      if (!stored) return;
      await desk().open(id, true);
      const { report, changed, versions = {} } = stored;
      // Its steps are those of all tabs: what each of them did can be taken back in any.
      const history = await loadHistory(id, changed);
      if (get().id !== id) return;
      const tablesVersion = get().tablesVersion + 1;
      set({ report, seen: changed, versions, ...historyOf(history), saving: 'saved', notice, tablesVersion });
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

/** A history as the storage has it, which does not look into its steps. */
function historyOf({ past, future }: Awaited<ReturnType<typeof loadHistory>>): History {
  return { past: past as readonly Command[], future: future as readonly Command[] };
}

/** Something is lost if the page is left now. */
export function isUnsaved(): boolean {
  const { saving, writing, draftsFailed, drafts } = useReport.getState();
  return saving !== 'saved' || writing > 0 || (draftsFailed && drafts.size > 0);
}
