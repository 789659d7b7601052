import { shiftBack, type Day, type Span } from '../calendar';
import { isWholeStep, type Context } from './context';
import type { Steps } from './views';

/** The steps of a figure as views go over them. */
export interface Stepping extends Steps {
  /** As many days of the step before as the one that is cut has; null where none is cut, or none stands before it. */
  readonly cutBefore: Span | null;
}

/** Which steps have data, which of them are whole, and with what the one that is cut can be compared. */
export function steppingOf(
  context: Pick<Context, 'known' | 'period' | 'asOf' | 'calendar' | 'allTime' | 'brief'>,
  steps: readonly (Day | null)[],
): Stepping {
  const { brief, period, asOf } = context;
  const until = steps.filter((step) => step === null || step <= asOf).length;
  const { grain } = brief;
  if (!grain) return { until, isWhole: steps.map(() => true), cut: -1, cutBefore: null };
  const isWhole = steps.map((step) => isWholeStep(context, grain, step!));
  const last = until - 1;
  const begun = steps[last] ?? null;
  // A step that is not whole although the data have begun before it is cut at its end.
  const isCut = begun !== null && !isWhole[last] && begun >= context.known.begins && begun >= period.from;
  if (!isCut || begun === null) return { until, isWhole, cut: -1, cutBefore: null };
  const days = { from: begun, to: Math.min(period.to, asOf), partial: false, whole: false, unit: { grain, count: 1 } };
  return {
    until,
    isWhole,
    cut: last,
    cutBefore: last > 0 ? shiftBack(days, { periods: 1 }, 'date', asOf, context.calendar) : null,
  };
}
