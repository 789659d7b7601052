import { INK } from '../../highlight';
import { judgedBy, rowSource, type Cells } from '../../query';
import type { Mark, Paint, Scene } from '../../scene';
import { bulletForm } from './declared';
import type { FigureRequest, FormDefinition } from '../form';
import { lineMark, rectMark } from '../shapes';
import { bandEntries, benchmarkEntries, rowEntries } from '../rows/legend';
import { actualBar, dueRule, type RowPlace } from '../rows/actualBar';
import { comparedAt, onScale } from '../rows/parts';
import { rowsScene } from '../rows/rows';
import { bandEdgesAt, bandsAt, bandsOf, rowBands, tinted, type ResolvedBands } from './bands';

/** One row a member: an actual bar, a reference rule, a thinner rule for what is due by now, and bands behind. */
export const bullet: FormDefinition = {
  ...bulletForm,
  rulerValues: (cells, look, scale = 'value') => onScale(cells, scale, valuesOf(cells, bandsOf(cells, look))),
  draw(request): Scene {
    const { cells, look } = request;
    const bands = bandsOf(cells, look);
    return rowsScene(request, {
      called: 'Bullet bars',
      valuesAt: valuesOf(cells, bands),
      legend: (writing, request) => [
        ...rowEntries(request, writing),
        ...benchmarkEntries(request),
        ...(bands ? bandEntries(request, bands, writing) : []),
      ],
      inner: 0.36,
      valuesStand: 'in a column',
      paint: (marks, place) => rowMarks(marks, request, bands, place),
    });
  },
};

const valuesOf =
  (cells: Cells, bands: ResolvedBands | null) =>
  (row: number): number[] => [...comparedAt(cells, row), ...bandEdgesAt(bands, cells, row)];

const RULE: Paint = { stroke: INK, strokeWidth: 3 };

/** Bands, bar, rule and due rule of a row. */
function rowMarks(marks: Mark[], request: FigureRequest, bands: ResolvedBands | null, place: RowPlace): void {
  const { cells } = request;
  const { axes, row, of, centre, thickness } = place;
  const benchmark = cells.benchmarks?.[row] ?? NaN;
  const here = bands && bandsAt(bands, cells, row);
  const { aim } = rowSource(cells, row)[0].measure;
  for (const band of here ? rowBands(here, judgedBy(cells, row), aim, axes.domain) : [])
    marks.push(rectMark('band', of, axes.rect(band.from, band.to, centre, thickness), band.to, tinted(band.tint)));
  actualBar(marks, request, { ...place, thickness: thickness / 3 });
  dueRule(marks, request, { ...place, thickness: 0.6 * thickness });
  if (axes.shows(benchmark))
    marks.push(lineMark('benchmark', of, axes.across(benchmark, centre, 0.6 * thickness), benchmark, RULE));
}
