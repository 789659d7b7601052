import type { Brief } from '@bold-ruler/core/brief';
import type { Mark, Scene, SceneRuler } from '@bold-ruler/core/scene';
import { textWidth } from '@bold-ruler/core/scene';
import type { Part } from './parts';

/** What can be touched in a figure: a part of its sentence, or of the drawer. */
export type Touched = Extract<Part, 'by' | 'each' | 'against' | 'views'> | 'highlight' | 'ruler';

interface Point {
  readonly x: number;
  readonly y: number;
}

/** The point of the figure under the pointer. */
export function pointIn(event: { clientX: number; clientY: number }, svg: SVGSVGElement, scene: Scene): Point {
  const box = svg.getBoundingClientRect();
  return {
    x: ((event.clientX - box.left) / box.width) * scene.width,
    y: ((event.clientY - box.top) / box.height) * scene.height,
  };
}

/** The ruler a mark lies under: the nearest one above it (or beside it) that reaches over it. */
export function rulerOver(rulers: readonly SceneRuler[], mark: Mark | undefined): SceneRuler | undefined {
  if (mark?.shape !== 'rect' || rulers.length < 2) return rulers[0];
  const middle = mark.x + mark.width / 2;
  return rulers
    .filter(({ strip }) => strip.y <= mark.y && strip.x <= middle && strip.x + strip.width >= middle)
    .reduce<SceneRuler | undefined>((best, one) => (best && best.strip.y >= one.strip.y ? best : one), undefined);
}

const NEAR = 4;

function holds(mark: Mark, { x, y }: Point): boolean {
  switch (mark.shape) {
    case 'text': {
      const wide = textWidth(mark.text, mark.size, mark.weight);
      const left = mark.anchor === 'start' ? mark.x : mark.anchor === 'end' ? mark.x - wide : mark.x - wide / 2;
      return x >= left && x <= left + wide && y >= mark.y - mark.size && y <= mark.y + mark.size * 0.3;
    }
    case 'rect':
      return (
        x >= mark.x - NEAR && x <= mark.x + mark.width + NEAR && y >= mark.y - NEAR && y <= mark.y + mark.height + NEAR
      );
    case 'line':
      return (
        x >= Math.min(mark.x1, mark.x2) - NEAR &&
        x <= Math.max(mark.x1, mark.x2) + NEAR &&
        y >= Math.min(mark.y1, mark.y2) - NEAR &&
        y <= Math.max(mark.y1, mark.y2) + NEAR
      );
    default:
      return false;
  }
}

/** What a press on a figure asks for: a rule opens what it is held against, a name what it is broken down by, a gap its highlight. */
export function touchedAt({ marks }: Scene, point: Point, brief: Brief): Touched | null {
  for (let i = marks.length - 1; i >= 0; i--) {
    const mark = marks[i]!;
    if (mark.role === 'cell' || !holds(mark, point)) continue;
    if (mark.role === 'benchmark' || mark.role === 'due') return 'against';
    if (mark.role === 'gap' || mark.role === 'badge') return 'highlight';
    if (mark.role === 'label') return brief.by.length > 0 ? 'by' : brief.grain ? 'each' : 'views';
    // A bar is its row's: pressing it chooses the row.
    if (mark.role === 'actual') return null;
  }
  return null;
}
