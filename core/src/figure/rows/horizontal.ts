import { encodeRow, QUIET } from '../../highlight';
import { judgementAt } from '../../query';
import { bandCentre, bandRuler, place } from '../../ruler';
import { MIN_SIZE, shorten, shortenAll, textWidth, type Mark, type Scene } from '../../scene';
import { badgeMark, centred, footOf, headOf, lineMark, NO_ROW, PAD, textMark } from '../frame';
import { rowKey } from '../names';
import {
  axesFor,
  cellMark,
  FINE,
  fitted,
  GAP_SIZE,
  LABEL_SIZE,
  NATURAL,
  nullIfBlank,
  OUTER,
  sceneOf,
  STRIP,
  TICK_SIZE,
  VALUE_SIZE,
  widest,
  zeroLine,
  type Plan,
} from './parts';

/** Bars run across: names at the left, the ruler above, values and gaps in columns at the right. */
export function horizontal(plan: Plan): Scene {
  const { request, width, writing, names, values, gaps } = plan;
  const { cells, highlight, look } = request;
  const head = headOf(request, width, writing);
  const foot = footOf(request, width, plan.legend);
  const heads = { value: 'actual', gap: cells.benchmark ? `to ${cells.due ? 'due' : cells.benchmark.name}` : '' };
  const inColumn = plan.valuesStand === 'in a column';
  const valueWidth = inColumn ? Math.max(widest(values, VALUE_SIZE, 600), textWidth(heads.value, TICK_SIZE)) : 0;
  const gapWidth = cells.benchmarks
    ? Math.max(18 + widest(gaps, GAP_SIZE), Math.min(90, textWidth(heads.gap, TICK_SIZE)))
    : 0;
  const labelWidth = Math.min(widest(names, LABEL_SIZE), width * 0.3);
  const left = PAD + labelWidth + 22;
  // Columns keep their distance from the ruler's end; where labels stand beside the marks there is room for them.
  const column = inColumn ? 34 : 12;
  const right = width - PAD - valueWidth - (gapWidth > 0 ? gapWidth + 16 : 0) - column;
  const from = left + plan.room[0];
  const top = head.bottom + STRIP + 4;
  const pitch = cells.count > 20 ? NATURAL.many : NATURAL.few;
  const height = look.height ?? top + Math.max(1, cells.count) * pitch + foot.height;
  const bottom = Math.max(top + 8, height - foot.height);

  const { ruler, label } = fitted(plan, [from, Math.max(from + 20, right - plan.room[1])], 'x');
  const axes = axesFor(ruler, 'x');
  const rows = bandRuler(cells.count, [top, bottom], plan.inner, OUTER);
  const marks: Mark[] = [...head.marks];
  const baseline = head.bottom + STRIP;
  let dropped = 0;
  let labelled = -Infinity;
  for (const tick of ruler.ticks) {
    const x = place(ruler, tick);
    marks.push(lineMark('tick', NO_ROW, { x1: x, y1: baseline - 6, x2: x, y2: baseline }, tick, FINE));
    // On a ruler too short for two labels the later one gives way; its tick stays.
    const half = textWidth(label(tick), TICK_SIZE) / 2;
    if (x - half < labelled + 4) {
      dropped++;
      continue;
    }
    labelled = x + half;
    marks.push(textMark('ticklabel', label(tick), x, baseline - 10, TICK_SIZE, { anchor: 'middle', value: tick }));
  }
  const valueEnd = right + column + valueWidth;
  const gapEnd = valueEnd + 16 + gapWidth;
  const heading = { anchor: 'end', paint: { fill: QUIET } } as const;
  if (cells.count > 0) {
    if (inColumn) marks.push(textMark('label', heads.value, valueEnd, baseline - 10, TICK_SIZE, heading));
    if (gapWidth > 0)
      marks.push(textMark('label', shorten(heads.gap, gapWidth, TICK_SIZE), gapEnd, baseline - 10, TICK_SIZE, heading));
  }
  // Labels shrink with their rows down to the least size; then only every n-th row has one.
  const size = Math.max(MIN_SIZE, Math.min(LABEL_SIZE, rows.step - 1));
  const every = Math.max(1, Math.ceil((MIN_SIZE + 1) / Math.max(rows.step, 0.01)));
  const gapSize = Math.min(size, GAP_SIZE);
  const labels = shortenAll(names, labelWidth, size);
  const onTop: Mark[] = [];
  for (let row = 0; row < cells.count; row++) {
    const of = rowKey(cells, row);
    const centre = bandCentre(rows, row);
    plan.paint(marks, { axes, row, of, centre, thickness: rows.thickness });
    onTop.push(
      cellMark(cells, writing, row, of, {
        x: PAD - 6,
        y: centre - rows.step / 2,
        width: width - 2 * PAD + 12,
        height: rows.step,
      }),
    );
    if (row % every !== 0) {
      dropped += gaps[row] ? 3 : 2;
      continue;
    }
    if (plan.beside)
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
    marks.push(textMark('label', labels[row]!, PAD, y, size, { row: of }));
    if (inColumn)
      marks.push(
        textMark('value', values[row]!, valueEnd, y, size, {
          anchor: 'end',
          weight: 600,
          row: of,
          value: nullIfBlank(cells.actual[row]!),
        }),
      );
    if (!gaps[row]) continue;
    const judged = judgementAt(cells, row);
    const { ink, badge, rule } = encodeRow(highlight, cells, row);
    if (badge && rows.step >= 12) marks.push(badgeMark(badge, gapEnd - gapWidth + 5, centre, ink, rule, of));
    marks.push(
      textMark('gap', gaps[row]!, gapEnd, centred(centre, gapSize), gapSize, {
        anchor: 'end',
        paint: { fill: ink },
        rule,
        row: of,
        value: nullIfBlank(judged.gapPercent),
      }),
    );
  }
  marks.push(...zeroLine(ruler, (x) => ({ x1: x, y1: top - 2, x2: x, y2: bottom })), ...foot.marks(bottom), ...onTop);
  return sceneOf(plan, head.title, { width, height }, marks, dropped, ruler, 'x', {
    x: ruler.range[0] - 18,
    y: head.bottom,
    width: ruler.range[1] - ruler.range[0] + 36,
    height: STRIP,
  });
}
