import type { Brief } from '../../brief';
import { length, stepName, writtenDay, type Grain } from '../../calendar';
import { writeNumber, writePercent, writingOf, writingOfRow, type Writing } from '../../format';
import { encodeRow, HAIRLINE, INK, QUIET } from '../../highlight';
import { judgementAt, type Cells } from '../../query';
import type { Look } from '../../report';
import { fitRuler, place } from '../../ruler';
import { rounded, shorten, shortenAll, textWidth, type Mark, type Scene } from '../../scene';
import { headlineForm } from './declared';
import type { FigureRequest, FormDefinition } from '../form';
import { badgeMark, footOf, headOf, heightOf, lineMark, PAD, rectMark, textMark, type Belonging } from '../frame';
import { rowKey, rowName, spoken } from '../names';
import { cellMark, nullIfBlank } from '../rows/parts';
import { DEFAULT_WIDTH } from '../rows/rows';

/** The number itself, what it changed against one or several references, and if wished a bar with the reference as a rule or a line of its steps. */
export const headline: FormDefinition = {
  ...headlineForm,
  rulerValues: ({ actual, benchmarks }) => [...actual, ...(benchmarks ?? [])].filter((value) => !Number.isNaN(value)),
  furtherBriefs,
  draw,
  references: ({ look, further }) =>
    further
      .slice(0, look.references?.length ?? 0)
      .filter((one): one is Cells => one !== null && one.benchmark !== null),
};

/** Steps of a spark line, by the length of its period in days. */
function sparkGrain(days: number): Grain {
  return days <= 62 ? 'day' : days <= 190 ? 'week' : 'month';
}

/** The references beside the brief's own, then the steps for a spark line. */
function furtherBriefs(brief: Brief, look: Look, cells: Cells): Brief[] {
  const plain: Brief = { ...brief, form: 'headline', keep: null, sort: null };
  const references = (look.references ?? []).map((against): Brief => ({ ...plain, against }));
  if (!look.spark || !cells.dated) return references;
  const single = length(cells.period) === 1;
  const steps: Brief = {
    ...plain,
    against: null,
    grain: single ? 'day' : sparkGrain(length(cells.period)),
    // A single day says nothing about its course: the four weeks that end with it do.
    ...(single ? { period: { kind: 'last', count: 28, grain: 'day' } } : {}),
  };
  return [...references, steps];
}

const NAME_SIZE = 13;
const CHANGE_SIZE = 13;
const NUMBER = { largest: 44, least: 18 } as const;
const BAR = 14;
const LINE = 20;
const SPARK = 40;
const LEAST_SPARK = 18;

function draw(request: FigureRequest): Scene {
  const { cells, look, further } = request;
  // Each headline is read for itself, so each has the scale that fits its own number.
  const writings = Array.from({ length: cells.count }, (_, row) => writingOfRow(cells, row));
  const writing = writings.every(({ divisor }) => divisor === writings[0]!.divisor)
    ? (writings[0] ?? writingOf(cells))
    : { ...writingOf(cells), after: '' };
  const width = look.width ?? DEFAULT_WIDTH;
  const layout = look.layout ?? 'text';
  const compared = [cells, ...further.slice(0, look.references?.length ?? 0)].filter(
    (one): one is Cells => one !== null && one.benchmark !== null,
  );
  const course = look.spark ? (further[look.references?.length ?? 0] ?? null) : null;
  const head = headOf(request, width, writing);
  const foot = footOf(request, width, []);
  const inner = width - 2 * PAD;
  const count = Math.max(1, cells.count);
  const narrowest = layout === 'beside' ? 330 : 200;
  const columns = Math.min(count, Math.max(1, Math.floor(inner / narrowest)));
  const block = (inner - (columns - 1) * 24) / columns;
  const named = cells.fields.length > 0 || cells.grain !== null;
  const hasBar = layout !== 'text' && compared.length > 0;
  const lines = Math.ceil(count / columns);
  // On a low paper comparisons give way to the number, the last first; then the course is lower, or gives way.
  const least = (named ? 20 : 0) + 52 + (hasBar && layout === 'over' ? BAR + 16 : 0) + 18;
  const asked = look.height && heightOf(look.height, 0, head, foot, least);
  const room = asked === undefined ? Infinity : (asked - head.bottom - foot.height) / lines;
  const references = compared.slice(0, Math.max(0, Math.floor(Math.min(compared.length, (room - least) / LINE))));
  const needed = least + references.length * LINE;
  const spark = Math.min(SPARK, room - needed - 14);
  const steps = course && spark >= LEAST_SPARK ? course : null;
  const tall = needed + (steps ? spark + 14 : 0);
  const height = asked ?? head.bottom + lines * tall + foot.height;

  const marks: Mark[] = [...head.marks];
  let dropped = (compared.length - references.length) * cells.count;
  const bar = hasBar
    ? fitRuler({
        values: headline.rulerValues(cells, look),
        range: [0, layout === 'beside' ? block * 0.45 : block],
        fit: 'zero',
        extent: () => 0,
        clearance: 40,
      })
    : null;
  const textRoom = layout === 'beside' && bar ? block * 0.5 : block;
  const names = shortenAll(
    Array.from({ length: cells.count }, (_, row) => rowName(cells, row)),
    textRoom,
    NAME_SIZE,
    600,
  );
  for (let row = 0; row < cells.count; row++) {
    const of = rowKey(cells, row);
    const writing = writings[row]!;
    const x = PAD + (row % columns) * (block + 24);
    let y = head.bottom + Math.floor(row / columns) * tall;
    const bounds = { x, y, width: block, height: tall };
    if (bounds.y + tall > height - foot.height + 0.5) {
      dropped++;
      continue;
    }
    if (named) {
      y += 16;
      marks.push(
        textMark('label', names[row]!, x, y, NAME_SIZE, {
          weight: 600,
          row: of,
        }),
      );
    }
    const judged = judgementAt(cells, row);
    const { ink, rule } = encodeRow(request.highlight, cells, row);
    const text = writeNumber(cells.actual[row]!, writing);
    const size = Math.max(
      NUMBER.least,
      Math.min(NUMBER.largest, (textRoom / Math.max(1, textWidth(text, 100, 600))) * 100),
    );
    y += 44;
    if (textWidth(text, size, 600) <= textRoom + 0.01)
      marks.push(
        textMark('value', text, x, y, size, {
          weight: 600,
          paint: { fill: judged.standing ? ink : INK },
          rule: judged.standing ? rule : null,
          row: of,
          value: nullIfBlank(cells.actual[row]!),
        }),
      );
    else dropped++;
    if (bar && layout === 'over') {
      y += 12;
      barMarks(marks, request, row, of, bar, x, y);
      y += BAR + 2;
    } else if (bar) barMarks(marks, request, row, of, bar, x + block * 0.55, y - 26);
    y += 8;
    for (const reference of references) {
      y += LINE;
      dropped += changeMarks(
        marks,
        request,
        reference,
        rowIn(reference, cells, row),
        of,
        x,
        y - 5,
        block,
        writing,
        reference === cells ? '' : datesOf(reference),
      );
    }
    if (steps) sparkMarks(marks, steps, cells, row, of, { x, y: y + 12, width: block, height: spark });
    marks.push(cellMark(cells, row, of, bounds));
  }
  marks.push(...foot.marks(height - foot.height));
  return {
    width,
    height,
    title: head.title,
    description: spoken('Headline', cells),
    rulers: bar
      ? [
          {
            id: request.ruler?.entry.id ?? 'own',
            axis: 'x',
            kind: 'linear',
            domain: bar.domain,
            range: [PAD + bar.range[0], PAD + bar.range[1]],
            ticks: bar.ticks,
            strip: { x: PAD, y: head.bottom, width: 0, height: 0 },
          },
        ]
      : [],
    marks,
    dropped,
  };
}

/** The row of another answer that has the same members and step. */
function rowIn(other: Cells, cells: Cells, row: number): number {
  if (other === cells) return row;
  for (let i = 0; i < other.count; i++)
    if (
      cells.members.every((names, f) => other.members[f]?.[i] === names[row]) &&
      (cells.steps?.[row] ?? null) === (other.steps?.[i] ?? null)
    )
      return i;
  return -1;
}

/** The bar from zero to the value, and the reference as a rule across it. */
function barMarks(
  marks: Mark[],
  { cells, highlight }: FigureRequest,
  row: number,
  of: Belonging,
  bar: Parameters<typeof place>[0],
  x: number,
  y: number,
): void {
  const at = (value: number) => x + place(bar, value);
  marks.push(
    rectMark('band', of, { x, y, width: bar.range[1] - bar.range[0], height: BAR }, null, {
      fill: HAIRLINE,
      opacity: 0.5,
    }),
  );
  const actual = cells.actual[row]!;
  const { ink, rule } = encodeRow(highlight, cells, row);
  if (!Number.isNaN(actual)) {
    const [a, b] = [Math.min(at(0), at(actual)), Math.max(at(0), at(actual))];
    marks.push(
      rectMark('actual', of, { x: a, y: y + BAR / 4, width: b - a, height: BAR / 2 }, actual, { fill: ink }, rule),
    );
  }
  const benchmark = cells.benchmarks?.[row] ?? NaN;
  if (Number.isNaN(benchmark)) return;
  const p = at(benchmark);
  marks.push(
    lineMark('benchmark', of, { x1: p, y1: y, x2: p, y2: y + BAR }, benchmark, { stroke: INK, strokeWidth: 3 }),
  );
}

/** One change: its badge, how much, and against what on which days. */
function changeMarks(
  marks: Mark[],
  { look, highlight }: FigureRequest,
  reference: Cells,
  row: number,
  of: Belonging,
  x: number,
  y: number,
  room: number,
  writing: Writing,
  dates: string,
): number {
  const name = reference.benchmark!.name;
  if (row < 0 || Number.isNaN(reference.benchmarks?.[row] ?? NaN)) {
    marks.push(
      textMark('gap', shorten(`no ${name}`, room, CHANGE_SIZE), x, y, CHANGE_SIZE, { paint: { fill: QUIET }, row: of }),
    );
    return 0;
  }
  const judged = judgementAt(reference, row);
  const { ink, badge, rule } = encodeRow(highlight, reference, row);
  const percent = Number.isNaN(judged.gapPercent) ? '' : writePercent(judged.gapPercent);
  const absolute = writeNumber(judged.gap, writing, true);
  const amount =
    look.change === 'absolute' || percent === ''
      ? absolute
      : look.change === 'percent'
        ? percent
        : `${percent} (${absolute})`;
  if (badge) marks.push(badgeMark(badge, x + 5, y - 4.5, ink, rule, of));
  const start = x + (badge ? 16 : 0);
  marks.push(
    textMark('gap', amount, start, y, CHANGE_SIZE, {
      weight: 600,
      paint: { fill: ink },
      rule,
      row: of,
      value: judged.gap,
    }),
  );
  const after = start + textWidth(amount, CHANGE_SIZE, 600) + 7;
  const words = `${judged.against === 'due' ? `to the ${name} due by now` : `to ${name}`} ${writeNumber(judged.against === 'due' ? reference.due![row]! : reference.benchmarks![row]!, writing)}${dates}`;
  const shown = shorten(words, x + room - after, CHANGE_SIZE);
  if (shown === '') return 1;
  marks.push(
    textMark('label', shown, after, y, CHANGE_SIZE, {
      paint: { fill: QUIET },
      row: of,
      value: reference.benchmarks![row]!,
    }),
  );
  return 0;
}

/** The days of a reference that is another period; those of the brief's own stand in the heading. */
function datesOf({ benchmarkPeriod }: Cells): string {
  if (!benchmarkPeriod) return '';
  const { from, to } = benchmarkPeriod;
  return from === to ? `, ${writtenDay(from)}` : `, ${writtenDay(from)} – ${writtenDay(to)}`;
}

/** The course of the number, on a scale of its own, its last value marked. */
function sparkMarks(
  marks: Mark[],
  steps: Cells,
  cells: Cells,
  row: number,
  of: Belonging,
  box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
): void {
  const mine: number[] = [];
  for (let i = 0; i < steps.count; i++)
    if (cells.members.every((names, f) => steps.members[f]?.[i] === names[row])) mine.push(i);
  const filled = mine.map((i) => steps.actual[i]!).filter((value) => !Number.isNaN(value));
  if (filled.length < 2 || !steps.steps || !steps.grain) return;
  const [low, high] = [Math.min(0, ...filled), Math.max(...filled, 0)];
  const ruler = { domain: [low, high], range: [box.y + box.height - 3, box.y + 4] } as const;
  const x = (s: number) => box.x + 2 + ((box.width - 60) * s) / Math.max(1, mine.length - 1);
  const points: (readonly [number, number])[] = [];
  let d = '';
  let broken = true;
  mine.forEach((i, s) => {
    const value = steps.actual[i]!;
    if (Number.isNaN(value)) {
      broken = true;
      return;
    }
    const at = [x(s), place(ruler, value)] as const;
    d += `${broken ? 'M' : 'L'}${rounded(at[0])} ${rounded(at[1])}`;
    broken = false;
    points.push(at);
  });
  const zero = place(ruler, 0);
  marks.push(
    lineMark('zero', of, { x1: box.x, y1: zero, x2: box.x + box.width - 56, y2: zero }, 0, {
      stroke: HAIRLINE,
      strokeWidth: 1,
    }),
  );
  marks.push({
    shape: 'path',
    role: 'path',
    key: of.key,
    step: of.step,
    value: null,
    d,
    points,
    paint: { stroke: INK, strokeWidth: 1.75 },
    rule: null,
  });
  const [px, py] = points[points.length - 1]!;
  const last = mine.filter((i) => !Number.isNaN(steps.actual[i]!)).at(-1)!;
  marks.push({
    shape: 'circle',
    role: 'node',
    key: of.key,
    step: null,
    value: steps.actual[last]!,
    cx: px,
    cy: py,
    r: 3,
    paint: { fill: INK },
    rule: null,
  });
  const name = stepName(steps.grain, steps.steps[last]!, steps.calendar);
  marks.push(
    textMark(
      'ticklabel',
      shorten(name.replace('week of ', ''), 52, 11),
      px + 6,
      Math.min(box.y + box.height - 2, py + 4),
      11,
      {
        paint: { fill: QUIET },
        row: of,
      },
    ),
  );
}
