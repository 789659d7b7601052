import { endOf, writtenDay } from '../../calendar';
import type { Cells } from '../../query';

/** The step of a row has begun and is not over: its actual is a part. */
export function isRunning({ steps, grain, calendar, asOf, actual }: Cells, row: number): boolean {
  if (!steps || !grain || grain === 'day' || Number.isNaN(actual[row]!)) return false;
  return steps[row]! <= asOf && endOf(grain, steps[row]!, calendar) > asOf;
}

/** What a running step is called in a legend; null where none is shown. */
export function runningWords(cells: Cells): string | null {
  for (let row = cells.count - 1; row >= 0; row--)
    if (isRunning(cells, row)) return `${cells.grain} up to ${writtenDay(cells.asOf)}`;
  return null;
}
