import { create } from 'zustand';
import { inBrowser } from './noted';

export const THEMES = ['as the system', 'light', 'dark'] as const;
export type Theme = (typeof THEMES)[number];

const KEY = 'bold-ruler theme';

/** The light the desk stands in; remembered in this browser. */
export const useTheme = create<{ readonly theme: Theme; setTheme(theme: Theme): void; takeKept(): void }>((set) => ({
  theme: 'as the system',
  setTheme(theme) {
    put(theme);
    set({ theme });
    inBrowser.set(KEY, theme);
  },
  takeKept() {
    const kept = inBrowser.get(KEY);
    const theme = THEMES.find((one) => one === kept) ?? 'as the system';
    put(theme);
    set({ theme });
  },
}));

function put(theme: Theme): void {
  const { dataset } = document.documentElement;
  if (theme === 'as the system') delete dataset['theme'];
  else dataset['theme'] = theme;
}
