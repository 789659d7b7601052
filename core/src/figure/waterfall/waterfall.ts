import { writeNumber, writingOf } from '../../format';
import { waterfallFor } from '../../query';
import type { Scene } from '../../scene';
import type { FigureRequest, FormDefinition } from '../form';
import { layAcross } from './across';
import { legendOf, type WaterfallPlan } from './marks';
import { openedBrief, stepsOf } from './steps';
import { layUpright } from './upright';
import { stepsForLook } from './values';

/** What made the difference: from one total through every step to another, each beginning where the one before ends. */
export const waterfall: FormDefinition = {
  form: 'waterfall',
  purpose: 'what made the difference',
  most: 200,
  rulerValues: (cells, look) => stepsForLook(waterfallFor(cells).steps, look),
  furtherBriefs: (brief, look) => {
    const opened = openedBrief(brief, look);
    return opened ? [opened] : [];
  },
  draw,
};

function draw(request: FigureRequest): Scene {
  const { cells, look, further } = request;
  const writing = writingOf(cells);
  const { steps } = stepsOf(cells, look, further[0] ?? null);
  const plan: WaterfallPlan = {
    request,
    writing,
    steps,
    names: steps.map(({ name, mark }) => (mark ? `${name} (${mark})` : name)),
    texts: steps.map(({ kind, value }) =>
      writeNumber(value, writing, kind === 'step' || (kind === 'subtotal' && cells.benchmarks !== null)),
    ),
    legend: legendOf(request, writing, steps),
    values: stepsForLook(steps, look),
    zoomed: look.zoom === true,
  };
  return look.orientation === 'vertical' ? layUpright(plan) : layAcross(plan);
}
