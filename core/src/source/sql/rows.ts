import { isoDay, type Span } from '../../calendar';
import { Problem } from '../../problem';
import type { Behind, RowsFound } from '../../query';
import { readCsv } from '../../reading';
import { makeTable, type ColumnProfile, type FieldsProfile, type Table } from '../../table';
import { conditionsOf, leafOf } from './conditions';
import { Bindings, type Statement } from './database';
import { textOf, type Piece } from './expression';
import type { Known } from './lookAt';
import type { TableInSql } from './tableInSql';

/** Rows that leave with a page. */
const MOST_CARRIED = 250_000;

/** Rows behind a number, some from a place on, in the order of their table. */
export async function rowsOf(
  table: TableInSql,
  { span, where }: Behind,
  { from, count }: { readonly from: number; readonly count: number },
): Promise<RowsFound> {
  const columns = [...table.kinds].map(([name, kind]) => ({ name, kind }));
  if (span && (table.entry.date ?? null) === null) return { rows: 0, columns, lines: [] };
  const counting = new Bindings();
  const paging = new Bindings();
  const cells = columns.map(({ name }) => `coalesce(${cellText(table.leaf(paging)(name))}, '')`);
  const limit = Number.isFinite(count) ? ` limit ${Math.max(0, Math.floor(count))}` : '';
  const [[[rows]], lines] = (await Promise.all([
    table.database.ask({
      text: `select count(*) from ${table.from}${conditionsOf(table, span, where, counting)}`,
      values: counting.values,
    }),
    table.database.ask({
      text: `select ${cells.join(', ')} from ${table.from}${conditionsOf(table, span, where, paging)} order by ${table.order}${limit} offset ${Math.max(0, Math.floor(from))}`,
      values: paging.values,
    }),
  ])) as [[[string]], (readonly string[])[]];
  return { rows: Number(rows), columns, lines };
}

/** A cell as it would be written in a file: numbers with the decimals of their column. */
function cellText(piece: Piece): string {
  if (piece.type !== 'number' || piece.decimals === null) return textOf(piece);
  return `round(${piece.sql}::numeric, ${piece.decimals})::text`;
}

/** What is known of each column. */
export async function profileOf(table: TableInSql, { facts }: Known): Promise<FieldsProfile> {
  const columns = await Promise.all([...table.kinds].map(([name]) => profileColumn(table, name)));
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

async function profileColumn(table: TableInSql, name: string): Promise<ColumnProfile> {
  const bindings = new Bindings();
  const piece = table.leaf(bindings)(name);
  const value = piece.type === 'text' ? `${piece.sql} collate "C"` : piece.type === 'yesno' ? textOf(piece) : piece.sql;
  const sum = piece.type === 'number' ? `sum(${value})` : 'null';
  const text = `select count(*) filter (where ${piece.sql} is null), count(distinct ${value}), min(${value})::text, max(${value})::text, ${sum}::text from ${table.from}`;
  const [row] = await table.database.ask({ text, values: bindings.values });
  const [blank, members, lowest, highest, total] = row!;
  const told = (of: string | null | undefined) =>
    of === null || of === undefined ? null : piece.type === 'number' ? Number(of) : of;
  return {
    name,
    type: piece.type,
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
export async function extractOf(table: TableInSql, columns: readonly string[], span: Span | null): Promise<Table> {
  const bindings = new Bindings();
  const date = table.entry.date ?? null;
  const names = [...table.kinds.keys()].filter((name) => columns.includes(name) || name === date);
  const cells = names.map((name) => `coalesce(${cellText(leafOf(table, name, bindings))}, '')`);
  const where = conditionsOf(table, span, [], bindings);
  const statement: Statement = {
    text: `select ${cells.join(', ')} from ${table.from}${where} order by ${table.order} limit ${MOST_CARRIED + 1}`,
    values: bindings.values,
  };
  const lines = (await table.database.ask(statement)) as readonly (readonly string[])[];
  if (lines.length > MOST_CARRIED)
    throw new Problem(
      'too-many-rows',
      `more than ${MOST_CARRIED.toLocaleString('en')} rows would leave with it`,
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
