import { rampInk, SEQUENTIAL, textOn } from '../../highlight';
import { PAPER, rounded, type Mark } from '../../scene';
import { centred, rectMark, textMark, type Belonging, type Box } from '../frame';
import { dotMark } from '../path';

/** The ink of a value between the least and the greatest of its column. */
export function inkBetween(value: number, low: number, high: number): string {
  return rampInk(SEQUENTIAL, { low, high, middle: null }, value);
}

/** A rounded score on a dot, the darker the higher. */
export function dotInCell(
  marks: Mark[],
  of: Belonging,
  { x, y, width, height }: Box,
  value: number,
  ink: string,
): void {
  if (Number.isNaN(value)) return;
  const centre = [x + width / 2, y + height / 2] as const;
  const r = Math.min(10.5, height / 2 - 2);
  marks.push(dotMark('node', of, centre, r, value, { fill: ink }));
  marks.push(
    textMark('value', String(Math.round(value)), centre[0], centred(centre[1], 11.5), 11.5, {
      anchor: 'middle',
      weight: 600,
      paint: { fill: textOn(ink) },
      row: of,
      value,
    }),
  );
}

export type Mood = 'good' | 'fair' | 'poor';

/** A face: its mouth says how it stands, and so does its ink. */
export function faceInCell(
  marks: Mark[],
  of: Belonging,
  { x, y, width, height }: Box,
  value: number,
  mood: Mood,
  ink: string,
): void {
  if (Number.isNaN(value)) return;
  const [cx, cy] = [x + width / 2, y + height / 2];
  const r = Math.min(9, height / 2 - 3);
  marks.push(dotMark('node', of, [cx, cy], r, value, { fill: PAPER, stroke: ink, strokeWidth: 1.5 }));
  for (const side of [-1, 1])
    marks.push(dotMark('node', of, [cx + side * r * 0.36, cy - r * 0.22], r * 0.13, null, { fill: ink }));
  const bend = { good: 0.42, fair: 0, poor: -0.42 }[mood] * r;
  const [left, right, base] = [
    cx - r * 0.45,
    cx + r * 0.45,
    cy + r * (mood === 'poor' ? 0.55 : mood === 'good' ? 0.22 : 0.38),
  ];
  marks.push({
    shape: 'path',
    role: 'node',
    key: of.key,
    step: of.step,
    value: null,
    d: `M${rounded(left)} ${rounded(base)}Q${rounded(cx)} ${rounded(base + 2 * bend)} ${rounded(right)} ${rounded(base)}`,
    points: [
      [left, base],
      [cx, base + bend],
      [right, base],
    ],
    paint: { stroke: ink, strokeWidth: 1.5 },
    rule: null,
  });
}

/** The ground of a cell, the darker the higher. */
export function rampInCell(
  marks: Mark[],
  of: Belonging,
  { x, y, width, height }: Box,
  value: number,
  ink: string,
): void {
  if (Number.isNaN(value)) return;
  marks.push(rectMark('band', of, { x, y: y + 1, width, height: height - 2 }, value, { fill: ink }));
}
