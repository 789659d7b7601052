import type { SourceFile } from '@bold-ruler/core/reading';
import type { KnownTable, TableEntry } from '@bold-ruler/core/report';
import { isProblem } from '@bold-ruler/core/problem';
import { columnOf, type Table } from '@bold-ruler/core/table';
import { readTable, together } from '@bold-ruler/core/workspace';
import type { Files } from '@/storage/library';
import { fileFrom } from './fileFrom';
import { filesOfTables, keptOf, unpacked } from './pack';

/** The files of a table as core reads them: one, or several that are one table. @param kept what the browser keeps of it */
export async function sourceFrom(entry: TableEntry, kept: Blob): Promise<SourceFile | SourceFile[]> {
  if (!entry.source.files) return fileFrom(kept, entry.source.file);
  const files = await unpacked(kept);
  return entry.source.files.map((name) => fileFrom(files.get(name) ?? new Blob([]), name));
}

/** Whether two readings have as many rows, in columns of the same names and kinds. */
export const isAlike = (a: Table, b: Table): boolean =>
  a.rows === b.rows &&
  a.columns.length === b.columns.length &&
  a.columns.every(({ name, kind }) => columnOf(b, name)?.kind === kind);

/** Files of one layout as one table each, read as their report says from then on; with the files that tables are kept with. */
export async function gathered(
  known: readonly KnownTable[],
  files: Files,
): Promise<{ readonly known: readonly KnownTable[]; readonly files: Files }> {
  const { groups, made } = together(known);
  const read = await Promise.all(
    groups.map(async ({ joined, parts }): Promise<readonly KnownTable[]> => {
      if (!joined.entry.source.files) return [joined];
      const kept = keptOf(joined.entry, files);
      if (!kept) return parts;
      try {
        const table = await readTable(joined.entry, await sourceFrom(joined.entry, kept));
        return isAlike(table, joined.table) ? [{ entry: joined.entry, table }] : parts;
      } catch (error) {
        // What is read otherwise where it is read together stays apart.
        if (!isProblem(error)) throw error;
        return parts;
      }
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
