import { readFile, shaped, type FileWish, type SourceFile } from '../reading';
import type { TableEntry } from '../report';
import { appendRows, asInFile, makeTable, type ColumnWish, type RawTable, type Table, type TableWish } from '../table';

/** How far a reading has come. */
export interface ReadingProgress {
  readonly rows: number;
  /** 0–1 */
  readonly share: number;
}

/** Reads a file of any kind into the typed table a report's entry describes, its columns called as in the file. Throws a `Problem`. */
export async function readTable(
  entry: TableEntry,
  file: SourceFile | readonly SourceFile[],
  onProgress: (progress: ReadingProgress) => void = () => {},
): Promise<Table> {
  const { file: _, files: __, ...source } = entry.source;
  const inFile = asInFile(entry);
  const wish: FileWish = { ...inFile, ...source };
  const files = Array.isArray(file) ? (file as readonly SourceFile[]) : [file as SourceFile];
  const raw =
    files.length === 1
      ? await readFile(files[0]!, wish, (rows, share = 0) => onProgress({ rows, share }))
      : await readTogether(files, wish, onProgress);
  return whole(raw, inFile);
}

/** A table with all that was read of it: what is left out can be put back. */
function whole(raw: RawTable, wish: TableWish): Table {
  const { aside, ...table } = makeTable(raw, wish);
  return aside ? { ...table, columns: raw.columns } : table;
}

/** Reads files of one layout into one table: as the first is read, the others are. */
async function readTogether(
  files: readonly SourceFile[],
  wish: FileWish,
  onProgress: (progress: ReadingProgress) => void,
): Promise<RawTable> {
  const { repeats, ...each } = wish;
  let whole: RawTable | null = null;
  for (const [i, file] of files.entries()) {
    const known: readonly ColumnWish[] = [
      ...(each.columns ?? []),
      ...(whole ? wishesOf(whole, each.columns ?? []) : []),
    ];
    const before = whole?.rows ?? 0;
    const raw = await readFile(file, { ...each, columns: known }, (rows, share = 0) =>
      onProgress({ rows: before + rows, share: (i + share) / files.length }),
    );
    whole = whole ? appendRows(whole, raw, [files[0]!.name, file.name]) : raw;
  }
  // A row may have come in two files.
  return repeats ? shaped(whole!, { columns: each.columns ?? [], repeats }, files[0]!.name) : whole!;
}

/** The kinds of columns that were read, but of those that hold nothing or of which something is said. */
function wishesOf({ columns, rows }: RawTable, said: readonly ColumnWish[]): ColumnWish[] {
  return columns.flatMap((column) => {
    if (column.blank === rows || said.some(({ name }) => name === column.name)) return [];
    return [{ name: column.name, type: column.kind, ...(column.kind === 'date' ? { read: column.read } : {}) }];
  });
}
