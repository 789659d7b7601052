import type { Column, Table } from './column';

type Cells = Float64Array | Int32Array | Uint8Array | Uint16Array | Uint32Array;

/** The same numbers in memory that threads share; they are not copied where they are. */
function inShared<C extends Cells>(cells: C): C {
  if (cells.buffer instanceof SharedArrayBuffer) return cells;
  const Kind = cells.constructor as new (buffer: SharedArrayBuffer) => C;
  const copy = new Kind(new SharedArrayBuffer(cells.byteLength));
  copy.set(cells as never);
  return copy;
}

/** The same numbers in memory of this thread alone, which can be stored and handed on; they are not copied where they are. */
function apart<C extends Cells>(cells: C): C {
  return typeof SharedArrayBuffer !== 'undefined' && cells.buffer instanceof SharedArrayBuffer
    ? (cells.slice() as C)
    : cells;
}

function withCells(column: Column, change: <C extends Cells>(cells: C) => C): Column {
  switch (column.kind) {
    case 'number':
      return { ...column, values: change(column.values) };
    case 'date':
      return { ...column, days: change(column.days) };
    case 'text':
    case 'yesno':
      return { ...column, codes: change(column.codes) } as Column;
  }
}

/** The table with its columns in memory that threads share. */
export const sharedTable = (table: Table): Table => ({
  ...table,
  columns: table.columns.map((column) => withCells(column, inShared)),
});

/** Whether the columns that a table was read with lie in memory that threads share. */
export function isShared({ columns: [first] }: Table): boolean {
  if (!first || typeof SharedArrayBuffer === 'undefined') return false;
  const { buffer } = first.kind === 'number' ? first.values : first.kind === 'date' ? first.days : first.codes;
  return buffer instanceof SharedArrayBuffer;
}

/** A column as it can be stored: in memory that nothing else shares. */
export const columnApart = (column: Column): Column => withCells(column, apart);
