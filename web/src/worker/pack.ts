import { filesOf, isInDatabase, keptAs, nameOfFiles, type Report, type TableEntry } from '@bold-ruler/core/report';
import type { Files } from '@/storage/library';

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
export async function filesKept(entry: TableEntry, kept: Blob): Promise<ReadonlyMap<string, Blob>> {
  return entry.source.files ? unpacked(kept) : new Map([[entry.source.file, kept]]);
}

/** What the browser keeps of a table: its file, or its files as one; undefined where one is not at hand. */
export function keptOf(entry: TableEntry, files: Files): Blob | undefined {
  const kept = files.get(keptAs(entry));
  if (kept) return kept;
  const own = filesOf(entry).flatMap((name) => {
    const content = files.get(name);
    return content ? [[name, content] as const] : [];
  });
  return entry.source.files?.length === own.length ? packOf(own, entry.source.file) : undefined;
}

/** The files that tables are kept with, by the name under which they are kept. */
export function filesOfTables(entries: readonly TableEntry[], files: Files): Files {
  return new Map(
    entries.flatMap((entry) => {
      const kept = isInDatabase(entry) ? undefined : keptOf(entry, files);
      return kept ? [[keptAs(entry), kept] as const] : [];
    }),
  );
}

/** The report with a table that is read from these files. */
export const readFrom = (entry: TableEntry, files: readonly string[]): TableEntry => ({
  ...entry,
  source: { ...entry.source, file: nameOfFiles(files), files },
});

/** The files of the tables of a report, each by its own name. */
export async function filesOfReport(
  report: Report,
  load: (name: string) => Promise<File | null>,
): Promise<Map<string, Blob>> {
  const all = new Map<string, Blob>();
  for (const entry of report.tables) {
    const kept = isInDatabase(entry) ? null : await load(keptAs(entry));
    if (kept) for (const [name, file] of await filesKept(entry, kept)) all.set(name, file);
  }
  return all;
}
