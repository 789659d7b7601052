import type { Brief } from '../../brief';
import type { Cells } from '../../query';
import type { FigureRequest, FormDefinition } from '../form';
import { seriesOf } from '../time/series';
import { columnsOf, type TableCells } from './columns';
import { tableScene } from './layout';

/** Views and measures as columns, figures in their cells, the whole at the foot. */
export const table: FormDefinition = {
  form: 'table',
  purpose: 'every number, with figures in the cells',
  rulerValues: () => [],
  furtherBriefs,
  draw(request) {
    const data = tableCells(request);
    return tableScene(request, data, columnsOf(data, request.look, { ranked: false }), {
      called: 'Table',
      hasTotals: true,
      legend: [],
    });
  },
};

/** With a field and steps the rows are members: their numbers over the whole period, and the steps behind each. */
export function furtherBriefs(brief: Brief): Brief[] {
  return brief.grain && brief.by.length > 0 ? [overThePeriod(brief)] : [];
}

function overThePeriod(brief: Brief): Brief {
  // What compares steps has none to compare over the whole period.
  const views = brief.views.map((view) =>
    view.kind === 'change' || view.kind === 'smoothed' || view.kind === 'cumulative'
      ? { kind: 'plain' as const, measure: view.measure }
      : view,
  );
  return { ...brief, views, grain: null };
}

/** The rows of a table, and the steps behind each. */
export function tableCells({ cells, further }: Pick<FigureRequest, 'cells' | 'further'>): TableCells {
  const rows = further[0] ?? null;
  if (!rows || !cells.grain || cells.fields.length === 0) return { rows: cells, stepped: null, series: [] };
  const all = seriesOf(cells);
  const byKey = new Map(all.map((series) => [JSON.stringify(Object.values(series.key)), series]));
  const series = Array.from({ length: rows.count }, (_, row) => {
    const key = rows.members.map((names) => names[row]! || null);
    return byKey.get(JSON.stringify(key)) ?? { name: '', key: keyOf(rows, row), rows: [] };
  });
  return { rows, stepped: cells, series };
}

function keyOf({ fields, members }: Cells, row: number): Record<string, string | null> {
  return Object.fromEntries(fields.map((field, f) => [field, members[f]![row]! || null]));
}
