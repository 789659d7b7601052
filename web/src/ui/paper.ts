import { flushSync } from 'react-dom';
import { create } from 'zustand';
import { inBrowser } from './noted';
import { useTheme } from './theme';

const KEY = 'bold-ruler paper';

const same = (text: string): string => text;

interface Paper {
  /** Whether the desk is in the dark. */
  readonly isDeskDark: boolean;
  /** Whether paper is wished to be dark on a desk in the dark; remembered in this browser. */
  readonly isWished: boolean;
  /** An ink as it is on the paper that is shown; and a picture's marks, as SVG text. */
  readonly ink: (hex: string) => string;
  readonly marks: (svg: string) => string;
  wish(isWished: boolean): void;
}

/** The paper on the screen. What leaves, in files and in print, is on light paper. */
export const usePaper = create<Paper>((set, get) => ({
  isDeskDark: false,
  isWished: false,
  ink: same,
  marks: same,
  wish(isWished) {
    set({ isWished });
    inBrowser.set(KEY, isWished ? 'dark' : 'light');
    void lay(get, set);
  },
}));

let isPrinting = false;

/** Lays the paper that is wished; the colours of the dark come when they are first needed. */
async function lay(get: () => Paper, set: (next: Partial<Paper>) => void): Promise<void> {
  const isDark = () => get().isDeskDark && get().isWished && !isPrinting;
  const dark = isDark() ? await import('@bold-ruler/core/highlight') : null;
  if (isDark() !== (dark !== null)) return;
  if (dark) document.documentElement.dataset['paper'] = 'dark';
  else delete document.documentElement.dataset['paper'];
  set(dark ? { ink: dark.inDark, marks: dark.marksInDark } : { ink: same, marks: same });
}

/** Follows the light of the desk and the printer, until what it gives is called. */
export function followLight(): () => void {
  const { getState, setState } = usePaper;
  const night = matchMedia('(prefers-color-scheme: dark)');
  const look = () => {
    const { theme } = useTheme.getState();
    setState({ isDeskDark: theme === 'dark' || (theme === 'as the system' && night.matches) });
    void lay(getState, setState);
  };
  // A sheet is printed as it stands when this returns.
  const before = () => {
    isPrinting = true;
    flushSync(() => setState({ ink: same, marks: same }));
  };
  const after = () => {
    isPrinting = false;
    look();
  };
  setState({ isWished: inBrowser.get(KEY) === 'dark' });
  look();
  const end = useTheme.subscribe(look);
  night.addEventListener('change', look);
  window.addEventListener('beforeprint', before);
  window.addEventListener('afterprint', after);
  return () => {
    end();
    night.removeEventListener('change', look);
    window.removeEventListener('beforeprint', before);
    window.removeEventListener('afterprint', after);
  };
}
