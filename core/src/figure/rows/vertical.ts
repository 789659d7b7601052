import { encodeGap, encodeRow } from '../../highlight';
import { judgementAt } from '../../query';
import { bandCentre, bandRuler } from '../../ruler';
import { textWidth, wrap, type Mark, type Scene } from '../../scene';
import { footOf, headOf, heightOf, PAD } from '../frame';
import { badgeMark, textMark } from '../shapes';
import { isHighEnough } from '../room';
import { rowKey } from '../names';
import {
  axesFor,
  cellMark,
  fitted,
  GAP_SIZE,
  LABEL_SIZE,
  namesFit,
  nullIfBlank,
  placeOnScale,
  sceneOf,
  TICK_SIZE,
  unitAt,
  VALUE_SIZE,
  widest,
  zeroLine,
  type Plan,
  ticksUpright,
} from './parts';

/** Columns beside the ruler's strip, which is as wide as the widest label it may bear. */
function columnsOf(plan: Plan) {
  const { cells } = plan.request;
  const rough = fitted(plan, [1000, 0], 'y');
  const strip = Math.max(44, widest(rough.ruler.ticks.map(rough.label), TICK_SIZE) + 20);
  const left = PAD + strip + 6;
  const padding = cells.count > 14 ? Math.min(0.3, plan.inner) : plan.inner + 0.1;
  return { strip, left, columns: bandRuler(cells.count, [left, plan.width - PAD], padding, 0.23) };
}

/** Whether the paper is high enough, and every column has room for its name, in two lines at most; else the figure lies across. */
export const standsUpright = (plan: Plan): boolean =>
  isHighEnough(plan.request.look.height) && namesFit(plan.names, columnsOf(plan).columns.step - 8, LABEL_SIZE);

/** Bars stand upright: the ruler at the left, names, values and gaps beneath each bar. */
export function vertical(plan: Plan): Scene {
  const { request, width, writing, names, values, gaps } = plan;
  const { cells, highlight } = request;
  const head = headOf(request, width, writing);
  const foot = footOf(request, width, plan.legend);
  const height = heightOf(request, 460, head, foot, 160);
  const top = head.bottom + 10;
  const { strip, left, columns } = columnsOf(plan);
  // Values and gaps stand under all columns or under none, as between neighbours without them nobody could tell whose they are.
  const lines = names.map((name) => wrap(name, columns.step - 8, LABEL_SIZE, 400, 2));
  const hasValues = widest(values, VALUE_SIZE, 600) + 6 <= columns.step;
  const hasGaps = 18 + widest(gaps, GAP_SIZE) <= columns.step;
  const labelRows = Math.max(1, ...lines.map((list) => list.length));
  const under = 8 + labelRows * 15 + (hasValues ? 18 : 0) + (cells.benchmarks && hasGaps ? 17 : 0);
  const bottom = Math.max(top + 20, height - foot.height - under);
  const { ruler, label } = fitted(plan, [bottom, top], 'y');

  const marks: Mark[] = [...head.marks];
  ticksUpright(marks, ruler, label, PAD + strip);
  let dropped = 0;
  const onTop: Mark[] = [];
  for (let row = 0; row < cells.count; row++) {
    const of = rowKey(cells, row);
    const centre = bandCentre(columns, row);
    const unit = unitAt(cells, request.scale, row);
    const axes = axesFor(ruler, 'y', unit);
    if (!Number.isNaN(unit)) plan.paint(marks, { axes, row, of, centre, thickness: columns.thickness });
    onTop.push(
      cellMark(
        cells,
        row,
        of,
        {
          x: centre - columns.step / 2,
          y: top,
          width: columns.step,
          height: bottom + under - top,
        },
        placeOnScale(cells, request.scale, row),
      ),
    );
    const { bold } = encodeRow(highlight, cells, row);
    const { text, badge, rule } = encodeGap(request, cells, row);
    lines[row]!.forEach((line, l) =>
      marks.push(
        textMark('label', line, centre, bottom + 20 + l * 15, LABEL_SIZE, {
          anchor: 'middle',
          row: of,
          weight: bold && textWidth(line, LABEL_SIZE, 600) <= columns.step ? 600 : 400,
        }),
      ),
    );
    const y = bottom + 12 + labelRows * 15;
    if (hasValues)
      marks.push(
        textMark('value', values[row]!, centre, y + 11, VALUE_SIZE, {
          anchor: 'middle',
          weight: 600,
          row: of,
          value: nullIfBlank(cells.actual[row]!),
        }),
      );
    else dropped++;
    if (!gaps[row]) continue;
    if (!hasGaps) {
      dropped++;
      continue;
    }
    const judged = judgementAt(cells, row);
    const wide = textWidth(gaps[row]!, GAP_SIZE) + (badge ? 14 : 0);
    if (badge) marks.push(badgeMark(badge, centre - wide / 2 + 5, y + 23, text, rule, of));
    marks.push(
      textMark('gap', gaps[row]!, centre + wide / 2, y + 27, GAP_SIZE, {
        anchor: 'end',
        paint: { fill: text },
        rule,
        row: of,
        value: nullIfBlank(judged.gapPercent),
      }),
    );
  }
  marks.push(
    ...zeroLine(ruler, (y) => ({ x1: left - 2, y1: y, x2: width - PAD, y2: y })),
    ...foot.marks(bottom + under),
    ...onTop,
  );
  return sceneOf(plan, head.title, { width, height }, marks, dropped, 'y', [
    { ruler, strip: { x: PAD, y: top - 10, width: strip, height: bottom - top + 20 } },
  ]);
}
