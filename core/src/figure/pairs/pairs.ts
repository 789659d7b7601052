import { writeNumber } from '../../format';
import { BAND_TINTS, encodeRow, INK, QUIET } from '../../highlight';
import type { Cells } from '../../query';
import { textWidth, type Mark } from '../../scene';
import type { FigureRequest, FormDefinition } from '../form';
import { barPaint, rectMark, type Belonging } from '../frame';
import { LABEL_GAP, placeLabel } from '../rows/beside';
import { sampleRect, highlightEntries } from '../rows/legend';
import { beyondMark, nullIfBlank, widest, type Axes } from '../rows/parts';
import { rowsScene } from '../rows/rows';

/** Two bars a member, the actual and its reference side by side on one ruler. */
export const pairs: FormDefinition = {
  form: 'pairs',
  purpose: 'actual and reference side by side',
  rulerValues,
  draw: (request) =>
    rowsScene(request, {
      called: 'Pairs of bars',
      shown: rulerValues(request.cells),
      legend: (writing) => [
        ...highlightEntries(request, writing),
        ...(request.cells.benchmark
          ? [
              {
                words: request.cells.benchmark.name,
                sample: (x: number, y: number) => [sampleRect(x, y, 8, REFERENCE)],
              },
            ]
          : []),
      ],
      inner: 0.28,
      valuesStand: 'beside',
      room: (writing, size) => {
        const texts = [...request.cells.actual, ...(request.cells.benchmarks ?? [])].map((value) =>
          writeNumber(value, writing),
        );
        const room = widest(texts, size, 600) + 2 * LABEL_GAP;
        return [rulerValues(request.cells).some((value) => value < 0) ? room : 0, room];
      },
      paint: (marks, axes, row, of, centre, thickness) => pairMarks(marks, request, axes, row, of, centre, thickness),
      beside: (writing) => (marks, axes, row, of, centre, ends, size, thickness) => {
        const { actual, benchmarks } = request.cells;
        const write = (value: number) => writeNumber(value, writing);
        const both = [
          { value: actual[row]!, weight: 600, paint: { fill: INK }, at: centre - thickness / 4 },
          { value: benchmarks?.[row] ?? NaN, weight: 400, paint: { fill: QUIET }, at: centre + thickness / 4 },
        ] as const;
        // Where two lines of text have no room, the actual's stands alone, in the middle.
        const shown = benchmarks && thickness / 2 >= size ? both : [{ ...both[0], at: centre }];
        let dropped = both.length - shown.length;
        for (const { value, weight, paint, at } of shown) {
          const x = Number.isNaN(value)
            ? axes.at(axes.zero)
            : axes.at(value) + (axes.shows(value) ? 0 : 5 * Math.sign(value));
          const text = write(value);
          const farthest = shown.length === 1 ? farEnd(axes, [value, benchmarks?.[row] ?? NaN], x, value < 0) : x;
          const from = value < 0 ? farthest - LABEL_GAP - textWidth(text, size, weight) : farthest + LABEL_GAP;
          const spec = { role: 'value', text, weight, size, value: nullIfBlank(value), rule: null } as const;
          if (!placeLabel(marks, spec, [{ from, paint }], [], ends, at, of)) dropped++;
        }
        return dropped;
      },
    }),
};

/** The outer end of both bars on a side. */
function farEnd(axes: Axes, values: readonly number[], x: number, backward: boolean): number {
  return values
    .filter((value) => !Number.isNaN(value))
    .map((value) => axes.at(value) + (axes.shows(value) ? 0 : 5 * Math.sign(value)))
    .reduce((far, at) => (backward ? Math.min(far, at) : Math.max(far, at)), x);
}

const REFERENCE = BAND_TINTS[5]![0]!;

function rulerValues({ actual, benchmarks }: Cells): number[] {
  return [...actual, ...(benchmarks ?? [])].filter((value) => !Number.isNaN(value));
}

/** A pixel of paper between the bars of a pair, as far as there is room for it. */
function pairMarks(
  marks: Mark[],
  { cells, highlight }: FigureRequest,
  axes: Axes,
  row: number,
  of: Belonging,
  centre: number,
  thickness: number,
): void {
  const gap = Math.min(1, thickness / 8);
  const alone = !cells.benchmarks;
  const half = alone ? thickness : (thickness - gap) / 2;
  const actual = cells.actual[row]!;
  const encoding = encodeRow(highlight, cells, row);
  const at = (side: -1 | 1): number => (alone ? centre : centre + (side * (half + gap)) / 2);
  if (!Number.isNaN(actual)) {
    marks.push(
      rectMark(
        cells.isRest[row] ? 'rest' : 'actual',
        of,
        axes.rect(axes.zero, actual, at(-1), half),
        actual,
        barPaint(encoding),
        encoding.rule,
      ),
    );
    const beyond = beyondMark(axes, of, actual, at(-1), half, encoding.ink);
    if (beyond) marks.push(beyond);
  }
  const benchmark = cells.benchmarks?.[row] ?? NaN;
  if (!Number.isNaN(benchmark))
    marks.push(rectMark('benchmark', of, axes.rect(axes.zero, benchmark, at(1), half), benchmark, { fill: REFERENCE }));
}
