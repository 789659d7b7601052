import type { Writing } from '../../format';
import type { Scene } from '../../scene';
import type { FigureRequest } from '../form';
import type { LegendEntry } from '../legend';
import { BLANK_MEMBER } from '../../table';
import { rowName } from '../names';
import { textsOf } from '../texts';
import { horizontal } from './horizontal';
import type { Plan } from './parts';
import { standsUpright, vertical } from './vertical';

/** Width of a figure that names none. */
export const DEFAULT_WIDTH = 760;

/** What is particular to a form of rows. */
export type RowForm = Pick<Plan, 'called' | 'valuesAt' | 'inner' | 'valuesStand' | 'paint'> & {
  /** @param request the figure as it lies in the end */
  legend(writing: Writing, request: FigureRequest): readonly LegendEntry[];
  readonly room?: (size: number) => Plan['room'];
  readonly beside?: Plan['beside'];
};

/** Lays the rows of a figure out, across or upright as its look says. */
export function rowsScene(request: FigureRequest, rowForm: RowForm): Scene {
  const { legend, room, beside, ...form } = rowForm;
  const { cells, look } = request;
  const { writing } = textsOf(cells);
  const rows = Array.from({ length: cells.count }, (_, i) => i);
  const plan: Plan = {
    ...form,
    request,
    writing,
    legend: legend(writing, request),
    width: look.width ?? DEFAULT_WIDTH,
    names: rows.map((i) => rowName(cells, i, panelField(request))),
    values: textsOf(cells).actual,
    panels: panelsOf(request),
    gaps: textsOf(cells).gapPercent,
    room: room?.(12) ?? [0, 0],
    ...(beside ? { beside } : {}),
  };
  if (look.orientation !== 'vertical') return horizontal(plan);
  if (plan.panels.length === 1 && standsUpright(plan)) return vertical(plan);
  return rowsScene({ ...request, look: { ...look, orientation: 'horizontal' } }, rowForm);
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
