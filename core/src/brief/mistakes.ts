import { isProblem, Problem } from '../problem';
import type { Vocabulary } from './brief';
import { readBrief } from './read';

/** More mistakes than these are not told at once. */
const MOST_TOLD = 5;

/**
 * All mistakes of a brief, each at its place: behind one that can be mended the brief is read as if it were. Where none can be,
 * what comes behind it is not known.
 */
export function mistakesIn(text: string, vocabulary: Vocabulary): Problem[] {
  const found: Problem[] = [];
  // The brief with the mistakes so far mended, and for each mending where it stands there and by how much it moved the rest.
  let mended = text;
  const moved: { readonly at: number; readonly by: number }[] = [];
  const before = (place: number) => moved.reduceRight((at, one) => (at >= one.at ? at - one.by : at), place);
  while (found.length < MOST_TOLD) {
    try {
      readBrief(mended, vocabulary);
      return found;
    } catch (error) {
      if (!isProblem(error)) throw error;
      const span = error.place?.span;
      if (!span) return [...found, error];
      const own: readonly [number, number] = [before(span[0]), Math.max(before(span[0]), before(span[1]))];
      const fixes = error.fixes.map((fix) => ({ ...fix, from: before(fix.from), to: before(fix.to) }));
      found.push(
        new Problem(
          error.code,
          error.sentence,
          { in: `brief, at character ${own[0] + 1}`, span: own },
          error.remedy,
          fixes,
        ),
      );
      const [fix] = error.fixes;
      if (!fix) return found;
      const next = mended.slice(0, fix.from) + fix.text + mended.slice(fix.to);
      if (next === mended) return found;
      moved.push({ at: fix.from + fix.text.length, by: fix.text.length - (fix.to - fix.from) });
      mended = next;
    }
  }
  return found;
}
