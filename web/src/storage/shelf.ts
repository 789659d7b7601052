import type { Report } from '@bold-ruler/core/report';
import { dropColumns } from './columns';
import { addReport, loadFiles, loadReport, loadTables } from './library';
import { stored, type BinEntry, type EarlierState, type Storage, type StoredReport } from './db';

// The shelf of reports and the bin, as the first page and the report's menu show them.

export type { BinEntry, EarlierState, StoredReport } from './db';

/** How long what was removed lies in the bin, in milliseconds. */
export const IN_BIN = 30 * 86_400_000;

/** All reports but those in the bin, the last changed first. What has lain in the bin for long enough goes. */
export async function listReports(): Promise<StoredReport[]> {
  return stored(async (db) => {
    const all = await db.reports.orderBy('changed').reverse().toArray();
    await db.transaction('rw', [db.reports, db.bin], () => markDue(db));
    for (const { id, due } of await db.reports.toArray()) if (isOver(due)) await destroy(db, id);
    await clearBin(db, ({ due }) => isOver(due));
    return all.filter(({ removed }) => removed === undefined);
  });
}

/** What has lain in the bin for long enough goes when it was seen to have so a day ago, too: a clock that was ahead for a while empties no bin. */
const A_DAY = 86_400_000;
const isOver = (due: number | undefined) => due !== undefined && due <= Date.now() - A_DAY;

/** Notes since when something has lain in the bin for long enough. */
async function markDue(db: Storage): Promise<void> {
  const now = Date.now();
  const marked = (since: number | undefined, entry: { due?: number | undefined }) => {
    const isLong = since !== undefined && since < now - IN_BIN;
    if (!isLong || (entry.due ?? 0) > now) delete entry.due;
    if (isLong) entry.due ??= now;
  };
  await db.reports.toCollection().modify((one: { removed?: number; due?: number }) => marked(one.removed, one));
  await db.bin.toCollection().modify((one: { at: number; due?: number }) => marked(one.at, one));
}

/** The reports in the bin, the last removed first. */
export async function listRemoved(): Promise<StoredReport[]> {
  const all = await stored((db) => db.reports.toArray());
  return all.filter(({ removed = 0 }) => removed > Date.now() - IN_BIN).sort((a, b) => b.removed! - a.removed!);
}

/** What was removed from a report and is not there again, the last removed first. */
export async function binOf(id: string, { figures, pages, tables }: Report): Promise<BinEntry[]> {
  const there = { figures, pages, tables };
  const all = await stored((db) => db.bin.where('report').equals(id).toArray());
  const latest = new Map<string, BinEntry>();
  for (const entry of all) {
    const known = there[entry.kind].some((one) => one.id === entry.content.id);
    if (!known && entry.at > Date.now() - IN_BIN) latest.set(`${entry.kind} ${entry.content.id}`, entry);
  }
  return [...latest.values()].sort((a, b) => b.at - a.at);
}

/** What a report was before, the latest first. */
export async function earlierStates(id: string): Promise<EarlierState[]> {
  return stored(async ({ states }) => (await states.where('report').equals(id).toArray()).reverse());
}

/** A copy under a new id. */
export async function copyReport(id: string, newId: string): Promise<void> {
  const found = await loadReport(id);
  if (!found) return;
  const { report } = found;
  await addReport(newId, { ...report, name: `${report.name} (copy)` }, await loadTables(id), await loadFiles(id));
}

/** Puts a report into the bin, with everything that belongs to it. */
export async function removeReport(id: string): Promise<void> {
  await stored((db) => db.reports.update(id, { removed: Date.now() }));
}

/** Takes a report out of the bin again. */
export async function putReportBack(id: string): Promise<void> {
  await stored((db) =>
    db.reports
      .where('id')
      .equals(id)
      .modify((found: { removed?: number }) => {
        delete found.removed;
      }),
  );
}

/** Removes all that lies in the bin for good. */
export async function emptyBin(): Promise<void> {
  await stored(async (db) => {
    for (const { id, removed } of await db.reports.toArray()) if (removed !== undefined) await destroy(db, id);
    await clearBin(db, () => true);
  });
}

/** Takes entries out of the bin for good: of tables that nothing names any more, the rows. */
async function clearBin(db: Storage, goes: (entry: BinEntry) => boolean): Promise<void> {
  await db.transaction('rw', [db.bin, db.reports, db.contents, db.earlier, db.columns, db.histories], async () => {
    const gone = (await db.bin.toArray()).filter(goes);
    const rest = (await db.bin.toArray()).filter((entry) => !goes(entry));
    for (const { report, kind, content } of gone) {
      if (kind !== 'tables') continue;
      const isNamed =
        (await db.reports.get(report))?.report?.tables?.some(({ id }) => id === content.id) ||
        rest.some((one) => one.report === report && one.kind === kind && one.content.id === content.id);
      if (isNamed) continue;
      await db.contents.delete([report, content.id]);
      await dropColumns(db, report);
      // Nothing that rests on these rows can be taken back.
      await db.histories.delete(report);
    }
    await db.bin.bulkDelete(gone.map(({ n }) => n));
  });
}

async function destroy(db: Storage, id: string): Promise<void> {
  await db.transaction(
    'rw',
    [db.reports, db.contents, db.columns, db.earlier, db.files, db.states, db.histories, db.drafts, db.bin],
    async () => {
      await db.reports.delete(id);
      await db.histories.delete(id);
      for (const table of [db.contents, db.columns, db.earlier, db.files, db.states, db.drafts, db.bin])
        await table.where('report').equals(id).delete();
    },
  );
}
