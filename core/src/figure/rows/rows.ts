import { writeNumber, writePercent, writingOf, type Writing } from '../../format';
import { judgementAt, type Cells } from '../../query';
import type { Scene } from '../../scene';
import type { FigureRequest } from '../form';
import type { LegendEntry } from '../frame';
import { BLANK_MEMBER, rowName } from '../names';
import { horizontal } from './horizontal';
import type { Plan } from './parts';
import { vertical } from './vertical';

/** Width of a figure that names none. */
export const DEFAULT_WIDTH = 760;

/** What is particular to a form of rows. */
export type RowForm = Pick<Plan, 'called' | 'valuesAt' | 'inner' | 'valuesStand' | 'paint'> & {
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
    names: rows.map((i) => rowName(cells, i, panelField(request))),
    values: rows.map((i) => writeNumber(cells.actual[i]!, writingAt(cells, i, writing))),
    panels: panelsOf(request),
    gaps: rows.map((i) =>
      Number.isNaN(judgementAt(cells, i).gapPercent) ? '' : writePercent(judgementAt(cells, i).gapPercent),
    ),
    room: room?.(writing, 12) ?? [0, 0],
    ...(beside ? { beside: beside(writing) } : {}),
  };
  return look.orientation === 'vertical' && plan.panels.length === 1 ? vertical(plan) : horizontal(plan);
}

/** How a row's numbers are written: like all others, or as its own measure asks. */
export function writingAt(cells: Cells, row: number, writing: Writing): Writing {
  return cells.stacked ? writingOf(cells.stacked[row]!) : writing;
}

/** The field whose members have panels of their own. */
function panelField({ cells, look }: FigureRequest): string | null {
  return look.panels !== undefined && cells.fields.length > 1 && cells.fields.includes(look.panels)
    ? look.panels
    : null;
}

/** The rows of each panel, in the order in which the panels' members come up; “the rest” stands alone. */
function panelsOf(request: FigureRequest): Plan['panels'] {
  const { cells } = request;
  const field = panelField(request);
  const all = Array.from({ length: cells.count }, (_, row) => row);
  if (field === null) return [{ name: null, rows: all }];
  const members = cells.members[cells.fields.indexOf(field)]!;
  const panels = new Map<string, number[]>();
  for (const row of all) {
    const name = members[row] || BLANK_MEMBER;
    panels.set(name, [...(panels.get(name) ?? []), row]);
  }
  return [...panels].map(([name, rows]) => ({ name, rows }));
}
