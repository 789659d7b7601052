import type { Vocabulary } from './brief';
import { offersAfter } from './read';
import { typedName } from './quoting';
import type { Offer } from './parser';

/** What to put in place of `text.slice(from, cursor)`. */
export interface Completion {
  readonly text: string;
  readonly kind: Offer['kind'];
  readonly from: number;
}

/** What can stand at the cursor, best first: what completes the words begun there, else everything that can come next. */
export function completeBrief(text: string, cursor: number, vocabulary: Vocabulary, most = 12): Completion[] {
  const before = text.slice(0, cursor);
  const { offers } = offersAfter(before, vocabulary);
  const seen = new Set<string>();
  const fitting = offers
    .map((offer) => ({ ...offer, begun: before.slice(offer.from).trimStart().toLowerCase().replace(/^"/, '') }))
    .filter(({ text: word, begun }) => {
      const lower = word.toLowerCase();
      return lower.startsWith(begun) && lower !== begun;
    })
    // A word that is only just begun must not swallow a finished one: offers at a space need the space.
    .filter(({ from, begun }) => begun !== '' || from === 0 || /[\s,]$/.test(before))
    .sort((a, b) => b.begun.length - a.begun.length);
  return fitting
    .filter(({ text: word }) => !seen.has(word) && seen.add(word))
    .slice(0, most)
    .map(({ text: word, kind, from }) => ({ text: NAMES.has(kind) ? typedName(word) : word, kind, from }));
}

/** What is called by a name of its own, which may need quotes. */
const NAMES: ReadonlySet<Offer['kind']> = new Set(['measure', 'field', 'benchmark', 'highlight', 'ruler', 'member']);
