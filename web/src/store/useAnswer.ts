import { useEffect, useState } from 'react';
import { sentProblem, type Sent, type SentProblem } from '@bold-ruler/core/problem';
import type { Report } from '@bold-ruler/core/report';
import { useReport } from './reportStore';

/** What came of a question. */
export interface Answer<T> {
  /** The last answer; null before there is one, or where there is none. */
  readonly value: T | null;
  readonly problem: SentProblem | null;
  /** It answers what is asked now, not what was asked before. */
  readonly isFresh: boolean;
}

const isSame = (a: readonly unknown[], b: readonly unknown[]) =>
  a.length === b.length && a.every((one, i) => Object.is(one, b[i]));

/**
 * Asks the desk, of the report as it is, whenever what the answer rests on has changed; an answer that comes late is not taken.
 * @param of what the answer rests on
 * @param ask null asks nothing
 */
export function useAnswer<T>(of: readonly unknown[], ask: ((report: Report) => Promise<Sent<T>>) | null): Answer<T> {
  const [asked, setAsked] = useState(of);
  const [found, setFound] = useState<{ of: readonly unknown[]; sent: Sent<T> } | null>(null);
  if (!isSame(asked, of)) setAsked(of);
  const isAsking = ask !== null;
  useEffect(() => {
    const { report } = useReport.getState();
    if (!ask || !report) return;
    let current = true;
    const take = (sent: Sent<T>) => current && setFound({ of: asked, sent });
    ask(report).then(take, (error: unknown) => take({ ok: false, problem: sentProblem(error) }));
    return () => {
      current = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what it rests on is told
  }, [asked, isAsking]);
  const sent = isAsking ? found?.sent : undefined;
  return {
    value: sent?.ok ? sent.value : null,
    problem: sent && !sent.ok ? sent.problem : null,
    isFresh: sent !== undefined && found?.of === asked && isSame(asked, of),
  };
}
