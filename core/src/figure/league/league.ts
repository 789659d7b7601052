import { all, each, plainly } from '../changes';
import { leagueForm } from './declared';
import type { FormDefinition } from '../form';
import { INK } from '../../highlight';
import { PAPER } from '../../scene';
import type { LegendEntry } from '../legend';
import { NO_ROW, rectMark } from '../shapes';
import { figureColumns } from '../table/columns';
import { tableScene } from '../table/layout';
import { runningWords } from '../time/running';
import type { Cells } from '../../query';
import { furtherBriefs, columnsShown, tableCells } from '../table/table';

/** The best of them, in order: their rank, the course of each as small columns, and the number. */
export const league: FormDefinition = {
  ...leagueForm,
  rulerValues: () => [],
  furtherBriefs,
  draw(request) {
    const data = tableCells(request, true);
    const columns = figureColumns(data, request.look, { ranked: true });
    const sparks = columns.some((column) => column.kind === 'number' && column.cell === 'spark columns');
    return tableScene(request, data, columns, {
      called: 'League',
      hasTotals: false,
      legend: sparks ? sparkLegend(data.stepped!) : [],
    });
  },
  fitting: (_, { members }) => [members, all(plainly, each(null))],
  columns: (drawn, look) => columnsShown(drawn, look, true),
};

function sparkLegend(stepped: Cells): LegendEntry[] {
  const { grain } = stepped;
  const running = runningWords(stepped);
  const sample =
    (paint: object): LegendEntry['sample'] =>
    (x, y) => [rectMark('legend', NO_ROW, { x: x + 5, y: y - 6, width: 5, height: 11 }, null, paint)];
  return [
    { words: `highest ${grain} of a row`, sample: sample({ fill: INK }) },
    { words: `lowest ${grain} of a row`, sample: sample({ fill: PAPER, stroke: INK, strokeWidth: 1 }) },
    ...(running === null ? [] : [{ words: running, sample: sample({ fill: '#A79F8F', pattern: 'hatch' }) }]),
  ];
}
