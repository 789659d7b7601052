import { Problem } from '../problem';
import type { ColumnWish, LineIndex, RawTable } from '../table';
import type { RowSource } from './cell';
import { Pass } from './pass';
import { datePattern } from './readDate';
import { styleNamed } from './readNumber';

/** Told how many rows have been read, and what share of the file that is where it is known. */
export type OnRows = (rows: number, share?: number) => void;

/**
 * Reads rows of cells into typed columns, the types inferred from all rows: each column is read by the reading its first
 * rows suggest, and read again when all rows together say otherwise. Throws a `Problem` for rows without columns.
 */
export async function readRows(
  name: string,
  source: RowSource,
  wishes: readonly ColumnWish[] = [],
  onRows: OnRows = () => {},
  marks: () => LineIndex | null = () => null,
): Promise<RawTable> {
  checkWishes(name, wishes);
  const first = new Pass(wishes);
  for await (const chunk of source(first.aside)) {
    first.take(chunk);
    onRows(first.rows, chunk.share);
  }
  if (first.header.length === 0)
    throw new Problem('empty-file', 'there are no rows in it', { in: name }, 'choose a file with a header row');
  const again = first.doubtful();
  if (again.size === 0) return first.finish(marks());
  const second = first.again(again);
  for await (const chunk of source(() => {})) second.take(chunk);
  return first.finish(marks(), second);
}

function checkWishes(name: string, wishes: readonly ColumnWish[]): void {
  for (const { name: column, read, type } of wishes) {
    if (read === undefined) continue;
    const known = type === 'number' ? styleNamed(read) : datePattern(read);
    if (!known && type === 'number')
      throw new Problem(
        'unknown-number-style',
        `numbers cannot be read as “${read}”`,
        { in: `column “${column}” of ${name}` },
        'write 1,234.5 or 1.234,5',
      );
    if (!known)
      throw new Problem('unknown-date-pattern', `dates cannot be read as “${read}”`, {
        in: `column “${column}” of ${name}`,
      });
  }
}
