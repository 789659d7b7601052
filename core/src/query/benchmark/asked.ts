import type { Grain, Period, Span } from '../../calendar';
import type { Values } from '../values';

/** What a benchmark is asked for. */
export interface Asked {
  readonly by: readonly string[];
  readonly grain: Grain | null;
  /** The days wanted: the figure's period, or that period up to the as-of date when what is due by now is asked. */
  readonly period: Period;
  /** The figure's actual values in the same shape. */
  readonly actual: Values;
}

export interface Held {
  readonly values: Values;
  /** The span it was taken from, for benchmarks that are another period. */
  readonly span: Span | null;
}
