import { cellText, makeTable, type TableWish } from '../table';
import { fileOf, readFile, type FileWish } from '.';

// Files of some lines, read.

export const utf8 = (text: string) => new TextEncoder().encode(text);
export const lines = (...all: string[]) => all.join('\n');

export async function table(name: string, content: string | Uint8Array, wish: FileWish & Partial<TableWish> = {}) {
  const file = fileOf(name, typeof content === 'string' ? utf8(content) : content);
  return makeTable(await readFile(file, wish), { id: 'it', ...wish });
}

/** Each column as its kind and the texts of its typed cells. */
export async function typed(name: string, content: string | Uint8Array, wish: FileWish & Partial<TableWish> = {}) {
  const { columns, rows } = await table(name, content, wish);
  return Object.fromEntries(
    columns.map((column) => [
      column.name,
      [column.kind, ...Array.from({ length: rows }, (_, row) => cellText(column, row))],
    ]),
  );
}

/** What was left out: line, column, text, reason. */
export const left = async (name: string, content: string | Uint8Array, wish: FileWish = {}) =>
  (await table(name, content, wish)).leftOut.map(({ row, column, raw, reason }) => [row, column, raw, reason]);
