import { againstNothing, all, alone, each, plainly } from '../changes';
import { writeNumber, writingOf } from '../../format';
import { difference } from '../../number';
import { EXCHANGE, maybe, waterfallFor } from '../../query';
import type { Scene } from '../../scene';
import { waterfallForm } from './declared';
import { bracketed, type FigureRequest, type FormDefinition } from '../form';
import { layAcross } from './across';
import { legendOf, type WaterfallPlan } from './marks';
import { gathered, openedBrief, stepsOf, type DrawnStep } from './steps';
import { layUpright, standsUpright } from './upright';
import { isZoomed, stepsForLook } from './values';

/** What made the difference: from one total through every step to another, each beginning where the one before ends. */
export const waterfall: FormDefinition = {
  ...waterfallForm,
  rulerValues: (cells, look) => stepsForLook(waterfallFor(cells).steps, look),
  furtherBriefs: (brief, look) => {
    const opened = openedBrief(brief, look);
    return opened ? [opened] : [];
  },
  draw,
  fitting: (_, { members }) => [
    each(null),
    all(plainly, each(null)),
    all(plainly, each(null), againstNothing),
    all(alone, plainly, each(null), againstNothing, members),
  ],
  numbers: (cells) => {
    const { steps } = waterfallFor(cells);
    const stepOf = new Map(steps.map((step) => [step.row, step]));
    return {
      ofRow: (row) => {
        const step = stepOf.get(row);
        if (!step) return {};
        return { start: maybe(step.start), end: maybe(step.end), ...(step.mark ? { mark: step.mark } : {}) };
      },
      lists: { waterfall: steps.map(({ row: _, ...step }) => step) },
    };
  },
  // Where its step ends.
  valueAt: ({ at }, write) => write(at ?? NaN),
  reckoning: {
    sentences: (cells, row, write) => {
      const step = waterfallFor(cells).steps.find((one) => one.row === row);
      if (!step || Number.isNaN(step.value)) return [];
      const before = cells.extras.atRatesBefore?.[row] ?? NaN;
      const rest = difference(cells.actual[row]!, before, cells.decimals);
      const exchanged = Number.isNaN(rest)
        ? []
        : [
            {
              about: 'step' as const,
              text: `At the exchange rates of ${cells.benchmark!.name} it is ${write(before)}; the other ${write(rest)} is in the step “${EXCHANGE}”.`,
            },
          ];
      return [
        ...exchanged,
        {
          about: 'step',
          text: `As a step it begins at ${write(step.start)}, where the one before ends, and ends at ${write(step.end)}.`,
          sum: { text: `${bracketed(step.start)} + ${bracketed(step.value)}`, value: step.end },
        },
      ];
    },
    // Steps that no highlight was named for are painted by their sign.
    isLit: ({ brief }) => brief.lit !== null,
  },
};

function draw(request: FigureRequest): Scene {
  const { cells, look, further } = request;
  const writing = writingOf(cells);
  const { steps, decimals } = stepsOf(cells, look, further[0] ?? null);
  const said = (shown: readonly DrawnStep[]) => ({
    steps: shown,
    names: shown.map(({ name, mark }) => (mark ? `${name} (${mark})` : name)),
    texts: shown.map(({ kind, value }) =>
      writeNumber(value, writing, kind === 'step' || (kind === 'subtotal' && cells.benchmarks !== null)),
    ),
  });
  const zoomed = isBroken(request, steps);
  const plan: WaterfallPlan = {
    request,
    writing,
    ...said(steps),
    legend: legendOf(request, writing, steps, zoomed),
    values: stepsForLook(steps, look),
    zoomed,
  };
  return look.orientation === 'vertical' && standsUpright(plan)
    ? layUpright(plan)
    : layAcross(plan, (most) => ({ ...plan, ...said(gathered(steps, most, decimals)) }));
}

/** Whether totals are broken: on a ruler of its own as the steps need it, on one that is given where that leaves zero out. */
function isBroken({ ruler, look }: FigureRequest, steps: readonly DrawnStep[]): boolean {
  if (!ruler) return isZoomed(steps, look);
  const { fit, domain } = ruler.entry;
  return fit === 'fixed' && domain !== undefined && domain[0] * domain[1] > 0;
}
