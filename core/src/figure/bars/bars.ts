import { encodeRow, INK, QUIET, textOn } from '../../highlight';
import type { Cells } from '../../query';
import { PAPER, textWidth, type Mark, type Paint } from '../../scene';
import { barsForm } from './declared';
import type { FigureRequest, FormDefinition } from '../form';
import { rectMark, type Belonging } from '../shapes';
import { LABEL_GAP, placeLabel, type LabelPlace, type LabelSpan } from '../rows/beside';
import { benchmarkEntries, rowEntries } from '../rows/legend';
import { actualBar, dueRule, type RowPlace } from '../rows/actualBar';
import { comparedAt, nullIfBlank, onScale, widest, type Axes } from '../rows/parts';
import { rowsScene } from '../rows/rows';
import { textsOf } from '../texts';

/** A bar a member, with a rule across it at the bar's own reference; values stand at the bars' ends. */
export const bars: FormDefinition = {
  ...barsForm,
  rulerValues: (cells, _look, scale = 'value') => onScale(cells, scale, (row) => comparedAt(cells, row)),
  draw: (request) =>
    rowsScene(request, {
      called: 'Bars',
      valuesAt: (row) => comparedAt(request.cells, row),
      legend: (writing, request) => [...rowEntries(request, writing), ...benchmarkEntries(request)],
      inner: 0.34,
      valuesStand: 'beside',
      room: (size) => roomFor(request.cells, size),
      paint: (marks, place) => barMarks(marks, request, place),
      beside: (marks, axes, row, of, centre, ends, size) => labels(marks, request, axes, row, of, centre, ends, size),
    }),
};

const RULE_WIDTH = 3;
const RULE: Paint = { fill: INK, stroke: PAPER, strokeWidth: 1 };

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
  marks.push(rectMark('benchmark', of, box, benchmark, RULE));
}

/** Room for the value behind a bar's end and for the reference behind its rule. */
function roomFor(cells: Cells, size: number): readonly [number, number] {
  const texts = textsOf(cells);
  const value = widest(texts.actual, size, 600) + 2 * LABEL_GAP;
  const reference = cells.benchmarks ? widest(texts.benchmark, size) + LABEL_GAP : 0;
  return [cells.actual.some((one) => one < 0) ? value : 0, value + reference];
}

function labels(
  marks: Mark[],
  { cells, highlight }: FigureRequest,
  axes: Axes,
  row: number,
  of: Belonging,
  centre: number,
  ends: LabelSpan,
  size: number,
): number {
  const texts = textsOf(cells);
  const actual = cells.actual[row]!;
  const benchmark = cells.benchmarks?.[row] ?? NaN;
  const due = cells.due?.[row] ?? NaN;
  const { at } = axes;
  const hasBar = !Number.isNaN(actual);
  const [zero, tip] = [at(axes.zero), hasBar ? at(actual) : NaN];
  const bar: LabelSpan | null = hasBar ? [Math.min(zero, tip), Math.max(zero, tip)] : null;
  // What labels keep clear of: the rule of the benchmark, the one of what is due, and one another.
  const ofBenchmark: LabelSpan | null = axes.shows(benchmark) ? around(at(benchmark)) : null;
  const taken: LabelSpan[] = axes.shows(due) ? [around(at(due))] : [];
  let dropped = 0;

  const text = texts.actual[row]!;
  const width = textWidth(text, size, 600);
  const backward = actual < 0;
  const { ink, pattern, rule } = encodeRow(highlight, cells, row);
  const beyond = (edge: number): LabelPlace => ({
    from: backward ? edge - LABEL_GAP - width : edge + LABEL_GAP,
    paint: INKED,
  });
  const further = axes.shows(actual) || !hasBar ? 0 : 5;
  const edge = bar ? (backward ? bar[0] - further : bar[1] + further) : zero;
  const places = [beyond(edge)];
  // Within the bar it stands on ink; on a pattern nothing can be read.
  const within = pattern ? null : bar;
  if (within && within[1] - within[0] > width + 2 * LABEL_GAP)
    places.push({ from: backward ? edge + LABEL_GAP : edge - LABEL_GAP - width, paint: textPaint(ink) });
  let outermost = edge;
  for (const stretch of ofBenchmark ? [ofBenchmark, ...taken] : taken)
    outermost = backward ? Math.min(outermost, stretch[0]) : Math.max(outermost, stretch[1]);
  if (outermost !== edge) places.push(beyond(outermost));
  const value = placeLabel(
    marks,
    { role: 'value', text, weight: 600, size, value: nullIfBlank(actual), rule: bar ? rule : null },
    places,
    ofBenchmark ? [ofBenchmark, ...taken] : taken,
    ends,
    centre,
    of,
  );
  if (value) taken.push(value);
  else dropped++;

  if (!ofBenchmark) return dropped;
  const x = at(benchmark);
  const reference = texts.benchmark[row]!;
  const clear = bar ? [...taken, bar] : taken;
  const put = (words: string, sides: readonly LabelPlace[], others: readonly LabelSpan[]) =>
    placeLabel(
      marks,
      { role: 'value', text: words, weight: 400, size, value: benchmark, rule: null },
      sides,
      others,
      ends,
      centre,
      of,
    );
  const beside = (wide: number, paint: Paint): LabelPlace[] => [
    { from: x + LABEL_GAP, paint },
    { from: x - LABEL_GAP - wide, paint },
  ];
  const named = `${cells.benchmark!.name} ${reference}`;
  const wideNamed = textWidth(named, size);
  // The reference bears its name where there is room for it, in the first row.
  if (row === 0 && put(named, beside(wideNamed, QUIETLY), clear)) return dropped;
  const wide = textWidth(reference, size);
  if (put(reference, beside(wide, QUIETLY), clear)) return dropped;
  // On a long bar it stands beside its rule, in paper, and by name: a number on a bar could be the bar's own.
  const inside = within
    ? beside(wideNamed, textPaint(ink)).filter(({ from }) => from >= within[0] + 2 && from + wideNamed <= within[1] - 2)
    : [];
  return put(named, inside, taken) ? dropped : dropped + 1;
}

const INKED: Paint = { fill: INK };
const QUIETLY: Paint = { fill: QUIET };
const ON_INK = new Map<string, Paint>();

/** The paint of a text on an ink, the same object each time. */
function textPaint(ink: string): Paint {
  const fill = textOn(ink);
  let paint = ON_INK.get(fill);
  if (!paint) ON_INK.set(fill, (paint = { fill }));
  return paint;
}

const around = (at: number): LabelSpan => [at - 4, at + 4];
