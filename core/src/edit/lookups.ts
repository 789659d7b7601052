import type { Joining } from '../table';
import type { ReportDraft } from './edit';

/** Lets a table look up in another one; the same lookup is there once. */
export function addLookup(draft: ReportDraft, table: string, join: Joining): void {
  const entry = draft.tables.find(({ id }) => id === table);
  if (!entry || !draft.tables.some(({ id }) => id === join.to)) return;
  const others = (entry.joins ?? []).filter(
    ({ to, columns }) => to !== join.to || columns.join('\n') !== join.columns.join('\n'),
  );
  entry.joins = [...others, structuredClone(join) as (typeof others)[number]];
}

/** Takes lookups away from a table. */
export function dropLookups(entry: ReportDraft['tables'][number], isGone: (join: Joining) => boolean): void {
  if (!entry.joins?.some(isGone)) return;
  const left = entry.joins.filter((join) => !isGone(join));
  if (left.length > 0) entry.joins = left;
  else delete entry.joins;
}
