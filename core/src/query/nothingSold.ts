import type { Day, Span } from '../calendar';
import type { Held } from './benchmark/asked';
import type { Context } from './context';
import type { Values } from './values';

// Nothing sold is zero and not blank where something stands beside it. Rows with blank amounts stay blank, as do days to come and days
// before the data. Changes and means look at steps beside one another, and are what they would be without a benchmark.

/** Whether nothing is zero: what adds up can be nothing, an average of nothing cannot. */
const countsNothing = ({ of, brief: { views } }: Context) =>
  of.additive && views[0]!.kind !== 'change' && views[0]!.kind !== 'smoothed';

/** The actual values, with 0 for who has a benchmark and no rows, on days that have begun and that the table knows. */
export function withNothingSold(context: Context, actual: Values, held: Held | null): Values {
  if (!held || !countsNothing(context)) return actual;
  const { known, asOf, period, allTime } = context;
  const until = Math.min(asOf, known.to);
  const isKnown = (step: Day | null) => {
    if (allTime) return step === null || (step >= known.begins && step <= until);
    const from = Math.max(step ?? period.from, period.from);
    return from >= known.begins && from <= until;
  };
  return withZeros(actual, held.values, isKnown);
}

/**
 * What was in another period, with 0 for who has rows now and had none then.
 * @param actual what there is now, in the same shape
 * @param spanAt the days a step is compared with
 */
export async function withNothingThen(
  context: Context,
  held: Held,
  actual: Promise<Values>,
  spanAt: (step: Day | null) => Span | undefined,
): Promise<Held> {
  if (!countsNothing(context)) return held;
  const { known, asOf } = context;
  const isKnown = (step: Day | null) => {
    const span = spanAt(step);
    return (
      span !== undefined && span.from <= span.to && span.from >= known.begins && span.from <= Math.max(known.to, asOf)
    );
  };
  return { ...held, values: withZeros(held.values, await actual, isKnown) };
}

/** Values with zeros for the groups that only others have. */
function withZeros(values: Values, others: Values, isKnown: (step: Day | null) => boolean): Values {
  const at = new Map(values.at);
  for (const [key, { members, step, value }] of others.at)
    if (!Number.isNaN(value) && !at.has(key) && isKnown(step)) at.set(key, { members, step, value: 0, rows: 0 });
  return at.size === values.at.size ? values : { ...values, at };
}
