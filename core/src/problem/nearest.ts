import { distance } from 'fastest-levenshtein';
import { listed } from './problem';

/**
 * The known names closest to a word somebody wrote, best first.
 * A name counts as close when it starts with the word, contains it, or differs by a third of its letters.
 */
export function nearest(word: string, known: readonly string[], most = 3): string[] {
  const wanted = word.trim().toLowerCase();
  if (wanted === '') return known.slice(0, most);
  const scored = known.map((name) => {
    const candidate = name.toLowerCase();
    const edits = distance(wanted, candidate);
    const swapped = edits === 2 && letters(candidate) === letters(wanted);
    const score = candidate.startsWith(wanted) ? 0.5 : candidate.includes(wanted) ? 0.9 : swapped ? 1 : edits;
    return {
      name,
      score,
      close: score < 1 || swapped || edits <= Math.max(1, Math.ceil(Math.max(wanted.length, candidate.length) / 3)),
    };
  });
  return scored
    .filter(({ close }) => close)
    .sort((a, b) => a.score - b.score || a.name.length - b.name.length || (a.name < b.name ? -1 : 1))
    .slice(0, most)
    .map(({ name }) => name);
}

/** The letters of a word in order, which two swapped letters do not change. */
function letters(word: string): string {
  return [...word].sort().join('');
}

/** A remedy that offers the closest known names, or the whole short list when none is close. */
export function didYouMean(word: string, known: readonly string[], kind: string): string {
  const close = nearest(word, known);
  if (close.length > 0) return `did you mean ${listed(close.map((name) => `“${name}”`))}?`;
  if (known.length === 0) return `there is no ${kind} yet`;
  const some = known.slice(0, 8).map((name) => `“${name}”`);
  return `known ${kind}s: ${some.join(', ')}${known.length > some.length ? ', …' : ''}`;
}
