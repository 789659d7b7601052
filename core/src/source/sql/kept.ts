import { keyOfQuery, type Groups, type Query } from '../../query';

/** Groups that are kept in all. */
const MOST_KEPT = 2_000_000;

/** Answers for a while: the same question of the same look at the data is answered by them. */
export interface KeptAnswers {
  of(query: Query): Groups | null;
  keep(query: Query, answer: Groups): void;
}

/**
 * @param seconds for how long an answer is kept
 * @param now milliseconds of the clock
 */
export function keptAnswers(seconds: number, now: () => number = Date.now): KeptAnswers {
  const kept = new Map<string, { readonly answer: Groups; readonly until: number }>();
  let groups = 0;
  const drop = (key: string): void => {
    groups -= kept.get(key)?.answer.count ?? 0;
    kept.delete(key);
  };
  return {
    of(query) {
      const key = keyOfQuery(query);
      const found = kept.get(key);
      if (!found) return null;
      if (now() < found.until) return found.answer;
      drop(key);
      return null;
    },
    keep(query, answer) {
      if (seconds <= 0 || answer.count > MOST_KEPT) return;
      const key = keyOfQuery(query);
      drop(key);
      kept.set(key, { answer, until: now() + seconds * 1000 });
      groups += answer.count;
      // The oldest go first.
      for (const oldest of kept.keys()) {
        if (groups <= MOST_KEPT) break;
        drop(oldest);
      }
    },
  };
}
