import type { Column, RawNames } from './column';

/** What a report says of a column that its file calls otherwise. */
interface Called {
  readonly name: string;
  readonly header?: string;
}

/** What a report says of a table, as far as it names columns. */
interface Naming<C extends Called> {
  readonly columns?: readonly C[];
  readonly date?: string | null;
  readonly repeats?: { readonly by: 'row' | readonly string[] };
}

/** The same with columns called as the file calls them, for whoever reads it. */
export function asInFile<C extends Called & { readonly orderBy?: string }, W extends Naming<C>>(wish: W): W {
  const headers = new Map(wish.columns?.flatMap(({ name, header }) => (header === undefined ? [] : [[name, header]])));
  if (headers.size === 0) return wish;
  const inFile = (name: string) => headers.get(name) ?? name;
  const { columns, date, repeats } = wish;
  return {
    ...wish,
    columns: columns!.map(({ header: _, ...column }) => ({
      ...column,
      name: inFile(column.name),
      ...(column.orderBy === undefined ? {} : { orderBy: inFile(column.orderBy) }),
    })),
    ...(date ? { date: inFile(date) } : {}),
    ...(repeats && repeats.by !== 'row' ? { repeats: { ...repeats, by: repeats.by.map(inFile) } } : {}),
  };
}

/** A table as it was read, with its columns called as the report calls them. */
export function withHeaders<T extends RawNames & { readonly date?: string | null }>(
  table: T,
  columns: readonly Called[] | undefined,
): T {
  const there = new Set(table.columns.map(({ name }) => name));
  const names = new Map(
    columns?.flatMap(({ name, header }) =>
      header !== undefined && there.has(header) && !there.has(name) ? [[header, name] as const] : [],
    ),
  );
  if (names.size === 0) return table;
  const called = (name: string) => names.get(name) ?? name;
  const ofColumn = <E extends { readonly column: string | null }>(entry: E): E =>
    entry.column === null ? entry : { ...entry, column: called(entry.column) };
  return {
    ...table,
    ...(table.date ? { date: called(table.date) } : {}),
    columns: table.columns.map((column): Column =>
      names.has(column.name) ? { ...column, name: called(column.name) } : column,
    ),
    leftOut: table.leftOut.map(ofColumn),
    leftOutCounts: table.leftOutCounts.map(ofColumn),
    doubts: table.doubts.map((doubt) => ({ ...doubt, column: called(doubt.column) })),
  };
}
