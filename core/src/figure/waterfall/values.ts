import type { WaterfallStep } from '../../query';
import type { Look } from '../../report';

/** Every value the ruler must show: where steps begin and end; with a ruler of their own not the zero on which totals stand. */
export function stepsForLook(steps: readonly WaterfallStep[], { zoom }: Look): number[] {
  return steps.flatMap(({ kind, start, end }) => (zoom && kind === 'total' ? [end] : [start, end]));
}
