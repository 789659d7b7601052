import { all, each, plainly } from '../changes';
import { leagueForm } from './declared';
import type { FormDefinition } from '../form';
import { figureColumns } from '../table/columns';
import { tableScene } from '../table/layout';
import { furtherBriefs, columnsShown, tableCells } from '../table/table';

/** The best of them, in order: their rank, the course of each as small columns, and the number. */
export const league: FormDefinition = {
  ...leagueForm,
  rulerValues: () => [],
  furtherBriefs,
  draw(request) {
    const data = tableCells(request, true);
    const columns = figureColumns(data, request.look, { ranked: true });
    return tableScene(request, data, columns, {
      called: 'League',
      hasTotals: false,
      legend: [],
    });
  },
  fitting: (_, { members }) => [members, all(plainly, each(null))],
  columns: (drawn, look) => columnsShown(drawn, look, true),
};
