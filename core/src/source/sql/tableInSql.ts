import type { FiscalCalendar } from '../../calendar';
import { checkExpression, readExpression, type Columns } from '../../measure';
import { Problem } from '../../problem';
import { noField } from '../../query';
import type { TableEntry } from '../../report';
import type { ColumnKind } from '../../table';
import type { Database, DatabaseColumn } from './database';
import type { SqlDialect, Piece, SqlWriter } from './dialect';
import { pieceOf, type Leaf } from './expression';

/** A table of a report whose rows are in a database: what its columns are there. */
export interface TableInSql {
  readonly id: string;
  readonly entry: TableEntry;
  readonly database: Database;
  readonly calendar: FiscalCalendar;
  /** What stands behind `from`. */
  readonly from: string;
  /** What rows are put in order by. */
  readonly order: string;
  /** Kinds of its columns, in their order; computed ones behind the others. */
  readonly kinds: ReadonlyMap<string, ColumnKind>;
  /** A column in a statement. */
  leaf(w: SqlWriter): Leaf;
}

/** What is said of a table but cannot be done where its rows are. */
const ELSEWHERE = ['joins', 'same', 'repeats', 'leaveOut', 'long'] as const;

/** Asks a database what a table of a report is there. Throws a `Problem` where it is not what the report says. */
export async function tableInSql(entry: TableEntry, database: Database, calendar: FiscalCalendar): Promise<TableInSql> {
  const { id, source } = entry;
  const place = { in: `table “${id}”` };
  const undone = ELSEWHERE.filter((key) => entry[key] !== undefined);
  if (undone.length > 0)
    throw new Problem(
      'not-in-database',
      `“${undone[0]}” cannot be said of a table in a database`,
      place,
      'make a view of it there, or write it into “query”',
    );
  const { dialect } = database;
  const named = source.query === undefined ? tableName(source.table!, dialect) : `(${source.query}\n) as "rows"`;
  const { columns: described, order } = await database.describe(named);
  const { from, columns } = dialect.readable(named, await withDecimals(described, named, database));
  const known = wantedColumns(entry, columns, dialect.begin());
  const kinds = new Map<string, ColumnKind>();
  for (const [name, { type }] of known) kinds.set(name, type);
  const leaf =
    (w: SqlWriter): Leaf =>
    (name) => {
      const own = known.get(name);
      if (own) return own;
      const expression = computed.get(name);
      if (expression) return pieceOf(expression, leaf(w), w);
      throw noField(id, name);
    };
  const computed = new Map<string, ReturnType<typeof checkExpression>['expression']>();
  for (const { name, expression } of entry.derived ?? []) {
    const { expression: checked } = checkExpression(readExpression(expression), expression, kinds as Columns, 'rows');
    const w = dialect.begin();
    const piece = pieceOf(checked, leaf(w), w);
    known.delete(name);
    computed.set(name, checked);
    kinds.delete(name);
    kinds.set(name, piece.type);
  }
  const date = entry.date ?? null;
  if (date !== null && kinds.get(date) !== 'date')
    throw new Problem(
      'no-date',
      kinds.has(date) ? `“${date}” is no day in the database` : `there is no column “${date}”`,
      place,
      `its columns of days: ${[...kinds].flatMap(([name, kind]) => (kind === 'date' ? [name] : [])).join(', ') || 'none'}`,
    );
  const all = [...known.values()].map(({ sql }) => sql);
  return { id, entry, database, calendar, from, order: order ?? all.join(', '), kinds, leaf };
}

/** Columns of exact numbers whose type does not say their decimals have those of their values. */
async function withDecimals(
  columns: readonly DatabaseColumn[],
  from: string,
  database: Database,
): Promise<readonly DatabaseColumn[]> {
  const open = columns.filter(
    ({ kind, decimals, isInteger }) => kind === 'number' && decimals === undefined && !isInteger,
  );
  if (open.length === 0) return columns;
  const w = database.dialect.begin();
  const scales = open.map(({ name }) => w.finestDecimals(name));
  const [row] = await database.ask({ text: `select ${scales.join(', ')} from ${from}`, values: [] });
  const found = new Map(open.map(({ name }, i) => [name, Number(row![i] ?? 0)]));
  return columns.map((column) => {
    const decimals = found.get(column.name);
    return decimals === undefined ? column : { ...column, decimals };
  });
}

/** The columns as the report calls and reads them, each with its piece of a statement. */
function wantedColumns(entry: TableEntry, columns: readonly DatabaseColumn[], w: SqlWriter): Map<string, Piece> {
  const said = new Map((entry.columns ?? []).map((one) => [one.header ?? one.name, one]));
  const known = new Map<string, Piece>();
  for (const column of columns) {
    const { name = column.name, type, out } = said.get(column.name) ?? {};
    if (out || column.kind === null) continue;
    const isWhole = column.isInteger && type === 'yesno';
    if (type !== undefined && type !== column.kind && type !== 'text' && !isWhole)
      throw new Problem(
        'wrong-type',
        `“${column.name}” is ${column.kind} in the database, not ${type}`,
        { in: `table “${entry.id}”` },
        'convert it in a view, or in “query”',
      );
    known.set(name, w.column(column, type ?? null));
  }
  for (const name of said.keys())
    if (!columns.some((column) => column.name === name))
      throw new Problem(
        'unknown-column',
        `there is no column “${name}”`,
        { in: `table “${entry.id}”` },
        `its columns are ${columns.map((column) => column.name).join(', ')}`,
      );
  return known;
}

/** A table by its name, with its schema where one is told; each part in quotes. Parts that hold a point are written in quotes. */
function tableName(written: string, { quoted }: SqlDialect): string {
  const parts = [...written.matchAll(/"((?:[^"]|"")*)"|([^."]+)/g)].map(([, inQuotes, bare]) =>
    inQuotes === undefined ? bare! : inQuotes.replaceAll('""', '"'),
  );
  return parts.map(quoted).join('.');
}
