import type { Column, Doubt, TextColumn } from '../table';
import type { Reading } from './evidence';
import { laneFor } from './columnReader';

/** A text column read as another kind. */
export interface Retyped {
  readonly column: Column;
  /** Rows (from 0) whose text could not be read. */
  readonly unread: readonly number[];
  readonly doubt: Pick<Doubt, 'kind' | 'readings'> | null;
  readonly settled: boolean;
}

/** The rows' texts go through the same lane a file's cells go through. */
export function retype(column: TextColumn, reading: Exclude<Reading, { kind: 'text' }>): Retyped {
  const { members, codes, name } = column;
  const lane = laneFor(reading);
  const BLOCK = 1 << 14;
  const cells: string[] = [];
  const unread: number[] = [];
  for (let start = 0; start < codes.length; start += BLOCK) {
    const count = Math.min(BLOCK, codes.length - start);
    for (let i = 0; i < count; i++) cells[i] = members[codes[start + i]!]!;
    lane.take(cells, count, (index) => unread.push(start + index));
  }
  const [doubt, settled] = [lane.doubt(), lane.settled()];
  return { column: lane.finish(name), unread, doubt, settled };
}
