import { HAIRLINE, INK } from '../../highlight';
import type { Box, Mark, Paint } from '../../scene';
import { lineMark, rectMark, type Belonging } from '../shapes';
import { along, type CellScale } from './scale';

/** A bar from zero to a value, across a cell; a fine line at zero where the scale has both signs. */
export function barInCell(
  marks: Mark[],
  of: Belonging,
  { x, y, width, height }: Box,
  value: number,
  scale: CellScale,
  paint: Paint,
  rule: string | null,
  reference: number = NaN,
): void {
  const at = (v: number) => along(scale, v, x, x + width);
  // A scale of scores need not hold zero: bars begin at its end.
  const within = (v: number) => Math.min(Math.max(v, scale.low), scale.high);
  const zero = at(within(0));
  const thick = Math.min(12, height * 0.45);
  const top = y + (height - thick) / 2;
  if (scale.low < 0 && scale.high > 0)
    marks.push(
      lineMark('zero', of, { x1: zero, y1: y + 4, x2: zero, y2: y + height - 4 }, 0, {
        stroke: INK,
        strokeWidth: 0.75,
      }),
    );
  if (!Number.isNaN(value)) {
    const end = at(within(value));
    marks.push(
      rectMark(
        'actual',
        of,
        { x: Math.min(zero, end), y: top, width: Math.abs(end - zero), height: thick },
        value,
        paint,
        rule,
      ),
    );
  }
  if (!Number.isNaN(reference)) {
    const p = at(reference);
    marks.push(
      lineMark('benchmark', of, { x1: p, y1: top - 4, x2: p, y2: top + thick + 4 }, reference, {
        stroke: INK,
        strokeWidth: 2,
      }),
    );
  }
}

/** The whole of which a bar is a part. */
export function trackInCell(marks: Mark[], of: Belonging, { x, y, width, height }: Box): void {
  const thick = Math.min(12, height * 0.45);
  const track = { x, y: y + (height - thick) / 2, width, height: thick };
  marks.push(rectMark('band', of, track, 1, { fill: HAIRLINE, opacity: 0.5 }));
}

/** A share as a part of a whole that is shown. */
export function shareInCell(
  marks: Mark[],
  of: Belonging,
  box: Box,
  share: number,
  paint: Paint,
  rule: string | null,
): void {
  trackInCell(marks, of, box);
  const thick = Math.min(12, box.height * 0.45);
  const top = box.y + (box.height - thick) / 2;
  if (!Number.isNaN(share))
    marks.push(
      rectMark(
        'actual',
        of,
        { x: box.x, y: top, width: box.width * Math.min(1, Math.max(0, share)), height: thick },
        share,
        paint,
        rule,
      ),
    );
}
