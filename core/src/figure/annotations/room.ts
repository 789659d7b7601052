import { boxOf, overlap, type Box, type Mark, type Scene } from '../../scene';

/** What a note keeps clear of: texts, bars and dots as boxes, lines as their points. */
export interface Taken {
  readonly boxes: Box[];
  readonly lines: readonly (readonly (readonly [number, number])[])[];
  /** Where notes may stand. */
  readonly area: Box;
}

/** Marks on which a note may lie, as grid and bands lie beneath everything. */
const BENEATH = new Set<Mark['role']>(['cell', 'band', 'interval', 'tick', 'zero', 'span']);

export function takenBy({ marks, width, height }: Scene): Taken {
  const boxes: Box[] = [];
  const lines: (readonly (readonly [number, number])[])[] = [];
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const mark of marks) {
    if (mark.role === 'cell' && mark.shape === 'rect') {
      left = Math.min(left, mark.x);
      top = Math.min(top, mark.y);
      right = Math.max(right, mark.x + mark.width);
      bottom = Math.max(bottom, mark.y + mark.height);
    }
    if (BENEATH.has(mark.role)) continue;
    if (mark.shape === 'path') lines.push(mark.points);
    else if (mark.shape === 'line')
      lines.push([
        [mark.x1, mark.y1],
        [mark.x2, mark.y2],
      ]);
    else boxes.push(boxOf(mark));
  }
  const area = {
    x: Math.max(4, left),
    y: Math.max(4, top),
    width: Math.min(width - 4, right) - Math.max(4, left),
    height: Math.min(height - 4, bottom) - Math.max(4, top),
  };
  return { boxes, lines, area };
}

/** Whether a box lies in the area and touches nothing. */
export function isFree(box: Box, { boxes, lines, area }: Taken): boolean {
  if (box.x < area.x || box.y < area.y || box.x + box.width > area.x + area.width) return false;
  if (box.y + box.height > area.y + area.height) return false;
  if (boxes.some((other) => overlap(box, other))) return false;
  return !lines.some((points) => points.some((point, i) => i > 0 && crosses(points[i - 1]!, point, box)));
}

/** Whether a straight line from one point to another touches a box. */
export function crosses([x1, y1]: readonly [number, number], [x2, y2]: readonly [number, number], box: Box): boolean {
  // The part of the line that lies between the box's sides, then between its top and bottom.
  let [from, to] = [0, 1];
  for (const [start, end, low, high] of [
    [x1, x2, box.x, box.x + box.width],
    [y1, y2, box.y, box.y + box.height],
  ] as const) {
    const far = end - start;
    if (far === 0) {
      if (start < low || start > high) return false;
      continue;
    }
    const [a, b] = [(low - start) / far, (high - start) / far];
    from = Math.max(from, Math.min(a, b));
    to = Math.min(to, Math.max(a, b));
    if (from > to) return false;
  }
  return true;
}
