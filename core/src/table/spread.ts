import { columnOf, type Table } from './column';

/**
 * How much the members of a field differ in an amount: the standard deviation of their sums over the mean of these without their signs; 0
 * where they do not differ, or there is nothing to add up.
 */
export function spreadOf(table: Table, field: string, amount: string): number {
  const [of, values] = [columnOf(table, field), columnOf(table, amount)];
  if (of?.kind !== 'text' || values?.kind !== 'number') return 0;
  const sums = new Float64Array(of.members.length);
  const { codes } = of;
  for (let row = 0; row < table.rows; row++) {
    const value = values.values[row]!;
    if (!Number.isNaN(value)) sums[codes[row]!]! += value;
  }
  // Rows without a name are no member.
  const members = sums.subarray(1);
  const mean = members.reduce((sum, value) => sum + value, 0) / members.length;
  const size = members.reduce((sum, value) => sum + Math.abs(value), 0) / members.length;
  if (members.length < 2 || size === 0) return 0;
  const squares = members.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  return Math.sqrt(squares / members.length) / size;
}
