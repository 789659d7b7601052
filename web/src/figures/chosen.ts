import { create } from 'zustand';

/** The figure that lies on the bench; others may ask for one from outside. */
export const useChosen = create<{ readonly figure: string | null; choose(figure: string | null): void }>((set) => ({
  figure: null,
  choose: (figure) => set({ figure }),
}));
