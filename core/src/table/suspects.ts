import { total } from '../number';
import { isBlankAt, type Table } from './column';
import { lineOf, rowOnLine, rowsOfFiles, type FileRows, type Lines } from './lines';

/** Rows that look as if they were not meant as data. */
export interface Suspects {
  /** Rows (from 0) that give a total of others. */
  readonly totals: readonly number[];
  /** Rows at the end with a single text in them, such as a source or a date of print. */
  readonly notes: readonly number[];
}

/** A cell that says nothing but that its row is a total. */
const TOTALS_WORD =
  /^(?:(?:grand|sub|overall|running)[ -]?)?totals?:?$|^(?:sum|summe|summa|somme|suma):?$|^(?:gesamt|zwischen|end)(?:summe|total)?:?$|^insgesamt:?$|^totale:?$|^totaal:?$/i;
/** A total of something that is named. */
const TOTAL_OF = /^(.+?)[\s:–-]+(?:sub-?)?totals?:?$|^(?:sub-?)?totals?(?: of| for)?[\s:–-]+(.+)$/i;
/** A year, a quarter or a month can be added up without being a member. */
const PERIOD = /^(?:fy ?)?(?:19|20)?\d{2}$|^q[1-4]\b|^(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)/i;

/** A text that says its row is a total: by itself, or of a member that is known. “Total Strings Ltd” is a name, unless there is a “Strings Ltd”. */
function saysTotal(text: string, isKnown: (member: string) => boolean): boolean {
  const trimmed = text.trim();
  if (TOTALS_WORD.test(trimmed)) return true;
  const match = TOTAL_OF.exec(trimmed);
  const of = (match?.[1] ?? match?.[2])?.trim();
  return of !== undefined && (isKnown(of) || PERIOD.test(of));
}

/** More rows than this are not looked for. */
const MOST = 1000;

/** In a table of several files, each is looked at by itself: every one may have a total below its own rows. */
export function suspectRows(table: Pick<Table, 'rows' | 'columns' | 'leftOut'> & Lines): Suspects {
  const own = rowsOfFiles(table).map((of) => ({ of, notes: notesIn(table, of) }));
  const notes = own.flatMap((one) => one.notes);
  const totals = new Set([
    ...saidTotals(table),
    ...own.flatMap((one) => sumAtEnd(table, one.of.from, one.of.to - one.notes.length - 1)),
  ]);
  return { totals: [...totals].sort((a, b) => a - b), notes: notes.filter((row) => !totals.has(row)) };
}

/** A text says “total”, in a column where few do. */
function saidTotals(table: Pick<Table, 'rows' | 'columns' | 'leftOut'> & Lines): number[] {
  const found: number[] = [];
  const few = Math.max(2, table.rows / 3);
  const members = new Set(
    table.columns.flatMap((column) => (column.kind === 'text' ? column.members.map((name) => name.toLowerCase()) : [])),
  );
  const isKnown = (member: string) => members.has(member.toLowerCase());
  for (const column of table.columns) {
    if (column.kind !== 'text') continue;
    const telling = new Set(column.members.flatMap((member, code) => (saysTotal(member, isKnown) ? [code] : [])));
    if (telling.size === 0) continue;
    const here: number[] = [];
    for (let row = 0; row < column.codes.length && here.length <= MOST; row++)
      if (telling.has(column.codes[row]!)) here.push(row);
    if (here.length <= MOST && here.length <= few) found.push(...here);
  }
  // In a column of dates or numbers the word could not be read.
  const unread = table.leftOut.filter(({ column, raw }) => column !== null && saysTotal(raw, isKnown));
  if (unread.length <= few)
    for (const { row: line, file } of unread) {
      const row = rowOnLine(line, file, table);
      if (row !== null) found.push(row);
    }
  return found;
}

/** The last row holds nothing but numbers, and one of them is the sum of all above. */
function sumAtEnd({ columns }: Pick<Table, 'columns'>, first: number, last: number): number[] {
  if (last - first < 3) return [];
  const others = columns.filter(({ kind }) => kind !== 'number');
  if (others.length === 0 || !others.every((column) => isBlankAt(column, last))) return [];
  const isSum = columns.some((column) => {
    if (column.kind !== 'number' || Number.isNaN(column.values[last]!)) return false;
    const { values, decimals } = column;
    const above = total(values.subarray(first, last), decimals === null ? null : 0);
    return above !== 0 && Math.abs(above - values[last]!) <= Math.abs(above) * 1e-9;
  });
  return isSum ? [last] : [];
}

function notesIn(table: Pick<Table, 'rows' | 'columns' | 'leftOut'> & Lines, { file, from, to }: FileRows): number[] {
  const { columns, leftOut } = table;
  const MOST_NOTES = 5;
  if (columns.length < 3 || to - from < 4) return [];
  const notes: number[] = [];
  for (let row = to - 1; row >= from + 2 && notes.length <= MOST_NOTES; row--) {
    const filled = columns.filter((column) => !isBlankAt(column, row));
    const line = lineOf(row, table);
    const unread = leftOut.filter(
      (entry) => entry.row === line && entry.column !== null && (file === null || entry.file === file),
    );
    const isNote =
      filled.length === 1 ? filled[0]!.kind === 'text' && unread.length === 0 : filled.length + unread.length === 1;
    if (!isNote) break;
    notes.unshift(row);
  }
  return notes.length > MOST_NOTES ? [] : notes;
}
