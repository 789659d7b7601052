import { encodeGap, encodeRow, INK, QUIET } from '../../highlight';
import { judgementAt } from '../../query';
import { bandCentre, bandRuler, place, type LinearRuler } from '../../ruler';
import { MIN_SIZE, shorten, shortenAll, textWidth, type Box, type Mark, type Scene } from '../../scene';
import { footOf, headOf, heightOf, PAD } from '../frame';
import { badgeMark, centred, lineMark, NO_ROW, textMark } from '../shapes';
import { moreMark } from '../more';
import { LABEL_GAP } from './beside';
import { LEAST_PITCH, leastOfRows, MORE } from '../room';
import { rowKey } from '../names';
import {
  axesFor,
  cellMark,
  fitted,
  GAP_SIZE,
  LABEL_SIZE,
  NATURAL,
  nullIfBlank,
  placeOnScale,
  OUTER,
  sceneOf,
  STRIP,
  TICK_SIZE,
  ticksAcross,
  unitAt,
  VALUE_SIZE,
  widest,
  zeroLine,
  type Plan,
} from './parts';

/** Room for the name over a panel, and between panels. */
const PANEL = { name: 22, least: 320, across: 28, down: 18 } as const;

/** Bars run across: names at the left, the ruler above, values and gaps in columns at the right. Panels stand in a grid, each with the same ruler. */
export function horizontal(plan: Plan): Scene {
  const { request, width, writing, panels } = plan;
  const head = headOf(request, width, writing);
  const foot = footOf(request, width, plan.legend);
  const named = panels.some(({ name }) => name !== null);
  const inner = width - 2 * PAD;
  const across = named
    ? Math.max(1, Math.min(panels.length, Math.floor((inner + PANEL.across) / (PANEL.least + PANEL.across))))
    : 1;
  const panelWidth = (inner - (across - 1) * PANEL.across) / across;
  const columns = columnsOf(plan, panelWidth);
  // Panels beside one another are as high as the longest of them.
  const lines = Array.from({ length: Math.ceil(panels.length / across) }, (_, line) =>
    Math.max(1, ...panels.slice(line * across, (line + 1) * across).map(({ rows }) => rows.length)),
  );
  const strip = request.room?.ticks === false ? NO_TICKS : STRIP;
  const over = strip + 4 + (named ? PANEL.name : 0);
  const between = (lines.length - 1) * PANEL.down;
  const pitch = request.cells.count > 20 ? NATURAL.many : NATURAL.few;
  const rowsTogether = lines.reduce((sum, rows) => sum + rows, 0);
  const taken = lines.length * over + between;
  const natural = head.bottom + taken + rowsTogether * pitch + foot.height;
  const given = request.look.height;
  const least = leastOfRows(given, rowsTogether, taken, { spared: lines.length * (strip - NO_TICKS) });
  const height = heightOf(request, natural, head, foot, least);
  const bottom = Math.max(head.bottom + lines.length * over + between + 4, height - foot.height);
  const free = bottom - head.bottom - lines.length * over - between;
  // Every row that is shown has its name; of those for which there is no room the figure says how many they are.
  const isCut = panels.length === 1 && free / rowsTogether < LEAST_PITCH - 1;
  const shown = isCut ? Math.max(1, Math.floor((free - MORE) / LEAST_PITCH)) : rowsTogether;
  const step = free / rowsTogether;

  const marks: Mark[] = [...head.marks];
  const onTop: Mark[] = [];
  const lain: { ruler: LinearRuler; strip: Box }[] = [];
  let dropped = 0;
  let top = head.bottom;
  lines.forEach((rows, line) => {
    panels.slice(line * across, (line + 1) * across).forEach(({ name, rows: members }, column) => {
      const x = PAD + column * (panelWidth + PANEL.across);
      let y = top;
      if (name !== null) {
        y += PANEL.name;
        const text = shorten(name, panelWidth, LABEL_SIZE, 600);
        marks.push(textMark('label', text, x, y - 8, LABEL_SIZE, { weight: 600 }));
      }
      const to = panels.length === 1 ? bottom - (isCut ? MORE : 0) : y + strip + 4 + members.length * step;
      const block = rowsBlock(
        plan,
        columns,
        { x, y, width: panelWidth, height: to - y },
        strip,
        members.slice(0, shown),
      );
      if (isCut) marks.push(moreMark(request.cells, members.slice(shown), writing, x, bottom - 4));
      if (isCut) dropped += members.length - shown;
      marks.push(...block.marks);
      onTop.push(...block.onTop);
      lain.push(block);
      dropped += block.dropped;
    });
    top += over + rows * step + PANEL.down;
  });
  marks.push(...foot.marks(bottom), ...onTop);
  return sceneOf(plan, head.title, { width, height }, marks, dropped, 'x', lain);
}

/** What the columns beside the marks take, in every panel alike. */
interface Columns {
  readonly label: number;
  readonly value: number;
  readonly gap: number;
  readonly gapHead: string;
  /** Gaps stand beside their badges. */
  readonly hasGaps: boolean;
  /** What labels beside the marks have behind the ruler's ends. */
  readonly room: Plan['room'];
}

function columnsOf({ request, names, values, gaps, valuesStand, panels, room }: Plan, width: number): Columns {
  const { cells } = request;
  const gapHead = cells.benchmark ? `to ${cells.due ? 'due' : cells.benchmark.name}` : '';
  const label = Math.min(widest(names, LABEL_SIZE), width * (panels.length > 1 ? 0.32 : 0.3));
  const inColumn = valuesStand === 'in a column';
  const value = inColumn ? Math.max(widest(values, VALUE_SIZE, 600), textWidth('actual', TICK_SIZE)) : 0;
  const gap = cells.benchmarks ? Math.max(18 + widest(gaps, GAP_SIZE), Math.min(90, textWidth(gapHead, TICK_SIZE))) : 0;
  const all = { label, value, gap, gapHead, hasGaps: true, room };
  const bars = (given: Columns) =>
    width -
    (given.label + 22 + given.room[0]) -
    (given.room[1] + (inColumn ? 34 : 12) + value + (given.gap > 0 ? given.gap + 16 : 0));
  const least = LEAST_BARS * width;
  if (bars(all) >= least) return all;
  // On narrow paper gaps give way to the bars, as what stands where is told by badges then; then numbers of benchmarks
  // behind the rules that show them; and then names.
  const badged = cells.benchmarks ? { ...all, gap: BADGE, gapHead: '', hasGaps: false } : all;
  const own = Math.min(room[1], widest(values, VALUE_SIZE, 600) + 2 * LABEL_GAP);
  const bare = { ...badged, room: [room[0], bars(badged) < least ? own : room[1]] as const };
  const lacks = Math.max(0, LEAST_BESIDE_NAMES * width - bars(bare));
  return { ...bare, label: Math.min(label, Math.max(label - lacks, LEAST_NAMES * width)) };
}

/** The height of a ruler without ticks. */
const NO_TICKS = 2;

/** The part of the width that bars have at least, while there are gaps to give up. */
const LEAST_BARS = 0.3;
/** The part for which names are shortened, and what they keep whatever the bars lack. */
const LEAST_BESIDE_NAMES = 0.17;
const LEAST_NAMES = 0.2;
/** Room for a badge. */
const BADGE = 12;

interface Block {
  readonly marks: Mark[];
  /** What answers to the pointer, above all else. */
  readonly onTop: Mark[];
  readonly ruler: LinearRuler;
  readonly strip: Box;
  readonly dropped: number;
}

/**
 * Some rows under a ruler of their own, in a box.
 * @param strip the height of the ruler over them; a low one has no ticks
 */
function rowsBlock(plan: Plan, columns: Columns, box: Box, strip: number, members: readonly number[]): Block {
  const { request, names, values, gaps } = plan;
  const { cells, highlight } = request;
  const inColumn = plan.valuesStand === 'in a column';
  const left = box.x + columns.label + 22;
  const end = box.x + box.width;
  // Columns keep their distance from the ruler's end; where labels stand beside the marks there is room for them.
  const column = inColumn ? 34 : 12;
  const right = end - columns.value - (columns.gap > 0 ? columns.gap + 16 : 0) - column;
  // A lane is for figures of one panel; it never takes room that names or numbers need.
  const lane = plan.panels.length === 1 ? request.lane : undefined;
  const from = Math.max(left + columns.room[0], lane?.[0] ?? 0);
  const baseline = box.y + strip;
  const top = baseline + 4;
  const bottom = box.y + box.height;
  const { ruler, label } = fitted(
    plan,
    [from, Math.max(from + 20, Math.min(right - columns.room[1], lane?.[1] ?? Infinity))],
    'x',
  );
  const rows = bandRuler(members.length, [top, bottom], plan.inner, OUTER);
  const marks: Mark[] = [];
  const onTop: Mark[] = [];
  const valueEnd = right + column + columns.value;
  const gapEnd = valueEnd + 16 + columns.gap;
  // Headings stand beside the last tick: a very long label there gives way.
  const headings = inColumn
    ? valueEnd - textWidth('actual', TICK_SIZE)
    : columns.gap > 0
      ? gapEnd - columns.gap
      : end + PAD;
  const hasTicks = strip === STRIP;
  let dropped = hasTicks ? ticksAcross(marks, ruler, label, baseline, headings - 4) : ruler.ticks.length;
  const heading = { anchor: 'end', paint: { fill: QUIET } } as const;
  if (cells.count > 0 && hasTicks) {
    if (inColumn)
      marks.push({ ...textMark('label', 'actual', valueEnd, baseline - 10, TICK_SIZE, heading), sorts: 'value' });
    if (columns.gap > 0 && columns.hasGaps)
      marks.push({
        ...textMark(
          'label',
          shorten(columns.gapHead, columns.gap, TICK_SIZE),
          gapEnd,
          baseline - 10,
          TICK_SIZE,
          heading,
        ),
        sorts: 'gap percent',
      });
  }
  // Labels shrink with their rows down to the least size; then only every n-th row has one.
  const size = Math.max(MIN_SIZE, Math.min(LABEL_SIZE, rows.step - 1));
  const every = Math.max(1, Math.ceil((MIN_SIZE + 1) / Math.max(rows.step, 0.01)));
  const gapSize = Math.min(size, GAP_SIZE);
  const shown = members.map((row) => names[row]!);
  const labels = shortenAll(shown, columns.label, size);
  members.forEach((row, i) => {
    const of = rowKey(cells, row);
    const centre = bandCentre(rows, i);
    const unit = unitAt(cells, request.scale, row);
    const axes = axesFor(ruler, 'x', unit);
    // Without a benchmark above 0 there is no part of it to show: the row has its value only.
    const onRuler = !Number.isNaN(unit);
    if (onRuler) plan.paint(marks, { axes, row, of, centre, thickness: rows.thickness });
    onTop.push(
      cellMark(
        cells,
        row,
        of,
        {
          x: box.x - 6,
          y: centre - rows.step / 2,
          width: box.width + 12,
          height: rows.step,
        },
        placeOnScale(cells, request.scale, row),
      ),
    );
    if (i % every !== 0) {
      dropped += gaps[row] ? 3 : 2;
      return;
    }
    if (onRuler && plan.beside)
      dropped += plan.beside(
        marks,
        axes,
        row,
        of,
        centre,
        [left - 4, right + 4],
        Math.min(size, GAP_SIZE),
        rows.thickness,
      );
    const y = centred(centre, size);
    const { bold } = encodeRow(highlight, cells, row);
    const { text, badge, rule } = encodeGap(request, cells, row);
    const name = bold ? shorten(shown[i]!, columns.label + 16, size, 600) : labels[i]!;
    marks.push(textMark('label', name, box.x, y, size, { row: of, weight: bold ? 600 : 400 }));
    if (inColumn)
      marks.push(
        textMark('value', values[row]!, valueEnd, y, size, {
          anchor: 'end',
          weight: 600,
          row: of,
          value: nullIfBlank(cells.actual[row]!),
        }),
      );
    if (!gaps[row]) return;
    const judged = judgementAt(cells, row);
    if (badge && rows.step >= 12) marks.push(badgeMark(badge, gapEnd - columns.gap + 5, centre, text, rule, of));
    if (!columns.hasGaps) {
      dropped++;
      return;
    }
    marks.push(
      textMark('gap', gaps[row]!, gapEnd, centred(centre, gapSize), gapSize, {
        anchor: 'end',
        paint: { fill: text },
        rule,
        row: of,
        value: nullIfBlank(judged.gapPercent),
      }),
    );
  });
  marks.push(
    ...zeroLine(ruler, (x) => ({ x1: x, y1: top - 2, x2: x, y2: bottom })),
    ...benchmarkLine(plan, ruler, top, bottom),
  );
  return {
    marks,
    onTop,
    ruler,
    strip: { x: ruler.range[0] - 18, y: box.y, width: ruler.range[1] - ruler.range[0] + 36, height: strip },
    dropped,
  };
}

/** Where all benchmarks stand at 100 %, a fine line joins them. */
function benchmarkLine({ request }: Plan, ruler: LinearRuler, top: number, bottom: number): Mark[] {
  if (request.scale === 'value' || ruler.domain[0] > 1 || ruler.domain[1] < 1) return [];
  const x = place(ruler, 1);
  return [lineMark('zero', NO_ROW, { x1: x, y1: top - 2, x2: x, y2: bottom }, 1, { stroke: INK, strokeWidth: 0.5 })];
}
