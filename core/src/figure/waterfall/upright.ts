import { writeNumber } from '../../format';
import { bandCentre, bandRuler } from '../../ruler';
import { textWidth, wrap, type Mark, type Scene } from '../../scene';
import { footOf, headOf, heightOf, PAD } from '../frame';
import { textMark } from '../shapes';
import { isHighEnough } from '../room';
import { spoken } from '../names';
import { cellBox, LABEL_SIZE, namesFit, nullIfBlank, TICK_SIZE, widest, zeroLine, ticksUpright } from '../rows/parts';
import { DEFAULT_WIDTH } from '../rows/rows';
import { rulerFor, stepWords } from './plan';
import { axesOf, connectorMark, stepMarks, stepPaint, type WaterfallPlan } from './marks';

const VALUE = 12;
const NAME = LABEL_SIZE - 1;

/** Steps beside the ruler's strip, which is as wide as the widest label it may bear. */
function columnsOf(plan: WaterfallPlan, width: number) {
  const rough = rulerFor(plan, [1000, 0], 'y');
  const strip = Math.max(44, widest(rough.ruler.ticks.map(rough.label), TICK_SIZE) + 20);
  const left = PAD + strip + 6;
  const { length } = plan.steps;
  return { strip, left, columns: bandRuler(length, [left, width - PAD], length > 14 ? 0.2 : 0.32, 0.2) };
}

/** Whether the paper is high enough, and every step has room for its name, in two lines at most; else the steps lie across. */
export function standsUpright(plan: WaterfallPlan): boolean {
  const { columns } = columnsOf(plan, plan.request.look.width ?? DEFAULT_WIDTH);
  return isHighEnough(plan.request.look.height) && namesFit(plan.names, columns.step - 6, NAME);
}

/** Steps stand upright beside one another. */
export function layUpright(plan: WaterfallPlan): Scene {
  const { request, writing, steps, names, texts } = plan;
  const { cells, look } = request;
  const width = look.width ?? DEFAULT_WIDTH;
  const head = headOf(request, width, writing);
  const foot = footOf(request, width, plan.legend);
  const height = heightOf(request, 460, head, foot, 140);
  const { strip, left, columns } = columnsOf(plan, width);
  const lines = names.map((name) => wrap(name, columns.step - 6, NAME, 400, 2));
  const labelRows = Math.max(1, ...lines.map((list) => list.length));
  const under = 8 + labelRows * 14;
  // Values stand beyond the bars: there is a line of room above and below them.
  const top = head.bottom + 24;
  const bottom = Math.max(top + 30, height - foot.height - under - 4);
  const low = steps.some(({ end, value }) => end < 0 || value < 0) ? 16 : 0;
  const { ruler, label } = rulerFor(plan, [bottom - low, top], 'y');
  const axes = axesOf(ruler, 'y');
  const marks: Mark[] = [...head.marks];
  ticksUpright(marks, ruler, label, PAD + strip);
  let dropped = 0;
  const onTop: Mark[] = [];
  steps.forEach((step, i) => {
    const centre = bandCentre(columns, i);
    const next = steps[i + 1];
    stepMarks(marks, plan, step, axes, centre, columns.thickness);
    if (next)
      marks.push(
        connectorMark(
          axes,
          step.of,
          step.end,
          centre + columns.thickness / 2,
          bandCentre(columns, i + 1) - columns.thickness / 2,
        ),
      );
    onTop.push(
      cellBox(
        step.of,
        nullIfBlank(step.value),
        stepWords(plan, i, (value) => writeNumber(value, writing)),
        step.end,
        {
          x: centre - columns.step / 2,
          y: top,
          width: columns.step,
          height: bottom + under - top,
        },
      ),
    );
    const isTotal = step.kind !== 'step';
    lines[i]!.forEach((line, l) => {
      const weight = isTotal && textWidth(line, NAME, 600) <= columns.step - 2 ? 600 : 400;
      marks.push(
        textMark('label', line, centre, bottom + 18 + l * 14, NAME, { anchor: 'middle', row: step.of, weight }),
      );
    });
    const text = texts[i]!;
    if (textWidth(text, VALUE, 600) + 3 > columns.step) {
      dropped++;
      return;
    }
    const [upper, lower] = [axes.at(step.start), axes.at(step.end)].sort((p, q) => p - q) as [number, number];
    const backward = step.kind === 'step' ? step.value < 0 : step.end < 0;
    const { ink, rule } = stepPaint(request, step);
    marks.push(
      textMark('value', text, centre, backward ? lower + 13 : upper - 5, VALUE, {
        anchor: 'middle',
        weight: 600,
        paint: { fill: isTotal ? '#16202B' : ink },
        row: step.of,
        rule,
        value: nullIfBlank(step.value),
      }),
    );
  });
  marks.push(
    ...zeroLine(ruler, (y) => ({ x1: left - 2, y1: y, x2: width - PAD, y2: y })),
    ...foot.marks(height - foot.height),
    ...onTop,
  );
  return {
    width,
    height,
    title: head.title,
    description: spoken('Waterfall', cells),
    rulers: [
      {
        id: request.ruler?.entry.id ?? 'own',
        axis: 'y',
        kind: 'linear',
        domain: ruler.domain,
        range: ruler.range,
        ticks: ruler.ticks,
        strip: { x: PAD, y: top - 10, width: strip, height: bottom - low - top + 20 },
      },
    ],
    marks,
    dropped,
  };
}
