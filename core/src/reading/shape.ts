import {
  ASIDE,
  cellText,
  columnAt,
  duplicateRows,
  fileOfRow,
  keyOf,
  LEFT_OUT_KEPT,
  lineOf,
  partsLeft,
  suspectRows,
  TWICE,
  type ColumnWish,
  type LeftOut,
  type LeftOutCount,
  type RawTable,
  type Repeats,
} from '../table';
import { decide } from './evidence';
import { evidenceOf } from './evidence';
import { retype } from './retype';
import { madeLong, wideIn, type LongWish } from './wide';

/** What a report says of how rows are made of a file. */
export interface FileShape {
  readonly columns?: readonly ColumnWish[];
  /** Rows that look like totals or notes are left out. */
  readonly leaveOut?: readonly ('totals' | 'notes')[];
  readonly repeats?: Repeats;
  /** Columns named after periods become rows. */
  readonly long?: LongWish;
}

/** The table as the report wants it shaped. Throws a `Problem` where it cannot be. */
export function shaped(
  raw: RawTable,
  { columns = [], leaveOut = [], repeats, long }: FileShape,
  file: string,
): RawTable {
  let table = raw;
  if (leaveOut.length > 0) {
    const { totals, notes } = suspectRows(raw);
    const reasons = new Map<number, string>();
    if (leaveOut.includes('totals')) for (const row of totals) reasons.set(row, ASIDE.total);
    if (leaveOut.includes('notes')) for (const row of notes) reasons.set(row, ASIDE.note);
    table = without(raw, reasons, columns);
  }
  // Of what is left.
  if (repeats && repeats.keep !== 'all')
    table = without(table, new Map(duplicateRows(table, keyOf(repeats)).map((row) => [row, TWICE])), columns);
  return long ? madeLong(table, long, file) : { ...table, wide: wideIn(table) };
}

/** The table without some rows, which are kept as left out. */
function without(raw: RawTable, reasons: ReadonlyMap<number, string>, wishes: readonly ColumnWish[]): RawTable {
  if (reasons.size === 0) return raw;
  const kept = new Uint32Array(raw.rows - reasons.size);
  let at = 0;
  for (let row = 0; row < raw.rows; row++) if (!reasons.has(row)) kept[at++] = row;
  const placeOf = (row: number) => {
    const file = fileOfRow(row, raw);
    return { row: lineOf(row, raw), ...(file === null ? {} : { file }) };
  };
  const parts = partsLeft(raw, kept);
  const gone: LeftOut[] = [...reasons].map(([row, reason]) => ({
    ...placeOf(row),
    column: null,
    raw: raw.columns
      .map((column) => cellText(column, row))
      .filter((text) => text !== '')
      .join(' · ')
      .slice(0, 200),
    reason,
  }));
  const key = ({ row, file }: Pick<LeftOut, 'row' | 'file'>) => `${row} ${file ?? ''}`;
  const lines = new Set(gone.map(key));
  // What could not be read in such a row is no loss of its own.
  const leftOut = [...raw.leftOut.filter((entry) => entry.column === null || !lines.has(key(entry))), ...gone];
  const counts = new Map<string, LeftOutCount>();
  const why = ({ column, reason }: Pick<LeftOut, 'column' | 'reason'>) => JSON.stringify([column, reason]);
  for (const count of raw.leftOutCounts) counts.set(why(count), { ...count });
  for (const entry of raw.leftOut) if (entry.column !== null && lines.has(key(entry))) counts.get(why(entry))!.count--;
  for (const { column, reason } of gone) {
    const known = counts.get(why({ column, reason }));
    if (known) known.count++;
    else counts.set(why({ column, reason }), { column, reason, count: 1 });
  }
  // A column may have been text only for what stood in these rows.
  const header = raw.columns.map(({ name }) => name);
  const doubts = [...raw.doubts];
  const columns = raw.columns.map((column) => {
    const left = columnAt(column, kept);
    if (left.kind !== 'text' || wishes.some(({ name, type }) => name === left.name && type !== undefined)) return left;
    const reading = decide(evidenceOf(left), { name: left.name, header });
    if (reading.kind === 'text') return left;
    const found = retype(left, reading);
    if (found.unread.length > 0) return left;
    if (found.doubt && !found.settled) doubts.push({ column: left.name, ...found.doubt });
    return found.column;
  });
  return {
    ...raw,
    rows: kept.length,
    ...(parts ? { parts } : {}),
    columns,
    leftOut: (parts ? leftOut : leftOut.sort((a, b) => a.row - b.row)).slice(0, LEFT_OUT_KEPT),
    leftOutCounts: [...counts.values()].filter(({ count }) => count > 0),
    doubts,
    // Of rows that know their lines none has to be counted.
    ...(raw.lines
      ? { lines: raw.lines.filter((_, row) => !reasons.has(row)) }
      : { skipped: [...raw.skipped, ...gone.map(({ row }) => row)].sort((a, b) => a - b) }),
  };
}
