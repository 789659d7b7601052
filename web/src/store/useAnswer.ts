import { sentProblem, type Sent, type SentProblem } from '@bold-ruler/core/problem';
import type { Report } from '@bold-ruler/core/report';
import { useLatest } from '@/ui/useLatest';
import { leave } from './desk';
import { useReport } from './reportStore';

/** What came of a question. */
export interface Answer<T> {
  /** The last answer; null before there is one, or where there is none. */
  readonly value: T | null;
  readonly problem: SentProblem | null;
  /** What the last answer rests on; null before there is one. */
  readonly of: readonly unknown[] | null;
  /** When it came, as milliseconds of the clock; null before. */
  readonly at: number | null;
  /** It answers what is asked now, not what was asked before. */
  readonly isFresh: boolean;
}

/** What was asked of the desk, by the answers that are waited for. */
const questions = new WeakMap<Promise<unknown>, Promise<unknown>>();

const failed = (error: unknown) => ({ ok: false, problem: sentProblem(error) }) as const;

/**
 * Asks the desk, of the report as it is, whenever what the answer rests on has changed; an answer that comes late is not taken.
 * @param of what the answer rests on
 * @param ask null asks nothing
 * @param quiet milliseconds without a change before it is asked
 */
export function useAnswer<T>(
  of: readonly unknown[],
  ask: ((report: Report) => Promise<Sent<T>>) | null,
  quiet = 0,
): Answer<T> {
  const isOpen = useReport((state) => state.report !== null);
  const { found, isFresh } = useLatest(
    of,
    // What goes wrong on the way to the desk is an answer, too.
    ask && isOpen
      ? () => {
          const asked = ask(useReport.getState().report!);
          const answer = asked.catch(failed);
          questions.set(answer, asked);
          return answer;
        }
      : null,
    { quiet, left: (answer) => leave(questions.get(answer)!) },
  );
  return {
    value: found?.value.ok ? found.value.value : null,
    problem: found && !found.value.ok ? found.value.problem : null,
    of: found?.of ?? null,
    at: found?.at ?? null,
    isFresh,
  };
}
