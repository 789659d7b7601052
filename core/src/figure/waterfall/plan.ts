import { valueRuler } from '../rows/parts';
import type { WaterfallPlan } from './marks';

/** The ruler of a waterfall: from zero, or where its steps have one of their own, about the steps. */
export function rulerFor(
  { request, writing, values, zoomed }: WaterfallPlan,
  range: readonly [number, number],
  along: 'x' | 'y',
) {
  if (!zoomed) return valueRuler(request, writing, values, range, along, 'zero');
  const shown = roomed(values);
  const tight = valueRuler(request, writing, shown, range, along, 'tight');
  const domain = [Math.min(...shown), Math.max(...shown)] as const;
  const [low, high] = tight.ruler.domain;
  // Where few ticks have room, ends on ticks would leave the steps as small as on a ruler from zero: then it ends where they do.
  if (request.ruler || high - low <= MOST_ROOM * (domain[1] - domain[0])) return tight;
  const own = { entry: { id: 'own', kind: 'linear', fit: 'fixed', domain }, values: [] } as const;
  return valueRuler({ ...request, ruler: own }, writing, shown, range, along, 'fixed');
}

/** A ruler of its own is at most so many times as long as what it shows. */
const MOST_ROOM = 1.4;

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
