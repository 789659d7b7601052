import { writeNumber, writePercent, writingOf } from '../../format';
import { judgementAt } from '../../query';
import type { Scene } from '../../scene';
import type { FigureRequest, FormDefinition } from '../form';
import { rowName } from '../names';
import { bandsOf } from './bands';
import { horizontal } from './horizontal';
import { rulerValues, type Plan } from './parts';
import { vertical } from './vertical';

/** One row a member: an actual bar, a reference rule, a thinner rule for what is due by now, and bands behind. */
export const bullet: FormDefinition = {
  form: 'bullet',
  purpose: 'how far each is from its benchmark',
  rulerValues,
  draw,
};

/** Width of a figure that names none. */
const DEFAULT_WIDTH = 760;

function draw(request: FigureRequest): Scene {
  const { cells, look } = request;
  const writing = writingOf(cells);
  const rows = Array.from({ length: cells.count }, (_, i) => i);
  const plan: Plan = {
    request,
    bands: bandsOf(cells, look),
    writing,
    width: look.width ?? DEFAULT_WIDTH,
    names: rows.map((i) => rowName(cells, i)),
    values: rows.map((i) => writeNumber(cells.actual[i]!, writing)),
    gaps: rows.map((i) =>
      Number.isNaN(judgementAt(cells, i).gapPercent) ? '' : writePercent(judgementAt(cells, i).gapPercent),
    ),
  };
  return look.orientation === 'vertical' ? vertical(plan) : horizontal(plan);
}
