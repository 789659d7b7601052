import { BAND_TINTS, INK, QUIET } from '../../highlight';
import { textWidth, type Mark } from '../../scene';
import { pairsForm } from './declared';
import type { FigureRequest, FormDefinition } from '../form';
import { rectMark } from '../shapes';
import { LABEL_GAP, placeLabel } from '../rows/beside';
import { sampleRect, rowEntries } from '../rows/legend';
import { actualBar, type RowPlace } from '../rows/actualBar';
import { comparedAt, nullIfBlank, onScale, widest, type Axes } from '../rows/parts';
import { rowsScene } from '../rows/rows';
import { textsOf } from '../texts';

/** Two bars a member, the actual and its reference side by side on one ruler. */
export const pairs: FormDefinition = {
  ...pairsForm,
  rulerValues: (cells, _look, scale = 'value') => onScale(cells, scale, (row) => comparedAt(cells, row)),
  draw: (request) =>
    rowsScene(request, {
      called: 'Pairs of bars',
      valuesAt: (row) => comparedAt(request.cells, row),
      legend: (writing, request) => [
        ...rowEntries(request, writing),
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
      room: (size) => {
        const { cells } = request;
        const { actual, benchmark } = textsOf(cells);
        const room = Math.max(widest(actual, size, 600), widest(benchmark, size, 600)) + 2 * LABEL_GAP;
        const backward = (value: number) => value < 0;
        return [cells.actual.some(backward) || cells.benchmarks?.some(backward) ? room : 0, room];
      },
      paint: (marks, place) => pairMarks(marks, request, place),
      beside: (marks, axes, row, of, centre, ends, size, thickness) => {
        const { actual, benchmarks } = request.cells;
        const texts = textsOf(request.cells);
        const both = [
          {
            value: actual[row]!,
            text: texts.actual[row]!,
            weight: 600,
            paint: { fill: INK },
            at: centre - thickness / 4,
          },
          {
            value: benchmarks?.[row] ?? NaN,
            text: texts.benchmark[row]!,
            weight: 400,
            paint: { fill: QUIET },
            at: centre + thickness / 4,
          },
        ] as const;
        // Where two lines of text have no room, the actual's stands alone, in the middle.
        const shown = benchmarks && thickness / 2 >= size ? both : [{ ...both[0], at: centre }];
        let dropped = both.length - shown.length;
        for (const { value, text, weight, paint, at } of shown) {
          const x = Number.isNaN(value)
            ? axes.at(axes.zero)
            : axes.at(value) + (axes.shows(value) ? 0 : 5 * Math.sign(value));
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

/** A pixel of paper between the bars of a pair, as far as there is room for it. */
function pairMarks(marks: Mark[], request: FigureRequest, place: RowPlace): void {
  const { axes, row, of, centre, thickness } = place;
  const { benchmarks } = request.cells;
  if (!benchmarks) return actualBar(marks, request, place);
  const gap = Math.min(1, thickness / 8);
  const half = (thickness - gap) / 2;
  actualBar(marks, request, { ...place, centre: centre - (half + gap) / 2, thickness: half });
  const benchmark = benchmarks[row]!;
  if (Number.isNaN(benchmark)) return;
  const box = axes.rect(axes.zero, benchmark, centre + (half + gap) / 2, half);
  marks.push(rectMark('benchmark', of, box, benchmark, { fill: REFERENCE }));
}
