import { useEffect, useState } from 'react';
import type { Report } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import type { AskedValue, NumberLook } from '@bold-ruler/core/desk';
import type { Sent } from '@bold-ruler/core/problem';

/** What a measure or benchmark is now; the last answer stays until the next is there. */
export function useValue(report: Report, { measure, against, field }: AskedValue): Sent<NumberLook> | null {
  const version = useReport((state) => state.tablesVersion);
  const [answer, setAnswer] = useState<{ of: string; sent: Sent<NumberLook> } | null>(null);
  const of = `${measure}\u0000${against ?? ''}`;
  useEffect(() => {
    let current = true;
    void desk()
      .value(report, { measure, against, field })
      .then((sent) => current && setAnswer({ of, sent }));
    return () => {
      current = false;
    };
  }, [report, measure, against, field, of, version]);
  return answer?.of === of ? answer.sent : null;
}
