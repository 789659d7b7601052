import type { View } from '../brief';
import { shiftBack, startOf, step as stepOn, type Day, type Span } from '../calendar';
import { actualSpan, isWholeStep, type Context } from './context';
import type { Steps } from './views';

/** The steps of a figure as views go over them. */
export interface Stepping extends Steps {
  /** As many days of the step before as the one that is cut has; null where none is cut, or none stands before it. */
  readonly cutBefore: Span | null;
  /** The same of the steps that lead in and those of the period, in one line: what changes and means go over. */
  readonly line: Steps;
}

/**
 * The whole steps before the period that its first steps look back to: of a change one, of a mean as many as its window begins before a
 * step. None where the period begins inside a step or behind one that still runs, and none before the data.
 */
export function leadIn(
  { brief, period, known, asOf, calendar, allTime, choices }: Context,
  view: View,
): readonly Day[] {
  const { grain } = brief;
  if (!grain || allTime || period.from > asOf + 1 || startOf(grain, period.from, calendar) !== period.from) return [];
  let many = view.kind === 'change' ? 1 : 0;
  if (view.kind === 'smoothed') {
    const { steps } = view;
    many = { trailing: steps - 1, preceding: steps, centred: Math.floor(steps / 2) }[choices.window ?? 'trailing'];
  }
  const leads: Day[] = [];
  for (let back = 1; back <= many; back++) {
    const start = startOf(grain, stepOn(grain, period.from, -back, calendar), calendar);
    if (start < known.begins) break;
    leads.unshift(start);
  }
  return leads;
}

/** The days of actuals, from the first step that leads in. */
export function spanFrom(leads: readonly Day[], context: Context): Span | null {
  const span = actualSpan(context);
  return span && leads.length > 0 ? { ...span, from: leads[0]! } : span;
}

/** Which steps have data, which of them are whole, and with what the one that is cut can be compared. */
export function steppingOf(
  context: Pick<Context, 'known' | 'period' | 'asOf' | 'calendar' | 'allTime' | 'brief'>,
  steps: readonly (Day | null)[],
  leads: readonly Day[],
): Stepping {
  const { brief, period, asOf } = context;
  const { grain } = brief;
  const until = steps.filter((step) => step === null || step <= asOf).length;
  const isWhole = steps.map((step) => grain === null || isWholeStep(context, grain, step!));
  const last = until - 1;
  const begun = steps[last] ?? null;
  // A step that is not whole although the data have begun before it is cut at its end.
  const isCut = begun !== null && !isWhole[last] && begun >= context.known.begins && begun >= period.from;
  const cut = isCut ? last : -1;
  const before = leads.length;
  const line = {
    until: until + before,
    isWhole: [...leads.map(() => true), ...isWhole],
    cut: isCut ? last + before : -1,
  };
  if (!grain || !isCut || last + before === 0) return { until, isWhole, cut, cutBefore: null, line };
  const days = { from: begun, to: Math.min(period.to, asOf), partial: false, whole: false, unit: { grain, count: 1 } };
  return { until, isWhole, cut, cutBefore: shiftBack(days, { periods: 1 }, 'date', asOf, context.calendar), line };
}
