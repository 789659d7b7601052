import { writeNumber, writePercent, writingOf, type Writing } from '../../format';
import { judgementAt } from '../../query';
import type { Scene } from '../../scene';
import type { FigureRequest } from '../form';
import type { LegendEntry } from '../frame';
import { rowName } from '../names';
import { horizontal } from './horizontal';
import type { Plan } from './parts';
import { vertical } from './vertical';

/** Width of a figure that names none. */
export const DEFAULT_WIDTH = 760;

/** What is particular to a form of rows. */
export type RowForm = Pick<Plan, 'called' | 'shown' | 'inner' | 'valuesStand' | 'paint'> & {
  legend(writing: Writing): readonly LegendEntry[];
  readonly room?: (writing: Writing, size: number) => Plan['room'];
  readonly beside?: (writing: Writing) => NonNullable<Plan['beside']>;
};

/** Lays the rows of a figure out, across or upright as its look says. */
export function rowsScene(request: FigureRequest, { legend, room, beside, ...form }: RowForm): Scene {
  const { cells, look } = request;
  const writing = writingOf(cells);
  const rows = Array.from({ length: cells.count }, (_, i) => i);
  const plan: Plan = {
    ...form,
    request,
    writing,
    legend: legend(writing),
    width: look.width ?? DEFAULT_WIDTH,
    names: rows.map((i) => rowName(cells, i)),
    values: rows.map((i) => writeNumber(cells.actual[i]!, writing)),
    gaps: rows.map((i) =>
      Number.isNaN(judgementAt(cells, i).gapPercent) ? '' : writePercent(judgementAt(cells, i).gapPercent),
    ),
    room: room?.(writing, 12) ?? [0, 0],
    ...(beside ? { beside: beside(writing) } : {}),
  };
  return look.orientation === 'vertical' ? vertical(plan) : horizontal(plan);
}
