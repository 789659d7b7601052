import { create } from 'zustand';
import type { ReaderChoice } from '@bold-ruler/core/desk';

export const NOTHING: ReaderChoice = { only: {}, period: null, switched: [], picked: null };

const BLANK = '\u0000';
const PERIOD = 'period';
const SWITCH = 'switch';
const PICK = 'pick';
const PAGE = 'page';
const FIELD = 'only ';

/** What a page shows and its reader has chosen, as it stands in the address. */
export function readAddress(search: string): { page: string | null; choice: ReaderChoice } {
  const words = new URLSearchParams(search);
  // A field may be called anything, also what means something to the engine.
  const only = new Map<string, (string | null)[]>();
  for (const [key, value] of words) {
    if (!key.startsWith(FIELD)) continue;
    const field = key.slice(FIELD.length);
    only.set(field, [...(only.get(field) ?? []), value === BLANK ? null : value]);
  }
  const pick = words.getAll(PICK);
  return {
    page: words.get(PAGE),
    choice: {
      only: Object.fromEntries(only),
      period: words.get(PERIOD),
      switched: words.getAll(SWITCH),
      picked: pickedFrom(pick),
    },
  };
}

/** A figure, and fields with their members, the widest first. */
function pickedFrom([figure, ...parts]: readonly string[]): ReaderChoice['picked'] {
  if (figure === undefined || parts.length < 2 || parts.length % 2 !== 0) return null;
  const path = parts.flatMap((field, i) =>
    i % 2 === 0 ? [{ field, member: parts[i + 1] === BLANK ? null : parts[i + 1]! }] : [],
  );
  const within = path.slice(0, -1);
  return { figure, ...path.at(-1)!, ...(within.length > 0 ? { within } : {}) };
}

export function writeAddress(page: string | null, { only, period, switched, picked }: ReaderChoice): string {
  const words = new URLSearchParams();
  if (page !== null) words.set(PAGE, page);
  for (const [field, members] of Object.entries(only))
    for (const member of members) words.append(`${FIELD}${field}`, member ?? BLANK);
  if (period !== null) words.set(PERIOD, period);
  for (const id of switched) words.append(SWITCH, id);
  if (picked) {
    words.append(PICK, picked.figure);
    for (const { field, member } of [...(picked.within ?? []), picked])
      for (const part of [field, member ?? BLANK]) words.append(PICK, part);
  }
  const text = words.toString();
  return text === '' ? '' : `?${text}`;
}

interface ReaderState {
  readonly page: string | null;
  readonly choice: ReaderChoice;
  show(page: string | null): void;
  choose(choice: Partial<ReaderChoice>): void;
  /** Takes what stands in the address. */
  takeAddress(): void;
}

/** What the reader of a page has chosen. It is no part of the report; it stands in the address, to be kept or sent. */
export const useReader = create<ReaderState>((set, get) => {
  const put = (page: string | null, choice: ReaderChoice) => {
    set({ page, choice });
    window.history.replaceState(window.history.state, '', `${window.location.pathname}${writeAddress(page, choice)}`);
  };
  return {
    page: null,
    choice: NOTHING,
    show: (page) => put(page, NOTHING),
    choose: (next) => put(get().page, { ...get().choice, ...next }),
    takeAddress: () => set(readAddress(window.location.search)),
  };
});
