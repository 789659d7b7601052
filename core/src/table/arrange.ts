import { NO_DAY, type FiscalCalendar } from '../calendar';
import { cellText } from './table';
import { columnOf, type Column, type Table } from './column';
import { declaredOrder, inOrder } from './members';

/** In what order the rows of a table are looked at, and which of them. */
export interface Arrangement {
  readonly sort?: { readonly column: string; readonly down: boolean };
  /** Only rows with this in some cell; case does not matter. */
  readonly search?: string;
}

/** The rows in that order; null for all of them as they stand. Blanks come last either way, and equal rows stay as they are. */
export function arrange(table: Table, { sort, search }: Arrangement, calendar: FiscalCalendar): Uint32Array | null {
  const found = search ? rowsWith(table, search) : null;
  const column = sort && columnOf(table, sort.column);
  if (!column) return found;
  const { ranks, count } = ranksIn(column, table, calendar);
  const rows = found ?? Uint32Array.from({ length: table.rows }, (_, row) => row);
  return byRank(rows, ranks, count, sort.down);
}

/** Stable counting sort; rank 0 is blank. */
function byRank(rows: Uint32Array, ranks: Uint32Array, count: number, down: boolean): Uint32Array {
  const place = (row: number) => {
    const rank = ranks[row]!;
    return rank === 0 ? count : down ? count - rank : rank - 1;
  };
  const starts = new Uint32Array(count + 2);
  for (const row of rows) starts[place(row) + 1]!++;
  for (let i = 1; i < starts.length; i++) starts[i]! += starts[i - 1]!;
  const sorted = new Uint32Array(rows.length);
  for (const row of rows) sorted[starts[place(row)]!++] = row;
  return sorted;
}

/** For each row the place of its value among the column's different values, from 1; 0 is blank. */
function ranksIn(column: Column, table: Table, calendar: FiscalCalendar): { ranks: Uint32Array; count: number } {
  if (column.kind === 'text' || column.kind === 'yesno') {
    const ordered = inOrder(column.members.slice(1), declaredOrder(table, column.name), calendar);
    const rank = new Map(ordered.map((member, i) => [member, i + 1]));
    const ofCode = Uint32Array.from(column.members, (member, code) => (code === 0 ? 0 : rank.get(member)!));
    return { ranks: Uint32Array.from(column.codes, (code) => ofCode[code]!), count: ordered.length };
  }
  const values = column.kind === 'number' ? column.values : column.days;
  const isBlank = (value: number) => Number.isNaN(value) || (column.kind === 'date' && value === NO_DAY);
  const sorted = Float64Array.from(values).filter((value) => !isBlank(value));
  sorted.sort();
  let count = 0;
  for (let i = 0; i < sorted.length; i++) if (i === 0 || sorted[i] !== sorted[i - 1]) sorted[count++] = sorted[i]!;
  const rankOf = (value: number) => {
    if (isBlank(value)) return 0;
    let low = 0;
    let high = count;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (sorted[middle]! < value) low = middle + 1;
      else high = middle;
    }
    return low + 1;
  };
  return { ranks: Uint32Array.from(values, rankOf), count };
}

/** Rows in which some cell has the text in it. */
function rowsWith(table: Table, search: string): Uint32Array {
  const wanted = search.trim().toLowerCase();
  const hit = new Uint8Array(table.rows);
  for (const column of table.columns) {
    if (column.kind === 'text' || column.kind === 'yesno') {
      const holds = column.members.map((member) => member.toLowerCase().includes(wanted));
      if (!holds.includes(true)) continue;
      for (let row = 0; row < hit.length; row++) if (holds[column.codes[row]!]) hit[row] = 1;
    } else if (/^[-\d.,]+$/.test(wanted)) {
      const digits = wanted.replaceAll(',', '');
      const known = new Map<number, boolean>();
      const values = column.kind === 'number' ? column.values : column.days;
      for (let row = 0; row < hit.length; row++) {
        if (hit[row]) continue;
        const value = values[row]!;
        let holds = known.get(value);
        if (holds === undefined) {
          holds = cellText(column, row).includes(digits);
          if (known.size < 1_000_000) known.set(value, holds);
        }
        if (holds) hit[row] = 1;
      }
    }
  }
  const rows: number[] = [];
  for (let row = 0; row < hit.length; row++) if (hit[row]) rows.push(row);
  return Uint32Array.from(rows);
}
