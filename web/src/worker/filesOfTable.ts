import type { SourceFile } from '@bold-ruler/core/reading';
import type { KnownTable, TableEntry } from '@bold-ruler/core/report';
import { isProblem } from '@bold-ruler/core/problem';
import { columnOf, type Table } from '@bold-ruler/core/table';
import { readTable, together } from '@bold-ruler/core/workspace';
import type { Files } from '@/storage/library';
import { fileFrom } from './fileFrom';
import { filesKept, filesOfTables, keptOf } from './pack';

/** The files of a table as core reads them. @param kept what the browser keeps of it */
export async function sourceFrom(entry: TableEntry, kept: Blob): Promise<SourceFile[]> {
  return [...(await filesKept(entry, kept))].map(([name, file]) => fileFrom(file, name));
}

/** A table read from its files; null where these give other rows or columns than were meant, or cannot be read in this way. */
export async function readAlike(entry: TableEntry, kept: Blob, meant: Table): Promise<Table | null> {
  try {
    const table = await readTable(entry, await sourceFrom(entry, kept));
    const isAlike =
      table.rows === meant.rows &&
      table.columns.length === meant.columns.length &&
      table.columns.every(({ name, kind }) => columnOf(meant, name)?.kind === kind);
    return isAlike ? table : null;
  } catch (error) {
    if (!isProblem(error)) throw error;
    return null;
  }
}

/**
 * Files of one layout as one table each, read as their report says from then on; with the files that tables are kept with.
 * @param taken ids that other tables have
 */
export async function gathered(
  known: readonly KnownTable[],
  files: Files,
  taken?: ReadonlySet<string>,
): Promise<{ readonly known: readonly KnownTable[]; readonly files: Files }> {
  const { groups, made } = together(known, taken);
  const read = await Promise.all(
    groups.map(async ({ joined, parts }): Promise<readonly KnownTable[]> => {
      if (!joined.entry.source.files) return [joined];
      const kept = keptOf(joined.entry, files);
      const table = kept && (await readAlike(joined.entry, kept, joined.table));
      // What is read otherwise where it is read together stays apart.
      return table ? [{ entry: joined.entry, table }] : parts;
    }),
  );
  const all = read.flat();
  const texts = [...made].map(([name, text]) => [name, new File([text], name, { type: 'text/csv' })] as const);
  return {
    known: all,
    files: filesOfTables(
      all.map(({ entry }) => entry),
      new Map([...files, ...texts]),
    ),
  };
}
