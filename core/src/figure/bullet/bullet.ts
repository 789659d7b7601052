import { encodeRow, INK } from '../../highlight';
import type { Cells } from '../../query';
import type { Look } from '../../report';
import type { Mark, Paint, Scene } from '../../scene';
import type { FigureRequest, FormDefinition } from '../form';
import { barPaint, lineMark, rectMark, type Belonging } from '../frame';
import { bandEntries, benchmarkEntries, highlightEntries } from '../rows/legend';
import { beyondMark, type Axes } from '../rows/parts';
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
      paint: (marks, axes, row, of, centre, thickness) =>
        rowMarks(marks, request, bands, axes, row, of, centre, thickness),
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
const DUE_RULE: Paint = { stroke: INK, strokeWidth: 1.25, dash: [2, 1.5] };

/** Bands, bar, rule and due rule of a row. */
function rowMarks(
  marks: Mark[],
  { cells, highlight }: FigureRequest,
  bands: Bands | null,
  axes: Axes,
  row: number,
  of: Belonging,
  centre: number,
  thickness: number,
): void {
  const benchmark = cells.benchmarks?.[row] ?? NaN;
  if (bands) {
    for (const band of rowBands(bands, benchmark, cells.measure.aim, axes.ruler.domain)) {
      marks.push(rectMark('band', of, axes.rect(band.from, band.to, centre, thickness), band.to, { fill: band.tint }));
    }
  }
  const actual = cells.actual[row]!;
  const encoding = encodeRow(highlight, cells, row);
  if (!Number.isNaN(actual)) {
    marks.push(
      rectMark(
        cells.isRest[row] ? 'rest' : 'actual',
        of,
        axes.rect(axes.zero, actual, centre, thickness / 3),
        actual,
        barPaint(encoding),
        encoding.rule,
      ),
    );
    const beyond = beyondMark(axes, of, actual, centre, thickness / 3, encoding.ink);
    if (beyond) marks.push(beyond);
  }
  const due = cells.due?.[row] ?? NaN;
  if (axes.shows(due)) marks.push(lineMark('due', of, axes.across(due, centre, 0.6 * thickness), due, DUE_RULE));
  if (axes.shows(benchmark))
    marks.push(lineMark('benchmark', of, axes.across(benchmark, centre, 0.6 * thickness), benchmark, RULE));
}
