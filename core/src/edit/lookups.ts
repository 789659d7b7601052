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
