import { INK } from '../../highlight';
import type { Cells } from '../../query';
import type { Look } from '../../report';
import type { Mark, Paint, Scene } from '../../scene';
import type { FigureRequest, FormDefinition } from '../form';
import { lineMark, rectMark } from '../frame';
import { bandEntries, benchmarkEntries, highlightEntries } from '../rows/legend';
import { actualBar, dueRule, type RowPlace } from '../rows/actualBar';
import { rowsScene } from '../rows/rows';
import { bandsOf, edgeValues, rowBands, type Bands } from './bands';

/** One row a member: an actual bar, a reference rule, a thinner rule for what is due by now, and bands behind. */
export const bullet: FormDefinition = {
  form: 'bullet',
  purpose: 'how far each is from its benchmark',
  rulerValues,
  draw(request): Scene {
    const bands = bandsOf(request.cells, request.look);
    return rowsScene(request, {
      called: 'Bullet bars',
      shown: rulerValues(request.cells, request.look),
      legend: (writing) => [
        ...highlightEntries(request, writing),
        ...benchmarkEntries(request),
        ...(bands ? bandEntries(request, bands, writing) : []),
      ],
      inner: 0.36,
      valuesStand: 'in a column',
      paint: (marks, place) => rowMarks(marks, request, bands, place),
    });
  },
};

function rulerValues(cells: Cells, look: Look): number[] {
  const values = [...cells.actual, ...(cells.benchmarks ?? []), ...(cells.due ?? [])];
  const bands = bandsOf(cells, look);
  if (bands?.of === 'benchmark')
    for (const benchmark of cells.benchmarks ?? []) values.push(...edgeValues(bands, benchmark, cells.measure.aim));
  else if (bands) values.push(...edgeValues(bands, cells.benchmarks?.[0] ?? NaN, cells.measure.aim));
  return values.filter((value) => !Number.isNaN(value));
}

const RULE: Paint = { stroke: INK, strokeWidth: 3 };

/** Bands, bar, rule and due rule of a row. */
function rowMarks(marks: Mark[], request: FigureRequest, bands: Bands | null, place: RowPlace): void {
  const { cells } = request;
  const { axes, row, of, centre, thickness } = place;
  const benchmark = cells.benchmarks?.[row] ?? NaN;
  for (const band of bands ? rowBands(bands, benchmark, cells.measure.aim, axes.ruler.domain) : [])
    marks.push(rectMark('band', of, axes.rect(band.from, band.to, centre, thickness), band.to, { fill: band.tint }));
  actualBar(marks, request, { ...place, thickness: thickness / 3 });
  dueRule(marks, request, { ...place, thickness: 0.6 * thickness });
  if (axes.shows(benchmark))
    marks.push(lineMark('benchmark', of, axes.across(benchmark, centre, 0.6 * thickness), benchmark, RULE));
}
