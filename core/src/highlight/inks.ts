import { between, contrast, difference2000, seenWith, VISIONS, type Vision } from './colour';
import { AHEAD, BEHIND, INK, LEVEL } from './palette';

/** The paper inks stand on. */
const PAPER = '#FAFAF7';
/** How far two encodings of different meaning lie apart at least. */
export const LEAST_DIFFERENCE: Readonly<Record<Vision, number>> = {
  normal: 20,
  protanopia: 10,
  deuteranopia: 10,
  tritanopia: 10,
};
const LEAST_CONTRAST = 4.5;

const onInk = new Map<string, string>();

/** The ink for text on another ink: paper where that can be read, else what can be read better. */
export function textOn(ink: string): string {
  let text = onInk.get(ink);
  if (text !== undefined) return text;
  if (onInk.size >= 4096) onInk.clear();
  const onPaper = contrast(ink, PAPER);
  text = onPaper >= LEAST_CONTRAST || onPaper >= contrast(ink, INK) ? PAPER : INK;
  onInk.set(ink, text);
  return text;
}

/** Inks of our own that go together: each writes on paper, and all can be told apart with every kind of colour vision. */
export const INKS: readonly { readonly name: string; readonly ink: string }[] = [
  { name: 'ink', ink: INK },
  { name: 'pine', ink: AHEAD },
  { name: 'vermilion', ink: BEHIND },
  { name: 'slate', ink: LEVEL },
];

/**
 * Inks for a few lines that cross one another: each writes on paper, and all can be told apart with every kind of colour vision. None is
 * near to the inks of ahead and behind, so a line says nothing of how it stands.
 */
export const LINE_INKS: readonly string[] = [INK, '#447799', '#CC1166', '#667700', '#7711CC', '#551111'];

/** What is wrong with an ink beside others, and the nearest one that is right. */
export interface InkFault {
  readonly sentence: string;
  readonly instead: string | null;
}

function clash(ink: string, others: readonly string[]): string | null {
  for (const other of others)
    for (const vision of VISIONS) {
      const apart = difference2000(seenWith(vision, ink), seenWith(vision, other));
      if (apart < LEAST_DIFFERENCE[vision])
        return `${ink} and ${other} can hardly be told apart${vision === 'normal' ? '' : ` with ${vision}`} (ΔE ${apart.toFixed(1)}, at least ${LEAST_DIFFERENCE[vision]})`;
    }
  return null;
}

/** Checks an ink of one's own: legible on paper, and unlike the inks of the other rules. Null when all is well. */
export function inkFault(ink: string, others: readonly string[] = []): InkFault | null {
  const faint = contrast(ink, PAPER) < LEAST_CONTRAST;
  const alike = clash(
    ink,
    others.filter((other) => other.toUpperCase() !== ink.toUpperCase()),
  );
  if (!faint && alike === null) return null;
  return {
    sentence: faint
      ? `${ink} has a contrast of ${contrast(ink, PAPER).toFixed(1)} on paper, and text needs ${LEAST_CONTRAST}`
      : alike!,
    instead: nearest(ink, others),
  };
}

/** The nearest ink that passes, on the way to black, to white, or to an ink of our own. */
function nearest(ink: string, others: readonly string[]): string | null {
  let best: { ink: string; far: number } | null = null;
  for (const toward of ['#000000', '#FFFFFF', ...INKS.map((own) => own.ink)])
    for (let step = 1; step <= 20; step++) {
      const candidate = between(ink, toward, step / 20);
      if (contrast(candidate, PAPER) < LEAST_CONTRAST || clash(candidate, others) !== null) continue;
      const far = difference2000(ink, candidate);
      if (!best || far < best.far) best = { ink: candidate, far };
      break;
    }
  return best?.ink ?? null;
}
