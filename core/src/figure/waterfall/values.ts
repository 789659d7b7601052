import type { WaterfallStep } from '../../query';
import type { Look } from '../../report';

/** Steps that take less than this part of a ruler from zero cannot be read on it. */
const READABLE = 0.25;

/** Whether the steps have a ruler of their own, as the look says or as they need. */
export function isZoomed(steps: readonly WaterfallStep[], { zoom }: Look): boolean {
  if (zoom !== undefined) return zoom;
  const totals = steps.filter(({ kind }) => kind === 'total');
  // Without a total to begin with, the steps go from zero to their sum.
  if (totals.length < 2) return false;
  const values = spanned(steps, true).filter((value) => !Number.isNaN(value));
  const [low, high] = [Math.min(...values), Math.max(...values)];
  // A ruler that reaches both sides of zero, or a total of nothing, has nothing to be broken.
  if (low * high <= 0) return false;
  return high - low < READABLE * Math.max(-low, high);
}

function spanned(steps: readonly WaterfallStep[], broken: boolean): number[] {
  return steps.flatMap(({ kind, start, end }) => (broken && kind === 'total' ? [end] : [start, end]));
}

/** Every value the ruler must show: where steps begin and end; with a ruler of their own not the zero on which totals stand. */
export function stepsForLook(steps: readonly WaterfallStep[], look: Look): number[] {
  return spanned(steps, isZoomed(steps, look));
}
