import { power, tidy } from '../number';
import { columnOf, type Table } from './column';
import { rowOnLine } from './lines';

/** What was left out for one reason, and how much stands in the rows it concerns. */
export interface LeftOutAmount {
  readonly column: string | null;
  readonly reason: string;
  readonly count: number;
  /** Sum over the rows that are in the table and lack this cell; null for what is no row, and where not all is known. */
  readonly amount: number | null;
}

/** The amounts of a number column in the rows whose cells were left out. */
export function leftOutAmounts(table: Table, of: string | null): LeftOutAmount[] {
  const number = of === null ? undefined : columnOf(table, of);
  return table.leftOutCounts.map(({ column, reason, count }) => {
    const entries = table.leftOut.filter((entry) => entry.column === column && entry.reason === reason);
    if (column === null || column === of || number?.kind !== 'number' || entries.length < count)
      return { column, reason, count, amount: null };
    let sum = 0;
    for (const { row: line, file } of entries) {
      const row = rowOnLine(line, file, table);
      const value = row === null ? NaN : number.values[row]!;
      if (!Number.isNaN(value)) sum += value;
    }
    return { column, reason, count, amount: tidy(sum / power(number.decimals ?? 0)) };
  });
}
