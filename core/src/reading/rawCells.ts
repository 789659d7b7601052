import { lineOf, type Table } from '../table';
import { textOf } from './cell';
import type { SourceFile } from './file';
import { namesFrom } from './columnNames';
import { rawCsvRows } from './readCsv';

/** The texts of some rows as they stand in a file of delimited text, by column; null where the file does not keep places. */
export async function rawCells(
  file: SourceFile,
  table: Table,
  rows: readonly number[],
): Promise<ReadonlyMap<string, readonly string[]> | null> {
  if (!table.marks) return null;
  const header = table.firstLine - 1;
  const lines = rows.map((row) => lineOf(row, table));
  const found = await rawCsvRows(file, table.marks, [header, ...lines]);
  const names = namesFrom(found.get(header) ?? []);
  return new Map(names.map((name, c) => [name, lines.map((line) => textOf(found.get(line)?.[c] ?? ''))]));
}
