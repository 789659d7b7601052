import type { Condition } from '../brief';
import type { Behind } from '../query';
import { codedField, columnOf, type Table } from '../table';

/** Which rows of a table lie behind a number, in the table's order. One row after the other is looked at. */
export function rowsBehind(table: Table, { span, where }: Behind): number[] {
  const date = table.date === null ? undefined : columnOf(table, table.date);
  const tests = where.map((condition) => testFor(table, condition));
  const found: number[] = [];
  for (let row = 0; row < table.rows; row++) {
    if (span) {
      if (date?.kind !== 'date') continue;
      const day = date.days[row]!;
      if (day < span.from || day > span.to) continue;
    }
    if (tests.every((test) => test(row))) found.push(row);
  }
  return found;
}

function testFor(table: Table, condition: Condition): (row: number) => boolean {
  const column = columnOf(table, condition.field);
  if ('value' in condition) {
    if (column?.kind !== 'number') return () => false;
    const limit = condition.value * 10 ** (column.decimals ?? 0);
    const { values } = column;
    return condition.kind === 'at least' ? (row) => values[row]! >= limit : (row) => values[row]! < limit;
  }
  if (!column) return () => false;
  const { members: names, codes } = codedField(column);
  const wanted = new Set(condition.members.map((member) => member ?? ''));
  const isIn = condition.kind === 'is';
  return (row) => wanted.has(names[codes[row]!]!) === isIn;
}
