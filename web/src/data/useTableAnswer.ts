import type { Report } from '@bold-ruler/core/report';
import type { Sent } from '@bold-ruler/core/problem';
import { useShallow } from 'zustand/react/shallow';
import { useReport } from '@/store/reportStore';
import { useAnswer, type Answer } from '@/store/useAnswer';

/** Asks something about the report's tables, again whenever what the report says of them, or a row, has changed. */
export function useTableAnswer<T>(of: readonly unknown[], ask: (report: Report) => Promise<Sent<T>>): Answer<T> {
  const { report, tablesVersion } = useReport(useShallow(({ report, tablesVersion }) => ({ report, tablesVersion })));
  const { tables, measures, benchmarks, calendar } = report!;
  return useAnswer([...of, tables, measures, benchmarks, calendar, tablesVersion], ask);
}
