import type { SourceFile } from '../reading';
import { firstBrief, reportFor, type KnownTable, type Report, type TableEntry } from '../report';
import { suspectRows } from '../table';
import { readTable, workspaceFor, type ReadingProgress } from './workspace';

/** Reads a file of which no report says anything yet: columns that are named after days to come or gone by become rows. Throws a `Problem`. */
export async function readBare(
  entry: TableEntry,
  file: SourceFile | readonly SourceFile[],
  onProgress?: (progress: ReadingProgress) => void,
): Promise<KnownTable> {
  const table = await readTable(entry, file, onProgress);
  const { wide } = table;
  if (!wide?.dated) return { entry, table };
  // Of one kind of number nothing is said but by the table's name.
  const value = wide.values.length === 1 && wide.values[0]!.name === 'value' ? { value: entry.id } : {};
  const totals = suspectRows(table).totals.length > 0 ? { leaveOut: ['totals' as const] } : {};
  const long: TableEntry = { ...entry, date: wide.name, ...totals, long: { name: wide.name, ...value } };
  return { entry: long, table: await readTable(long, file, onProgress) };
}

/**
 * A report for tables that have none, with a first figure where something can be added up.
 * @param known the table to be measured first
 */
export function bareReport(name: string, known: readonly KnownTable[]): Report {
  const report = reportFor(name, known);
  const { source } = workspaceFor(report, new Map(known.map(({ entry, table }) => [entry.id, table])));
  const brief = firstBrief(report, (table) => source.facts(table));
  return brief === null ? report : { ...report, figures: [{ id: 'f1', brief, look: {} }] };
}
