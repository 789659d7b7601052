import { writeNumber, type Writing } from '../../format';
import { contrast, encodeRow, INK, LEAST_CONTRAST, QUIET } from '../../highlight';
import type { Cells } from '../../query';
import { PAPER, textWidth, type Mark, type Paint } from '../../scene';
import type { FigureRequest, FormDefinition } from '../form';
import { rectMark, type Belonging } from '../frame';
import { LABEL_GAP, placeLabel, type Place, type Stretch } from '../rows/beside';
import { benchmarkEntries, highlightEntries } from '../rows/legend';
import { actualBar, dueRule, type RowPlace } from '../rows/actualBar';
import { comparedAt, nullIfBlank, onScale, widest, type Axes } from '../rows/parts';
import { rowsScene, writingAt } from '../rows/rows';

/** A bar a member, with a rule across it at the bar's own reference; values stand at the bars' ends. */
export const bars: FormDefinition = {
  form: 'bars',
  purpose: 'how large each is, and whether it passes its reference',
  stacks: true,
  rulerValues: (cells, _look, scale = 'value') => onScale(cells, scale, (row) => comparedAt(cells, row)),
  draw: (request) =>
    rowsScene(request, {
      called: 'Bars',
      valuesAt: (row) => comparedAt(request.cells, row),
      legend: (writing) => [...highlightEntries(request, writing), ...benchmarkEntries(request)],
      inner: 0.34,
      valuesStand: 'beside',
      room: (writing, size) => roomFor(request.cells, writing, size),
      paint: (marks, place) => barMarks(marks, request, place),
      beside: (writing) => (marks, axes, row, of, centre, ends, size) =>
        labels(marks, request, writing, axes, row, of, centre, ends, size),
    }),
};

const RULE_WIDTH = 3;

/** The bar from zero to its value, and the rule exactly as wide as the bar, edged with paper so that it is seen on the bar. */
function barMarks(marks: Mark[], request: FigureRequest, place: RowPlace): void {
  const { axes, row, of, centre, thickness } = place;
  actualBar(marks, request, place);
  dueRule(marks, request, place);
  const benchmark = request.cells.benchmarks?.[row] ?? NaN;
  if (!axes.shows(benchmark)) return;
  const { x1, y1, x2, y2 } = axes.across(benchmark, centre, thickness);
  const half = RULE_WIDTH / 2;
  const box =
    axes.along === 'x'
      ? { x: x1 - half, y: y1, width: RULE_WIDTH, height: y2 - y1 }
      : { x: x1, y: y1 - half, width: x2 - x1, height: RULE_WIDTH };
  marks.push(rectMark('benchmark', of, box, benchmark, { fill: INK, stroke: PAPER, strokeWidth: 1 }));
}

/** Room for the value behind a bar's end and for the reference behind its rule. */
function roomFor(cells: Cells, writing: Writing, size: number): readonly [number, number] {
  const texts = Array.from(cells.actual, (value, row) => writeNumber(value, writingAt(cells, row, writing)));
  const value = widest(texts, size, 600) + 2 * LABEL_GAP;
  const reference = cells.benchmarks
    ? widest(
        Array.from(cells.benchmarks, (benchmark, row) => writeNumber(benchmark, writingAt(cells, row, writing))),
        size,
      ) + LABEL_GAP
    : 0;
  return [cells.actual.some((one) => one < 0) ? value : 0, value + reference];
}

function labels(
  marks: Mark[],
  { cells, highlight }: FigureRequest,
  common: Writing,
  axes: Axes,
  row: number,
  of: Belonging,
  centre: number,
  ends: Stretch,
  size: number,
): number {
  const writing = writingAt(cells, row, common);
  const actual = cells.actual[row]!;
  const benchmark = cells.benchmarks?.[row] ?? NaN;
  const { at } = axes;
  const rules: Stretch[] = [benchmark, cells.due?.[row] ?? NaN]
    .filter(axes.shows)
    .map((value) => [at(value) - 4, at(value) + 4]);
  const bar: Stretch | null = Number.isNaN(actual)
    ? null
    : [Math.min(at(axes.zero), at(actual)), Math.max(at(axes.zero), at(actual))];
  let dropped = 0;
  const taken: Stretch[] = [...rules];

  const text = writeNumber(actual, writing);
  const width = textWidth(text, size, 600);
  const backward = actual < 0;
  const inked: Paint = { fill: INK };
  const { ink, pattern, rule } = encodeRow(highlight, cells, row);
  // On a pattern nothing can be read; on an ink, paper or ink, whichever stands out.
  const solid = !pattern;
  const onBar: Paint = { fill: contrast(ink, PAPER) >= LEAST_CONTRAST ? PAPER : INK };
  const beyond = (edge: number, paint: Paint): Place => ({
    from: backward ? edge - LABEL_GAP - width : edge + LABEL_GAP,
    paint,
  });
  const further = axes.shows(actual) || Number.isNaN(actual) ? 0 : 5;
  const edge = bar ? (backward ? bar[0] - further : bar[1] + further) : at(axes.zero);
  const outermost = rules.reduce((far, [a, b]) => (backward ? Math.min(far, a) : Math.max(far, b)), edge);
  const places = [beyond(edge, inked)];
  // Within the bar it stands on ink.
  if (solid && bar && bar[1] - bar[0] > width + 2 * LABEL_GAP)
    places.push({ from: backward ? edge + LABEL_GAP : edge - LABEL_GAP - width, paint: onBar });
  places.push(beyond(outermost, inked));
  const value = placeLabel(
    marks,
    { role: 'value', text, weight: 600, size, value: nullIfBlank(actual), rule: bar ? rule : null },
    places,
    taken,
    ends,
    centre,
    of,
  );
  if (value) taken.push(value);
  else dropped++;

  if (!axes.shows(benchmark)) return dropped;
  const x = at(benchmark);
  const referenceText = writeNumber(benchmark, writing);
  const named = `${cells.benchmark!.name} ${referenceText}`;
  // The reference bears its name where there is room for it, in the first row.
  const texts = row === 0 ? [named, referenceText] : [referenceText];
  for (const reference of texts) {
    const wide = textWidth(reference, size);
    const sides = [x + LABEL_GAP, x - LABEL_GAP - wide];
    const outside = sides.map((from): Place => ({ from, paint: { fill: QUIET } }));
    const others = [...taken.filter((stretch) => stretch[0] !== x - 4), ...(bar ? [bar] : [])];
    const found = placeLabel(
      marks,
      { role: 'value', text: reference, weight: 400, size, value: benchmark, rule: null },
      outside,
      others,
      ends,
      centre,
      of,
    );
    if (found) return dropped;
  }
  // On a long bar it stands beside its rule, in paper.
  if (solid && bar) {
    const wide = textWidth(referenceText, size);
    const inside = [x - LABEL_GAP - wide, x + LABEL_GAP]
      .filter((from) => from >= bar[0] + 2 && from + wide <= bar[1] - 2)
      .map((from): Place => ({ from, paint: onBar }));
    const others = taken.filter((stretch) => stretch[0] !== x - 4);
    const spec = { role: 'value', text: referenceText, weight: 400, size, value: benchmark, rule: null } as const;
    if (placeLabel(marks, spec, inside, others, ends, centre, of)) return dropped;
  }
  return dropped + 1;
}
