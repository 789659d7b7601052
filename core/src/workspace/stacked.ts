import { Problem } from '../problem';
import { filesOf, type KnownTable } from '../report';
import { codesFor, isStackable, NAMES_OF_TABLES, withHeaders, withSame, type TextColumn } from '../table';
import { fileApart, joinedRows } from './bare';

/** What the column with the tables' names is called: the first that none of them has. */
const NAMES = [NAMES_OF_TABLES, 'table', 'rows of', 'rows from'];

/** A column that holds one name in every row. */
function nameColumn(name: string, member: string, rows: number): TextColumn {
  const codes = codesFor(2, rows);
  codes.fill(1);
  return { kind: 'text', name, members: ['', member], codes, blank: 0, convention: 'text' };
}

/**
 * Tables of the same columns, such as sheets of one workbook, one under the other. Each row keeps the name of its table in a column of
 * its own, which is one more column to ask by.
 * @param tables as they were read, the table they become first
 * @param others files that have other rows: that of this table has the name of none of them
 * @throws {Problem} where a table has other columns
 */
export function stacked(
  tables: readonly KnownTable[],
  others: readonly string[] = tables.flatMap(({ entry }) => filesOf(entry)),
): KnownTable & { readonly csv: string } {
  const parts = tables.map(({ entry, table }, i): KnownTable => {
    const called = withHeaders(table, entry.columns);
    // The first table's names go on being read as others; those of the rest are taken as they are meant.
    return { entry, table: i === 0 ? called : withSame(called, entry.same) };
  });
  const first = parts[0]!;
  const odd = parts.find(({ table }) => !isStackable(first.table, table));
  if (odd)
    throw new Problem(
      'other-columns',
      `“${odd.entry.id}” has other columns than “${first.entry.id}”`,
      { in: `table “${odd.entry.id}”` },
      'put tables of the same columns together only',
    );
  const isNamed = ({ table }: KnownTable) =>
    table.columns.some(({ name, kind }) => name === NAMES[0] && kind === 'text');
  const taken = new Set(parts.flatMap(({ table }) => table.columns.map(({ name }) => name.toLowerCase())));
  const name = parts.some(isNamed)
    ? NAMES_OF_TABLES
    : (NAMES.find((one) => !taken.has(one)) ?? `${NAMES_OF_TABLES} ${parts.length}`);
  const named = parts.map(({ entry, table }): KnownTable => {
    const has = table.columns.some((column) => column.name === name);
    return {
      entry,
      table: has ? table : { ...table, columns: [nameColumn(name, entry.id, table.rows), ...table.columns] },
    };
  });
  const columns = first.entry.columns?.map(({ header: _, ...column }) => column);
  const entry = {
    ...first.entry,
    ...(columns ? { columns } : {}),
    source: { file: fileApart(first.entry.id, others) },
  };
  return joinedRows(entry, named);
}
