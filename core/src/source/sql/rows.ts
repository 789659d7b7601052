import { isoDay, type Span } from '../../calendar';
import { Problem, thousands } from '../../problem';
import type { Behind, RowsFound } from '../../query';
import { readCsv } from '../../reading';
import { makeTable, type ColumnProfile, type FieldsProfile, type Table } from '../../table';
import { conditionsOf, leafOf } from './conditions';
import type { Statement } from './database';
import type { Piece, SqlWriter } from './dialect';
import { textOf } from './expression';
import type { Known } from './lookAt';
import type { TableInSql } from './tableInSql';

/** Rows that leave with a page. */
const MOST_CARRIED = 250_000;

/** Rows behind a number, some from a place on, in the order of their table. */
export async function rowsOf(
  table: TableInSql,
  { span, where }: Behind,
  { from, count }: { readonly from: number; readonly count: number },
  signal?: AbortSignal,
): Promise<RowsFound> {
  const columns = [...table.kinds].map(([name, kind]) => ({ name, kind }));
  if (span && (table.entry.date ?? null) === null) return { rows: 0, columns, lines: [] };
  const counting = table.database.dialect.begin();
  const paging = table.database.dialect.begin();
  const cells = columns.map(({ name }) => `coalesce(${cellText(table.leaf(paging)(name), paging)}, '')`);
  const [[[rows]], lines] = (await Promise.all([
    table.database.ask(
      {
        text: `select count(*) from ${table.from}${conditionsOf(table, span, where, counting)}`,
        values: counting.values,
      },
      signal,
    ),
    table.database.ask(
      {
        text: `select ${cells.join(', ')} from ${table.from}${conditionsOf(table, span, where, paging)} order by ${table.order}${paging.page(Math.max(0, count), Math.max(0, from))}`,
        values: paging.values,
      },
      signal,
    ),
  ])) as [[[string]], (readonly string[])[]];
  return { rows: Number(rows), columns, lines };
}

/** A cell as it would be written in a file: numbers with the decimals of their column. */
function cellText(piece: Piece, w: SqlWriter): string {
  if (piece.type !== 'number' || piece.decimals === null) return textOf(piece, w);
  return w.withDecimals(piece, piece.decimals);
}

/** What is known of each column. */
export async function profileOf(table: TableInSql, { facts }: Known, signal?: AbortSignal): Promise<FieldsProfile> {
  const columns = await Promise.all([...table.kinds].map(([name]) => profileColumn(table, name, signal)));
  return {
    file: table.entry.source.file,
    rows: facts.rows,
    date: facts.date,
    grain: facts.grain,
    from: facts.span && isoDay(facts.span.from),
    to: facts.span && isoDay(facts.span.to),
    columns,
    leftOut: [],
    leftOutCounts: [],
    totalsRows: [],
    noteRows: [],
    emptyLines: 0,
    doubts: [],
    wide: null,
  };
}

/** Of all rows. */
const ALL = { distinct: false, filter: null, p: null } as const;

async function profileColumn(table: TableInSql, name: string, signal?: AbortSignal): Promise<ColumnProfile> {
  const w = table.database.dialect.begin();
  const own = table.leaf(w)(name);
  const piece: Piece = own.type === 'yesno' ? { sql: textOf(own, w), type: 'text', decimals: 0 } : own;
  const of = (fn: 'min' | 'max' | 'sum') => {
    const sql = w.aggregate(fn, piece.type === 'text' ? { ...piece, sql: w.ordered(piece.sql) } : piece, ALL);
    return textOf({ sql, type: piece.type, decimals: piece.decimals }, w);
  };
  const cells = [
    w.aggregate('count', null, { ...ALL, filter: `${piece.sql} is null` }),
    w.aggregate('count', piece, { ...ALL, distinct: true }),
    of('min'),
    of('max'),
    piece.type === 'number' ? of('sum') : 'null',
  ];
  const statement = { text: `select ${cells.join(', ')} from ${table.from}`, values: w.values };
  const [row] = await table.database.ask(statement, signal);
  const [blank, members, lowest, highest, total] = row!;
  const told = (of: string | null | undefined) =>
    of === null || of === undefined ? null : piece.type === 'number' ? Number(of) : of;
  return {
    name,
    type: own.type,
    convention: '',
    blank: Number(blank),
    unread: 0,
    members: Number(members),
    lowest: told(lowest),
    highest: told(highest),
    ...(total === null || total === undefined ? {} : { sum: Number(total) }),
  };
}

const csvOf = (lines: readonly (readonly string[])[]): string =>
  lines.map((line) => line.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(',')).join('\n');

/** Rows as typed columns, for a page that takes them along. */
export async function extractOf(
  table: TableInSql,
  columns: readonly string[],
  span: Span | null,
  signal?: AbortSignal,
): Promise<Table> {
  const w = table.database.dialect.begin();
  const date = table.entry.date ?? null;
  const names = [...table.kinds.keys()].filter((name) => columns.includes(name) || name === date);
  const cells = names.map((name) => `coalesce(${cellText(leafOf(table, name, w), w)}, '')`);
  const where = conditionsOf(table, span, [], w);
  const statement: Statement = {
    text: `select ${cells.join(', ')} from ${table.from}${where} order by ${table.order}${w.page(MOST_CARRIED + 1, 0)}`,
    values: w.values,
  };
  const lines = (await table.database.ask(statement, signal)) as readonly (readonly string[])[];
  if (lines.length > MOST_CARRIED)
    throw new Problem(
      'too-many-rows',
      `more than ${thousands(MOST_CARRIED)} rows would leave with it`,
      { in: `table “${table.id}”` },
      'choose fewer days, or let the page stay as it is drawn',
    );
  const types = names.map((name) => ({
    name,
    type: table.kinds.get(name)!,
    ...(table.kinds.get(name) === 'date' ? { read: 'yyyy-MM-dd' } : {}),
  }));
  const raw = await readCsv(table.id, csvOf([names, ...lines]), types);
  const { entry } = table;
  return makeTable(raw, { id: table.id, date, ...(entry.grain ? { grain: entry.grain } : {}), columns: types });
}
