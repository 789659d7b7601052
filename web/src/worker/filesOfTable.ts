import type { SourceFile } from '@bold-ruler/core/reading';
import {
  filesOf,
  isInDatabase,
  nameOfFiles,
  type KnownTable,
  type Report,
  type TableEntry,
} from '@bold-ruler/core/report';
import { isProblem } from '@bold-ruler/core/problem';
import { readTable, together } from '@bold-ruler/core/workspace';
import type { Files } from '@/storage/library';
import { fileFrom } from './fileFrom';

// The browser keeps one file of each table. Of a table of several files that is a pack: their names and sizes, then the files as they
// are, so that a pack of large files takes no memory.

/** Bytes that say how long the list of names and sizes is. */
const LENGTH = 4;

/** Files as one, in this order. */
export function packOf(files: readonly (readonly [name: string, content: Blob])[], called: string): File {
  const list = new TextEncoder().encode(JSON.stringify(files.map(([name, { size }]) => [name, size])));
  const length = new DataView(new ArrayBuffer(LENGTH));
  length.setUint32(0, list.length);
  return new File([length.buffer, list, ...files.map(([, content]) => content)], called);
}

/** The files of a pack, by name, in their order. */
export async function unpacked(pack: Blob): Promise<Map<string, File>> {
  const length = new DataView(await pack.slice(0, LENGTH).arrayBuffer()).getUint32(0);
  const list = JSON.parse(await pack.slice(LENGTH, LENGTH + length).text()) as [string, number][];
  let at = LENGTH + length;
  return new Map(list.map(([name, size]) => [name, new File([pack.slice(at, (at += size))], name)]));
}

/** The files a table is read from, by the names its report has for them, from what the browser keeps of it. */
export async function filesKept(entry: TableEntry, kept: File): Promise<ReadonlyMap<string, File>> {
  return entry.source.files ? unpacked(kept) : new Map([[entry.source.file, kept]]);
}

/** The same as core reads them: one, or several that are one table. */
export async function sourceFrom(entry: TableEntry, kept: Blob): Promise<SourceFile | SourceFile[]> {
  if (!entry.source.files) return fileFrom(kept, entry.source.file);
  const files = await unpacked(kept);
  return entry.source.files.map((name) => fileFrom(files.get(name) ?? new Blob([]), name));
}

/** What the browser keeps of a table: its file, or its files as one; undefined where one is not at hand. */
export function keptOf(entry: TableEntry, files: Files): Blob | undefined {
  const { file } = entry.source;
  if (files.has(file)) return files.get(file);
  const own = filesOf(entry).flatMap((name) => {
    const content = files.get(name);
    return content ? [[name, content] as const] : [];
  });
  return entry.source.files?.length === own.length ? packOf(own, file) : undefined;
}

/** The files that tables are kept with, by what each is called. */
export function filesOfTables(entries: readonly TableEntry[], files: Files): Files {
  return new Map(
    entries.flatMap((entry) => {
      const kept = isInDatabase(entry) ? undefined : keptOf(entry, files);
      return kept ? [[entry.source.file, kept] as const] : [];
    }),
  );
}

/** The report with a table that is read from these files. */
export const readFrom = (entry: TableEntry, files: readonly string[]): TableEntry => ({
  ...entry,
  source: { ...entry.source, file: nameOfFiles(files), files },
});

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
        return table.rows === joined.table.rows ? [{ entry: joined.entry, table }] : parts;
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

/** The files of the tables of a report, each by its own name. */
export async function filesOfReport(
  report: Report,
  load: (file: string) => Promise<File | null>,
): Promise<Map<string, File>> {
  const all = new Map<string, File>();
  for (const entry of report.tables) {
    const kept = isInDatabase(entry) ? null : await load(entry.source.file);
    if (kept) for (const [name, file] of await filesKept(entry, kept)) all.set(name, file);
  }
  return all;
}
