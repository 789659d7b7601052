import { create } from 'zustand';

/** What somebody new does with the demo's first figure, in order. */
export const GUIDE = ['by', 'against', 'row', 'page', 'own'] as const;
export type GuideStep = (typeof GUIDE)[number];

interface GuideState {
  /** The step that is under way; null where nobody is guided. */
  readonly step: GuideStep | null;
  begin(): void;
  /** A step has been done; others than the one under way change nothing. */
  done(step: GuideStep): void;
  end(): void;
}

export const useGuide = create<GuideState>((set, get) => ({
  step: null,
  begin: () => set({ step: GUIDE[0] }),
  done(step) {
    if (get().step === step) set({ step: GUIDE[GUIDE.indexOf(step) + 1] ?? null });
  },
  end: () => set({ step: null }),
}));
