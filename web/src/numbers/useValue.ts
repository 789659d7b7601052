import type { Report } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { useAnswer, type Answer } from '@/store/useAnswer';
import type { AskedValue, NumberLook } from '@bold-ruler/core/desk';

/** What a measure or benchmark is now; the last answer stays until the next is there. Null before there is one. */
export function useValue(report: Report, { measure, against, field }: AskedValue): Answer<NumberLook> | null {
  const version = useReport((state) => state.tablesVersion);
  const answer = useAnswer([measure, against, field, report, version], () =>
    desk().value(report, { measure, against, field }),
  );
  return answer.of?.[0] === measure && answer.of[1] === against ? answer : null;
}
