import { laneFor } from './lane';
import type { Reading } from './evidence';
import type { Column, TextColumn } from './column';

/**
 * A text column read as another kind. The rows' texts go through the same lane a file's cells go through.
 * @returns the typed column, and the rows (from 0) whose text could not be read.
 */
export function retype(
  column: TextColumn,
  reading: Exclude<Reading, { kind: 'text' }>,
): { column: Column; unread: number[] } {
  const { members, codes, name } = column;
  const lane = laneFor(reading);
  const BLOCK = 1 << 14;
  const rows: string[][] = [];
  const unread: number[] = [];
  for (let start = 0; start < codes.length; start += BLOCK) {
    const end = Math.min(start + BLOCK, codes.length);
    rows.length = 0;
    for (let i = start; i < end; i++) rows.push([members[codes[i]!]!]);
    lane.take(rows, 0, (index) => unread.push(start + index));
  }
  return { column: lane.finish(name), unread };
}
