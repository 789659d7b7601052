import { textWidth, type Mark, type Paint, type Weight } from '../../scene';
import { centred, textMark, type Belonging } from '../frame';

export type Stretch = readonly [from: number, to: number];

/** Room between a label and what it stands beside. */
export const LABEL_GAP = 6;

export function touches([a0, a1]: Stretch, [b0, b1]: Stretch): boolean {
  return a0 < b1 && b0 < a1;
}

/** A place a label may take, and how it is painted there. */
export interface Place {
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
  places: readonly Place[],
  taken: readonly Stretch[],
  [low, high]: Stretch,
  centre: number,
  row: Belonging,
): Stretch | null {
  const width = textWidth(text, size, weight);
  for (const { from, paint } of places) {
    const stretch: Stretch = [from, from + width];
    if (from < low || stretch[1] > high || taken.some((other) => touches(stretch, other))) continue;
    marks.push(textMark(role, text, from, centred(centre, size), size, { weight, paint, row, value, rule }));
    return stretch;
  }
  return null;
}
