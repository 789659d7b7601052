import type { Mark } from './scene';
import { textWidth } from './text';

/** An upright rectangle, in CSS pixels. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/**
 * Where a mark lies at most, without the width of its stroke. Curves lie between their points; a path without points has a box that
 * lies nowhere (`x` is infinite).
 */
export function boxOf(mark: Mark): Box {
  switch (mark.shape) {
    case 'rect':
      return mark;
    case 'line':
      return around([
        [mark.x1, mark.y1],
        [mark.x2, mark.y2],
      ]);
    case 'circle':
      return { x: mark.cx - mark.r, y: mark.cy - mark.r, width: 2 * mark.r, height: 2 * mark.r };
    case 'arc':
      return { x: mark.cx - mark.r1, y: mark.cy - mark.r1, width: 2 * mark.r1, height: 2 * mark.r1 };
    case 'path':
      return around(mark.points);
    case 'text': {
      const width = textWidth(mark.text, mark.size, mark.weight);
      const x = mark.anchor === 'start' ? mark.x : mark.anchor === 'middle' ? mark.x - width / 2 : mark.x - width;
      return { x, y: mark.y - mark.size * 0.8, width, height: mark.size };
    }
  }
}

function around(points: readonly (readonly [number, number])[]): Box {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of points) {
    [x0, x1] = [Math.min(x0, x), Math.max(x1, x)];
    [y0, y1] = [Math.min(y0, y), Math.max(y1, y)];
  }
  return { x: x0, y: y0, width: x1 - x0, height: y1 - y0 };
}

/** Whether two boxes share more than an edge. */
export const overlap = (a: Box, b: Box): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
