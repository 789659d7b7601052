import { keyText, textWidth, type Mark, type Scene } from '../../scene';
import type { Point } from '../path';
import type { Belonging } from '../shapes';

/** Marks that stand for a row's value, the best first. */
const POINTED: readonly Mark['role'][] = ['node', 'actual', 'rise', 'fall', 'rest', 'total', 'path'];

/** The place of a row that a note points to: the end of its bar, its dot, or where its line goes through its step; null where it is not drawn. */
export function pointOf({ marks, rulers }: Pick<Scene, 'marks' | 'rulers'>, of: Belonging): Point | null {
  const wanted = keyText(of);
  const own = marks.filter((mark) => keyText(mark) === wanted);
  // Without a ruler a row has its name, and a figure of one number that.
  const words = Object.keys(of.key).length > 0 ? 'label' : 'value';
  const name = rulers.length === 0 ? own.find(({ role, shape }) => role === words && shape === 'text') : undefined;
  if (name?.shape === 'text' && name.anchor === 'start')
    return [name.x + textWidth(name.text, name.size, name.weight) + 3, name.y - name.size / 3];
  for (const role of POINTED) {
    const mark = own.find((one) => one.role === role);
    if (mark?.shape === 'circle') return [mark.cx, mark.cy];
    if (mark?.shape === 'rect') {
      const isBack = (mark.value ?? 0) < 0;
      return rulers[0]?.axis === 'x'
        ? [isBack ? mark.x : mark.x + mark.width, mark.y + mark.height / 2]
        : [mark.x + mark.width / 2, isBack ? mark.y + mark.height : mark.y];
    }
    if (mark?.shape === 'arc') {
      const middle = (mark.a0 + mark.a1) / 2;
      return [mark.cx + mark.r1 * Math.sin(middle), mark.cy - mark.r1 * Math.cos(middle)];
    }
  }
  const cell = own.find(({ role }) => role === 'cell');
  // A step within a row of a table that is not drawn by itself has its row.
  if (cell?.shape !== 'rect')
    return of.step !== null && rulers.length === 0 ? pointOf({ marks, rulers }, { key: of.key, step: null }) : null;
  const middle: Point = [cell.x + cell.width / 2, cell.y + cell.height / 2];
  if (of.step === null) return middle;
  const line = keyText({ key: of.key, step: null });
  const through = marks
    .filter(
      (mark) => mark.shape === 'path' && keyText(mark) === line && ['path', 'link', 'emphasis'].includes(mark.role),
    )
    .flatMap((mark) => (mark.shape === 'path' ? mark.points : []))
    .find(([x]) => Math.abs(x - middle[0]) < 0.5);
  return through ?? middle;
}
