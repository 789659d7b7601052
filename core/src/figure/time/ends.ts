import { INK, QUIET } from '../../highlight';
import { shorten, textWidth, type Mark } from '../../scene';
import { centred, lineMark, textMark, type Belonging } from '../shapes';
import { spread, withRoom } from './endLabels';

/** The end of a line, and what is written beside it. */
export interface End {
  readonly x: number;
  readonly y: number;
  readonly name: string;
  readonly text: string;
  readonly of: Belonging;
  readonly strong: boolean;
  readonly ink?: string;
  readonly value: number | null;
}

const SIZE = 12;
const APART = 14;
const LEADER = 14;

/** Width of a column of names and values beside the ends of lines. */
export function endsWidth(ends: readonly Pick<End, 'name' | 'text'>[], most: number): number {
  return Math.min(most, ends.reduce((wide, { name, text }) => Math.max(wide, labelWidth(name, text)), 0) + LEADER + 6);
}

const labelWidth = (name: string, text: string) =>
  textWidth(name, SIZE, 600) + (text === '' ? 0 : 6 + textWidth(text, SIZE));

/** Names and values beside the ends of lines, apart from one another; a fine leader where a label had to move. Gives how many found no room. */
export function endLabels(
  marks: Mark[],
  ends: readonly End[],
  x: number,
  width: number,
  range: readonly [number, number],
): number {
  const shown = withRoom(ends, ({ strong }) => strong, APART, range);
  let dropped = ends.length - shown.length;
  spread(shown, APART, range).forEach((y, at) => {
    const end = shown[at]!;
    if (y === null) {
      dropped++;
      return;
    }
    if (Math.abs(y - end.y) > 3 || x - end.x > LEADER)
      marks.push(
        lineMark('connector', end.of, { x1: end.x + 5, y1: end.y, x2: x + LEADER - 4, y2: y }, null, {
          stroke: QUIET,
          strokeWidth: 0.5,
        }),
      );
    const start = x + LEADER;
    const room = width - LEADER;
    const value = end.text === '' || labelWidth(end.name, end.text) > room ? '' : end.text;
    const name = shorten(end.name, room - (value === '' ? 0 : 6 + textWidth(value, SIZE)), SIZE, 600);
    const fill = end.ink ?? (end.strong ? INK : QUIET);
    const base = centred(y, SIZE);
    marks.push(textMark('label', name, start, base, SIZE, { weight: 600, paint: { fill }, row: end.of }));
    if (value !== '')
      marks.push(
        textMark('value', value, start + textWidth(name, SIZE, 600) + 6, base, SIZE, {
          paint: { fill },
          row: end.of,
          value: end.value,
        }),
      );
  });
  return dropped;
}
