import { rowKey } from '../figure';
import type { Cells } from '../query';
import { place } from '../ruler';
import { keyText, type Mark, type Scene, type SceneRuler } from '../scene';
import type { Sentence } from './reckoning';

/** What a mark is called where its place is told. */
const NAMES: Partial<Record<Mark['role'], string>> = {
  actual: 'the bar ends',
  rest: 'the bar ends',
  benchmark: 'the rule stands',
  due: 'the thin rule stands',
  forecast: 'the landing ends',
  rise: 'the step ends',
  fall: 'the step ends',
  node: 'the point stands',
};

/** Pixels that a drawing may be rounded by. */
const DUST = 0.01;

/** Where the marks of a row stand, each with the arithmetic of its ruler. */
export function placesOf(scene: Scene, cells: Cells, row: number, write: (value: number) => string): Sentence[] {
  const wanted = keyText(rowKey(cells, row));
  const sentences: Sentence[] = [];
  for (const mark of scene.marks) {
    const name = NAMES[mark.role];
    if (name === undefined || keyText(mark) !== wanted) continue;
    for (const ruler of scene.rulers) {
      const value = valueOn(ruler, mark, cells.benchmarks?.[row] ?? NaN);
      if (value === null) continue;
      const at = place(ruler, value);
      if (!ways(mark, ruler).some((one) => Math.abs(one - at) < DUST)) continue;
      sentences.push(sentenceOf(ruler, name, value, at, write));
      break;
    }
  }
  return sentences;
}

/** The value of a mark in the units of its ruler. */
function valueOn({ kind }: SceneRuler, { at, value }: Mark, benchmark: number): number | null {
  if (kind === 'of benchmark') return value === null || !(benchmark > 0) ? null : value / benchmark;
  return at ?? value;
}

/** Where along a ruler a mark begins or ends: pixels, or radians on an arc. */
function ways(mark: Mark, { axis }: SceneRuler): number[] {
  switch (mark.shape) {
    case 'rect':
      if (axis === 'x') return [mark.x, mark.x + mark.width, mark.x + mark.width / 2];
      return axis === 'y' ? [mark.y, mark.y + mark.height, mark.y + mark.height / 2] : [];
    case 'line':
      return axis === 'x' ? [mark.x1] : axis === 'y' ? [mark.y1] : [angleOf(mark)];
    case 'circle':
      return axis === 'x' ? [mark.cx] : axis === 'y' ? [mark.cy] : [];
    case 'arc':
      return axis === 'angle' ? [mark.a0, mark.a1] : [];
    default:
      return [];
  }
}

/** Radians clockwise from twelve o'clock, of a rule that points outward. */
function angleOf({ x1, y1, x2, y2 }: Mark & { shape: 'line' }): number {
  return Math.atan2(x2 - x1, y1 - y2);
}

function sentenceOf(
  { domain: [d0, d1], range: [r0, r1], axis }: SceneRuler,
  name: string,
  value: number,
  at: number,
  write: (value: number) => string,
): Sentence {
  const unit = axis === 'angle' ? 'radians' : 'pixels';
  const shown = axis === 'angle' ? at.toFixed(3) : at.toFixed(1);
  return {
    about: 'place',
    text: `On its ruler ${name} at ${write(value)}: ${write(d0)} to ${write(d1)} lie on ${unit} ${tidied(r0)} to ${tidied(r1)}, so it is at ${axis === 'angle' ? 'the angle' : axis} ${shown}.`,
    // A ruler of one value stands at its beginning.
    sum: { text: d1 === d0 ? String(r0) : `${r0} + (${value} - ${d0}) * (${r1} - ${r0}) / (${d1} - ${d0})`, value: at },
  };
}

const tidied = (pixel: number) => String(Math.round(pixel * 10) / 10);
