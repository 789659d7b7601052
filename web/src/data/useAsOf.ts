import { readIsoDay, type Day } from '@bold-ruler/core/calendar';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { useAnswer } from '@/store/useAnswer';

/** The first and the last day with data of a table's first measure; null without dates. */
export function useSpan(tableId: string | undefined): { readonly from: Day; readonly to: Day } | null {
  const version = useReport((state) => state.tablesVersion);
  const tables = useReport((state) => state.report!.tables);
  const { value: span } = useAnswer(
    [tableId, tables, version],
    tableId === undefined ? null : (now) => desk().span(now, tableId),
  );
  return span;
}

/** The day up to which a table is complete: the fixed one, or its last day with data. */
export function useAsOf(tableId: string): Day | null {
  const asOf = useReport((state) => state.report!.calendar.asOf);
  const span = useSpan(tableId);
  return asOf === 'auto' ? (span?.to ?? null) : readIsoDay(asOf);
}
