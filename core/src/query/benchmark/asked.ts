import type { Day, Grain, Period, Span } from '../../calendar';
import type { Context } from '../context';
import type { Values } from '../values';

/** What a benchmark is asked for. */
export interface BenchmarkRequest {
  readonly by: readonly string[];
  readonly grain: Grain | null;
  /** The days wanted: the figure's period, or that period up to the as-of date when what is due by now is asked. */
  readonly period: Period;
  /** The figure's actual values in the same shape, once they are known: what can be asked for without them is, together with them. */
  readonly actual: Promise<Values>;
}

/** What a figure asks of its benchmark. */
export const askedFor = (
  { brief, period }: Pick<Context, 'brief' | 'period'>,
  actual: Promise<Values>,
): BenchmarkRequest => ({
  by: brief.by,
  grain: brief.grain,
  period,
  actual,
});

/** True where a benchmark has a value for all days that the actual of a group and step is made of. */
export type Covers = (members: readonly string[], step: Day | null) => boolean;

export interface Held {
  readonly values: Values;
  /** The span it was taken from, for benchmarks that are another period. */
  readonly span: Span | null;
  /** Where it covers less than the figure does, the two are not alike and have no gap; it covers everything when left out. */
  readonly covers?: Covers;
  /** Whether it says anything of some days, for a group; of all days when left out. */
  readonly speaksOf?: (members: readonly string[], days: Span) => boolean;
}
