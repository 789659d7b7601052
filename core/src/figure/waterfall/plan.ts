import { valueRuler } from '../rows/parts';
import type { WaterfallPlan } from './marks';

/** The ruler of a waterfall: from zero, or where its steps have one of their own, about the steps. */
export function rulerFor(
  { request, writing, values, zoomed }: WaterfallPlan,
  range: readonly [number, number],
  along: 'x' | 'y',
) {
  const fit = zoomed ? 'tight' : 'zero';
  return valueRuler(request, writing, zoomed ? roomed(values) : values, range, along, fit);
}

/** A tenth more below, so that a broken total has a stub to stand on. */
function roomed(values: readonly number[]): number[] {
  const low = Math.min(...values);
  const high = Math.max(...values);
  return [...values, low - 0.25 * (high - low || Math.abs(high) || 1)];
}

/** What a step says to the pointer and the ear. */
export function stepWords(
  { names, texts, steps, request: { cells } }: WaterfallPlan,
  i: number,
  write: (value: number) => string,
): string {
  const { kind, end, row } = steps[i]!;
  const parts = [`${names[i]}: ${texts[i]}`];
  if (kind === 'step') {
    if (row !== null && cells.benchmarks && !steps[i]!.opened) {
      const due = cells.due?.[row] ?? NaN;
      const isDue = !Number.isNaN(cells.total.due) && cells.due !== null;
      const [is, was] = [cells.actual[row]!, isDue ? due : cells.benchmarks[row]!];
      parts.push(
        `${cells.benchmark!.name}${isDue ? ' due by now' : ''} ${write(was)}`,
        `${cells.measure.name} ${write(is)}`,
      );
    }
    parts.push(`together ${write(end)}`);
  }
  return parts.join('; ');
}
