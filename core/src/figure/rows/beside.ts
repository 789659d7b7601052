import { textWidth, type Mark, type Paint, type Weight } from '../../scene';
import { centred, textMark, type Belonging } from '../shapes';

export type LabelSpan = readonly [from: number, to: number];

/** Room between a label and what it stands beside. */
export const LABEL_GAP = 6;

function touches([a0, a1]: LabelSpan, [b0, b1]: LabelSpan): boolean {
  return a0 < b1 && b0 < a1;
}

/** A place a label may take, and how it is painted there. */
export interface LabelPlace {
  readonly from: number;
  readonly paint: Paint;
}

export interface BesideLabel {
  readonly role: Mark['role'];
  readonly text: string;
  readonly weight: Weight;
  readonly size: number;
  readonly value: number | null;
  readonly rule: string | null;
}

/**
 * Puts a label at the first of its places that lies within the ends and touches nothing that is there. Gives the stretch it
 * takes, or null when it is dropped.
 */
export function placeLabel(
  marks: Mark[],
  { role, text, weight, size, value, rule }: BesideLabel,
  places: readonly LabelPlace[],
  taken: readonly LabelSpan[],
  [low, high]: LabelSpan,
  centre: number,
  row: Belonging,
): LabelSpan | null {
  const width = textWidth(text, size, weight);
  for (const { from, paint } of places) {
    const stretch: LabelSpan = [from, from + width];
    if (from < low || stretch[1] > high || taken.some((other) => touches(stretch, other))) continue;
    marks.push(textMark(role, text, from, centred(centre, size), size, { weight, paint, row, value, rule }));
    return stretch;
  }
  return null;
}
