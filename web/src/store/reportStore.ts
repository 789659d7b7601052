import { create as change, apply, type Draft, type Patches } from 'mutative';
import { create } from 'zustand';
import type { Report } from '@bold-ruler/core/report';
import { desk } from './desk';
import { loadReport, saveReport } from './library';

/** A change that can be taken back. */
interface Command {
  readonly name: string;
  readonly forward: Patches;
  readonly back: Patches;
}

type Opening = 'none' | 'opening' | 'open' | 'missing' | 'failed';
type Saving = 'saved' | 'saving' | 'failed';

interface ReportState {
  readonly id: string | null;
  readonly opening: Opening;
  readonly report: Report | null;
  readonly past: readonly Command[];
  readonly future: readonly Command[];
  readonly saving: Saving;
  /** Grows when tables are added or replaced. */
  readonly tablesVersion: number;
  /** Changes for the report as a whole; each is named, saved and can be undone. */
  run(name: string, recipe: (draft: Draft<Report>) => void): void;
  undo(): void;
  redo(): void;
  open(id: string): Promise<void>;
  /** After tables have changed in the library. */
  tablesChanged(report: Report): void;
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
      .then(() => saveReport(id, report))
      .then(
        () => get().report === report && set({ saving: 'saved' }),
        () => set({ saving: 'failed' }),
      );
  }

  return {
    id: null,
    opening: 'none',
    report: null,
    past: [],
    future: [],
    saving: 'saved',
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
      set({ id, opening: 'opening', report: null, past: [], future: [], saving: 'saved' });
      try {
        const stored = await loadReport(id);
        if (get().id !== id) return;
        if (!stored) return set({ opening: 'missing' });
        await desk().open(id);
        if (get().id === id) set({ opening: 'open', report: stored.report });
      } catch {
        set({ opening: 'failed' });
      }
    },

    tablesChanged(report) {
      set({ report, past: [], future: [], tablesVersion: get().tablesVersion + 1 });
    },
  };
});
