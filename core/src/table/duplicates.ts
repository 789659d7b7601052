import { NO_DAY } from '../calendar';
import { columnsInFile, type Column, type Table } from './column';
import { linesOf, type Lines, type LinesFound } from './lines';
import { sumsOf } from './sumsOf';
import { unknownColumn } from './table';

/** Rows that stand in a table already, and what that adds up to. */
export interface Duplicates extends LinesFound {
  /** How many there are; the lines are those of the first of them. */
  readonly count: number;
  /** What they hold in each column of numbers. */
  readonly sums: Readonly<Record<string, number>>;
}

/** Lines that are named. */
const NAMED = 100;

const asNumber = new Float64Array(1);
const asBits = new Uint32Array(asNumber.buffer);
const MIX = 0x9e3779b1;

/** Lets every bit of a number have a say in its lowest ones (the finalizer of MurmurHash3): numbers differ in their highest first. */
function spread(bits: number): number {
  let mixed = Math.imul(bits ^ (bits >>> 16), 0x85ebca6b);
  mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35);
  return mixed ^ (mixed >>> 16);
}

/** The same number for cells that hold the same. */
function bitsOf(column: Column): (row: number) => number {
  switch (column.kind) {
    case 'text':
    case 'yesno':
      return (row) => column.codes[row]!;
    case 'date':
      return (row) => column.days[row]!;
    case 'number':
      return (row) => {
        const value = column.values[row]!;
        if (Number.isNaN(value)) return 0x7ff8;
        // There is one zero, not one for each sign.
        asNumber[0] = value + 0;
        return Math.imul(asBits[0]!, MIX) ^ asBits[1]!;
      };
  }
}

function isSameCell(column: Column, a: number, b: number): boolean {
  switch (column.kind) {
    case 'text':
    case 'yesno':
      return column.codes[a] === column.codes[b];
    case 'date':
      return column.days[a] === column.days[b];
    case 'number': {
      const [one, other] = [column.values[a]!, column.values[b]!];
      return one === other || (Number.isNaN(one) && Number.isNaN(other));
    }
  }
}

const isBlank = (column: Column, row: number): boolean =>
  column.kind === 'number'
    ? Number.isNaN(column.values[row]!)
    : column.kind === 'date'
      ? column.days[row] === NO_DAY
      : column.codes[row] === 0;

/**
 * Rows that are equal to one above them.
 * @param key the columns that tell a row from others; without it all. Rows that have nothing in them are told from none.
 * @returns their places from 0, in order: all of a kind but the first
 * @throws {Problem} where there is no column of the key's name
 */
export function duplicateRows(table: Pick<Table, 'rows' | 'columns'>, key?: readonly string[]): number[] {
  const { rows } = table;
  const columns =
    key && key.length > 0
      ? key.map((name) => {
          const column = table.columns.find((one) => one.name === name);
          if (column) return column;
          const known = table.columns.map((one) => one.name);
          throw unknownColumn(name, known, 'key');
        })
      : table.columns;
  if (columns.length === 0) return [];
  const bits = columns.map(bitsOf);
  const size = 2 ** Math.ceil(Math.log2(Math.max(4, 2 * rows)));
  const places = new Int32Array(size).fill(-1);
  const found: number[] = [];
  for (let row = 0; row < rows; row++) {
    let hash = 0;
    for (const of of bits) hash = Math.imul(hash ^ of(row), MIX) ^ (hash >>> 15);
    let place = spread(hash) & (size - 1);
    for (;;) {
      const other = places[place]!;
      if (other < 0) {
        places[place] = row;
        break;
      }
      if (columns.every((column) => isSameCell(column, other, row))) {
        if (!columns.every((column) => isBlank(column, row))) found.push(row);
        break;
      }
      place = (place + 1) & (size - 1);
    }
  }
  return found;
}

/** Columns never change, so the same ones are compared once. */
const known = new WeakMap<
  Column,
  { readonly columns: readonly Column[]; readonly key: string; readonly rows: number[] }
>();

function knownRows({ rows, columns, key }: Pick<Table, 'rows' | 'columns' | 'key'>): number[] {
  const [first] = columns;
  if (!first) return [];
  const by = JSON.stringify(key ?? null);
  const before = known.get(first);
  const isSame =
    before?.columns.length === columns.length && columns.every((column, i) => column === before.columns[i]);
  if (before && isSame && before.key === by) return before.rows;
  const found = duplicateRows({ rows, columns }, key);
  known.set(first, { columns, key: by, rows: found });
  return found;
}

/** What stands in a table already; null where nothing does. Columns that are computed or looked up follow from the others and are not looked at. */
export function duplicatesIn(
  table: Pick<Table, 'rows' | 'columns' | 'key' | 'derived' | 'joined' | 'aside'> & Lines,
): Duplicates | null {
  const read = { ...table, columns: columnsInFile(table) };
  const rows = knownRows(read);
  if (rows.length === 0) return null;
  return {
    count: rows.length,
    ...linesOf(rows.slice(0, NAMED), table),
    sums: sumsOf(read.columns, rows),
  };
}
