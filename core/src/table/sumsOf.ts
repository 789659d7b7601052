import { power, total } from '../number';
import type { Column } from './column';

/** What some rows hold in each column of numbers; a column in which they hold nothing is left out. */
export function sumsOf(columns: readonly Column[], rows: readonly number[]): Record<string, number> {
  return Object.fromEntries(
    columns.flatMap((column) => {
      if (column.kind !== 'number') return [];
      const values = Float64Array.from(rows, (row) => column.values[row]!);
      const { decimals } = column;
      const sum = decimals === null ? total(values, null) : total(values, 0) / power(decimals);
      return Number.isNaN(sum) ? [] : [[column.name, sum] as const];
    }),
  );
}
