import type { Brief } from '../../brief';
import { length, type Grain } from '../../calendar';
import { writeNumber, writingOf, writingOfRow } from '../../format';
import { encodeRow, INK } from '../../highlight';
import { judgementAt, type Cells } from '../../query';
import type { Look } from '../../report';
import { fitRuler } from '../../ruler';
import { shortenAll, textWidth, type Mark, type Scene } from '../../scene';
import { headlineForm } from './declared';
import type { FigureRequest, FormDefinition } from '../form';
import { footOf, headOf, heightOf, PAD } from '../frame';
import { textMark } from '../shapes';
import { BARE } from '../room';
import { rowKey, rowName, spoken } from '../names';
import { cellMark, nullIfBlank } from '../rows/parts';
import { DEFAULT_WIDTH } from '../rows/rows';
import { barMarks, changeMarks, datesOf, sparkMarks, BAR } from './marks';

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
const NUMBER = { largest: 44, least: 18 } as const;
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
  // Texts yield to the comparisons as long as there are some to give up.
  const wished = Math.min(least + compared.length * LINE, (look.height ?? 0) - BARE);
  const asked = look.height && heightOf(request, 0, head, foot, lines === 1 ? Math.max(least, wished) : least);
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
