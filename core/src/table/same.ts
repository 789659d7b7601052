import type { Column, Table } from './column';
import { codesFor } from './column';

/** Members of a column that are read as another one: what the file says, and what is meant. */
export type Same = Readonly<Record<string, Readonly<Record<string, string>>>>;

/** What a member is read as, however many steps that takes; a ring of names stays as it is written. */
function meant(member: string, of: Readonly<Record<string, string>>): string {
  const seen = new Set<string>();
  let now = member;
  while (Object.hasOwn(of, now) && !seen.has(now)) {
    seen.add(now);
    now = of[now]!;
  }
  return seen.has(now) ? member : now;
}

/** The column with members read as others. A name that no row holds changes nothing; one that is read as nothing is blank. */
function merged(column: Column, of: Readonly<Record<string, string>>): Column {
  if (column.kind !== 'text') return column;
  const names = column.members.map((member, code) => (code === 0 ? '' : meant(member, of)));
  if (names.every((name, code) => name === column.members[code])) return column;
  const members = [''];
  const codeOf = new Map([['', 0]]);
  // Who is called so in the file keeps its place; who is only meant comes behind.
  for (const name of [...column.members.filter((member, code) => names[code] === member), ...names])
    if (!codeOf.has(name)) codeOf.set(name, members.push(name) - 1);
  const codeTo = names.map((name) => codeOf.get(name)!);
  const codes = codesFor(members.length, column.codes.length);
  let blank = 0;
  for (let row = 0; row < codes.length; row++) if ((codes[row] = codeTo[column.codes[row]!]!) === 0) blank++;
  return { ...column, members, codes, blank };
}

/**
 * The table with members read as others, before anything else is made of it. Columns that are not there or hold no text are left
 * alone, so that the map of names holds for files to come.
 */
export function withSame<T extends Pick<Table, 'columns'>>(table: T, same: Same | undefined): T {
  if (!same || Object.keys(same).length === 0) return table;
  const columns = table.columns.map((column) =>
    Object.hasOwn(same, column.name) ? merged(column, same[column.name]!) : column,
  );
  return { ...table, columns };
}
