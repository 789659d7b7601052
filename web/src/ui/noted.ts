// Small things that this browser, or this tab alone, remembers. Where it keeps nothing for the page, as where site data are blocked,
// they hold until the page is left.

interface Notes {
  get(key: string): string | null;
  /** Null takes it away. */
  set(key: string, value: string | null): void;
}

function notesIn(storage: () => Storage): Notes {
  const here = new Map<string, string>();
  return {
    get(key) {
      // What could not be kept is newer than what was.
      const held = here.get(key);
      if (held !== undefined) return held;
      try {
        return storage().getItem(key);
      } catch {
        return null;
      }
    },
    set(key, value) {
      try {
        if (value === null) storage().removeItem(key);
        else storage().setItem(key, value);
        here.delete(key);
      } catch {
        if (value === null) here.delete(key);
        else here.set(key, value);
      }
    },
  };
}

/** For this browser, until it is cleared. */
export const inBrowser = notesIn(() => localStorage);
/** For this tab, until it is closed. */
export const inTab = notesIn(() => sessionStorage);
