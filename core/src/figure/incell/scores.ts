import { MINUS } from '../../format';
import { rampInk, SEQUENTIAL, textOn } from '../../highlight';
import type { Aim, Ramp } from '../../report';
import { PAPER, rounded, type Box, type Mark } from '../../scene';
import { centred, rectMark, textMark, type Belonging } from '../shapes';
import { dotMark } from '../path';

/**
 * The ink of a value between the least and the greatest of its column. Where some are below zero inks part there, the worse side in the
 * ink of what is behind: by the measure's aim that is less than zero, or more, or neither.
 */
export function inkBetween(value: number, low: number, high: number, aim: Aim = 'raise'): string {
  if (low >= 0) return rampInk(SEQUENTIAL, { low, high, middle: null }, value);
  // Both sides have one scale, so that −5 is as strong as +5.
  const most = Math.max(-low, high);
  const ends = { low: -most, high: most, middle: 0 };
  return rampInk(PARTED[aim], ends, value);
}

// So light that dark letters can be read on all of them.
const [WORSE, BETTER, AWAY] = ['#E58D76', '#6FB39D', '#9DA9B5'] as const;
const parted = (low: string, high: string): Ramp => ({ low, high, middle: { ink: '#F1EEE5', at: 0 } });
/** What is to be held is neither better nor worse on one side: it is away from where it should be on both. */
const PARTED: Readonly<Record<Aim, Ramp>> = {
  raise: parted(WORSE, BETTER),
  cut: parted(BETTER, WORSE),
  hold: parted(AWAY, AWAY),
};

/** A score as it fits on a dot: with a decimal where it has one. */
const scoreText = (value: number) =>
  String(Math.abs(value) < 10 ? Math.round(value * 10) / 10 : Math.round(value)).replace('-', MINUS);

/** A score on a dot, the darker the higher. */
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
    textMark('value', scoreText(value), centre[0], centred(centre[1], 11.5), 11.5, {
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
