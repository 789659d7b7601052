import type { Table } from '@bold-ruler/core/table';

/** The buffers of a table's columns, to be handed from thread to thread without copying. */
export function buffersOf(tables: Iterable<Table>): ArrayBuffer[] {
  const buffers = new Set<ArrayBuffer>();
  for (const { columns } of tables) {
    for (const column of columns) {
      const held = column.kind === 'number' ? column.values : column.kind === 'date' ? column.days : column.codes;
      buffers.add(held.buffer as ArrayBuffer);
    }
  }
  return [...buffers];
}
