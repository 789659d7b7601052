import { writeNumber } from '../../format';
import { bandCentre, bandRuler } from '../../ruler';
import { MIN_SIZE, shortenAll, textWidth, type Mark, type Scene } from '../../scene';
import { footOf, headOf, heightOf, PAD } from '../frame';
import { centred, textMark } from '../shapes';
import { LEAST_PITCH, leastOfRows } from '../room';
import { spoken } from '../names';
import { LABEL_GAP, placeLabel, type LabelPlace } from '../rows/beside';
import { cellBox, LABEL_SIZE, NATURAL, nullIfBlank, OUTER, STRIP, zeroLine, ticksAcross } from '../rows/parts';
import { DEFAULT_WIDTH } from '../rows/rows';
import { rulerFor, stepWords } from './plan';
import { axesOf, connectorMark, stepMarks, stepPaint, valueWidth, type WaterfallPlan } from './marks';

const VALUE = 12;
/** Where it begins, all steps together, where it ends. */
const FEWEST = 3;

/**
 * Steps run across, one under the other.
 * @param gatheredTo the same with so many steps and totals at most, where there is no room for all names
 */
export function layAcross(whole: WaterfallPlan, gatheredTo: (most: number) => WaterfallPlan): Scene {
  const { request, writing } = whole;
  const { cells, look } = request;
  const width = look.width ?? DEFAULT_WIDTH;
  const head = headOf(request, width, writing);
  const foot = footOf(request, width, whole.legend);
  const above = STRIP + 4;
  const top = head.bottom + above;
  const { length } = whole.steps;
  const natural = top + Math.max(1, length) * (length > 20 ? NATURAL.many : NATURAL.few - 4) + foot.height;
  const height = heightOf(
    request,
    natural,
    head,
    foot,
    Math.max(leastOfRows(look.height, length, above), above + FEWEST * LEAST_PITCH),
  );
  const bottom = Math.max(top + 8, height - foot.height);
  const plan = gatheredTo(Math.max(FEWEST, Math.floor((bottom - top) / LEAST_PITCH)));
  const { steps, names, texts } = plan;
  const indents = steps.map(({ opened }) => (opened ? 10 : 0));
  const widths = names.map((name, i) => textWidth(name, LABEL_SIZE, 600) + indents[i]!);
  const labelWidth = Math.min(Math.max(0, ...widths), width * 0.32);
  const room = valueWidth(texts, VALUE) + 2 * LABEL_GAP;
  const left = PAD + labelWidth + 22 + (steps.some(({ end, value }) => end < 0 || value < 0) ? room : 0);
  const { ruler, label } = rulerFor(plan, [left, Math.max(left + 20, width - PAD - room)], 'x');
  const axes = axesOf(ruler, 'x');
  const rows = bandRuler(steps.length, [top, bottom], 0.3, OUTER);
  const marks: Mark[] = [...head.marks];
  const baseline = head.bottom + STRIP;
  let dropped = ticksAcross(marks, ruler, label, baseline);
  const size = Math.max(MIN_SIZE, Math.min(LABEL_SIZE, rows.step - 1));
  const labels = shortenAll(names, labelWidth, size, 600);
  const onTop: Mark[] = [];
  steps.forEach((step, i) => {
    const centre = bandCentre(rows, i);
    const next = steps[i + 1];
    stepMarks(marks, plan, step, axes, centre, rows.thickness);
    if (next)
      marks.push(
        connectorMark(
          axes,
          step.of,
          step.end,
          centre + rows.thickness / 2,
          bandCentre(rows, i + 1) - rows.thickness / 2,
        ),
      );
    onTop.push(
      cellBox(
        step.of,
        nullIfBlank(step.value),
        stepWords(plan, i, (value) => writeNumber(value, writing)),
        step.end,
        {
          x: PAD - 6,
          y: centre - rows.step / 2,
          width: width - 2 * PAD + 12,
          height: rows.step,
        },
      ),
    );
    const isTotal = step.kind !== 'step';
    const indent = indents[i]!;
    marks.push(
      textMark(
        'label',
        step.opened ? shortenAll([names[i]!], labelWidth - indent, size)[0]! : labels[i]!,
        PAD + indent,
        centred(centre, size),
        size,
        {
          row: step.of,
          weight: isTotal ? 600 : 400,
        },
      ),
    );
    const [a, b] = [axes.at(step.start), axes.at(step.end)].sort((p, q) => p - q) as [number, number];
    const text = texts[i]!;
    const wide = textWidth(text, VALUE, 600);
    const { ink, rule } = stepPaint(request, step);
    const paint = { fill: isTotal ? '#16202B' : ink };
    const after: LabelPlace = { from: b + LABEL_GAP, paint };
    const before: LabelPlace = { from: a - LABEL_GAP - wide, paint };
    const backward = step.kind === 'step' ? step.value < 0 : step.end < 0;
    const spec = {
      role: 'value',
      text,
      weight: 600,
      size: Math.min(size, VALUE),
      value: nullIfBlank(step.value),
      rule,
    } as const;
    const limits = [PAD + labelWidth + 10, width - PAD] as const;
    const taken = [[a, b]] as const;
    // The connector to the next step goes down from its end, past the label of the step above only.
    if (!placeLabel(marks, spec, backward ? [before, after] : [after, before], taken, limits, centre, step.of))
      dropped++;
  });
  marks.push(...zeroLine(ruler, (x) => ({ x1: x, y1: top - 2, x2: x, y2: bottom })), ...foot.marks(bottom), ...onTop);
  return {
    width,
    height,
    title: head.title,
    description: spoken('Waterfall', cells),
    rulers: [
      {
        id: request.ruler?.entry.id ?? 'own',
        axis: 'x',
        kind: 'linear',
        domain: ruler.domain,
        range: ruler.range,
        ticks: ruler.ticks,
        strip: { x: ruler.range[0] - 18, y: head.bottom, width: ruler.range[1] - ruler.range[0] + 36, height: STRIP },
      },
    ],
    marks,
    dropped,
  };
}
