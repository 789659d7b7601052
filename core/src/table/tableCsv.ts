import type { Table } from './column';
import { cellText } from './table';

/** The rows of a table as comma-separated values (RFC 4180), to be read again: every cell as it is, days as ISO 8601 has them. */
export function tableCsv({ columns, rows }: Pick<Table, 'columns' | 'rows'>): string {
  const quoted = (text: string) => (/[",\r\n]|^\s|\s$|^$/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
  const lines = [columns.map(({ name }) => quoted(name)).join(',')];
  for (let row = 0; row < rows; row++) lines.push(columns.map((column) => quoted(cellText(column, row))).join(','));
  return lines.join('\n') + '\n';
}
