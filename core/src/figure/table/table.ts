import { all, each, plainly } from '../changes';
import type { Brief, View } from '../../brief';
import type { Cells } from '../../query';
import type { CellFigure, Look } from '../../report';
import { asRanks } from '../asRanks';
import { tableForm } from './declared';
import type { ColumnShown, FigureRequest, FormDefinition } from '../form';
import { seriesOf, type Series } from '../time/series';
import { scaleOver } from '../incell/scale';
import { cellsFor, figureColumns, type FigureNumbers, type TableCells } from './columns';
import { tableScene } from './layout';
import { linesOf, subtotalBriefs } from './subtotals';

/** Views and measures as columns, figures in their cells, the whole at the foot. */
export const table: FormDefinition = {
  ...tableForm,
  rulerValues: () => [],
  furtherBriefs: (brief, look) => [
    ...furtherBriefs(brief),
    ...subtotalBriefs(brief.grain ? overThePeriod(brief) : brief, look),
  ],
  draw(request) {
    const data = tableCells(request);
    const levels = request.further.slice(furtherBriefs(request.cells.brief).length);
    return tableScene(request, data, figureColumns(data, request.look, { ranked: false }), {
      called: 'Table',
      hasTotals: true,
      legend: [],
      lines: linesOf(data.rows, levels, request.look),
    });
  },
  fitting: (_, { members }) => [members, all(plainly, each(null))],
  columns: (drawn, look) => columnsShown(drawn, look, false),
};

/** With a field and steps the rows are members: their numbers over the whole period, and the steps behind each. */
export function furtherBriefs(brief: Brief): Brief[] {
  return brief.grain && brief.by.length > 0 ? [overThePeriod(brief)] : [];
}

/** Changes and means are of one step, the last: over the whole period there are none. */
const isOfStep = ({ kind }: View) => kind === 'change' || kind === 'smoothed';

function overThePeriod(brief: Brief): Brief {
  const views = brief.views.map((view) =>
    isOfStep(view) || view.kind === 'cumulative' ? { kind: 'plain' as const, measure: view.measure } : view,
  );
  return { ...brief, views, grain: null };
}

/** The rows of a table, and the steps behind each. */
export function tableCells({ cells, further }: Pick<FigureRequest, 'cells' | 'further'>, ranked = false): TableCells {
  const period = further[0] ?? null;
  if (!period || !cells.grain || cells.fields.length === 0) return { rows: cells, stepped: null, series: [] };
  const all = seriesOf(cells);
  const byKey = new Map(all.map((series) => [JSON.stringify(Object.values(series.key)), series]));
  const series = Array.from({ length: period.count }, (_, row) => {
    const key = period.members.map((names) => names[row]! || null);
    return byKey.get(JSON.stringify(key)) ?? { name: '', key: keyOf(period, row), rows: [] };
  });
  const rows = withSteps(ranked ? period : asRanks(period), cells, series);
  return { rows, stepped: cells, series };
}

/** The rows over the period, with what is of one step taken from the last step, and all views called as the brief does. */
function withSteps(period: Cells, cells: Cells, series: readonly Series[]): Cells {
  const { brief, view } = cells;
  const at = (list: ArrayLike<number>): Float64Array => {
    const last = lastStep(cells, list);
    return Float64Array.from(series, ({ rows }) => (rows[last] === undefined ? NaN : list[rows[last]]!));
  };
  const values = period.values.map((value, v): Cells['values'][number] => {
    const own = cells.values[v]!;
    return isOfStep(own.view) ? { ...own, of: at(own.of) } : { ...value, view: own.view };
  });
  // How a step that still runs was compared is known where the steps are.
  const told = cells.checks.filter(({ code }) => code === 'running-step');
  const checks = [...period.checks, ...told];
  if (!isOfStep(view)) return { ...period, brief, view, values, checks };
  const last = lastStep(cells, cells.actual);
  const pick = (list: Float64Array | null) =>
    list && Float64Array.from(series, ({ rows }) => (rows[last] === undefined ? NaN : list[rows[last]]!));
  const code = (list: Uint8Array | null) =>
    list && Uint8Array.from(series, ({ rows }) => (rows[last] === undefined ? 0 : list[rows[last]]!));
  return {
    ...period,
    brief,
    view,
    values,
    checks,
    actual: pick(cells.actual)!,
    benchmarks: pick(cells.benchmarks),
    due: null,
    gap: pick(cells.gap),
    gapPercent: pick(cells.gapPercent),
    standing: code(cells.standing),
    dueGap: null,
    dueGapPercent: null,
    dueStanding: null,
    rank: pick(cells.rank),
    share: null,
    total: cells.total,
    shown: cells.shown,
  };
}

/** The place among the steps of the last one in which anybody has a value. */
function lastStep({ steps, count }: Cells, list: ArrayLike<number>): number {
  let last = -1;
  let width = 0;
  for (let row = 0; row < count; row++) {
    width = row > 0 && steps![row]! > steps![row - 1]! ? width + 1 : 0;
    if (!Number.isNaN(list[row]!)) last = Math.max(last, width);
  }
  return last;
}

function keyOf({ fields, members }: Cells, row: number): Record<string, string | null> {
  return Object.fromEntries(fields.map((field, f) => [field, members[f]![row]! || null]));
}

/** The columns of a table, as the drawer shows them. */
export function columnsShown(
  drawn: Pick<FigureRequest, 'cells' | 'further'>,
  look: Look,
  ranked: boolean,
): readonly ColumnShown[] {
  const data = tableCells(drawn, ranked);
  const cells = cellsFor(data.stepped !== null);
  return figureColumns(data, look, { ranked }).flatMap((column) =>
    column.kind === 'number' ? [columnShown(column, cells)] : [],
  );
}

function columnShown(
  { id, cell, scale, ends, moods, measure, values }: FigureNumbers,
  cells: readonly CellFigure[],
): ColumnShown {
  // Other bars go from zero to the highest.
  const shown = ends ?? (cell === 'bar' ? scaleOver(values) : null);
  return {
    id,
    cell,
    scale,
    cells,
    ends: shown && [shown.low, shown.high],
    faces: moods && [moods.fair, moods.good],
    lessIsBetter: measure?.aim === 'cut',
  };
}
