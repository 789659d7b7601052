import type { FiscalCalendar } from '../../calendar';
import { keyOfQuery, type Groups, type Query } from '../../query';
import { follows, rolledUp, rowsKey } from './rollUp';

/** Groups that are kept in all. */
const MOST_KEPT = 2_000_000;

/** Answers for a while: the same question of the same look at the data is answered by them, and one that follows from them. */
export interface KeptAnswers {
  of(query: Query): Groups | null;
  keep(query: Query, answer: Groups): void;
  clear(): void;
}

/**
 * @param seconds for how long an answer is kept
 * @param now milliseconds of the clock
 */
export function keptAnswers(seconds: number, calendar: FiscalCalendar, now: () => number = Date.now): KeptAnswers {
  const kept = new Map<string, { readonly query: Query; readonly answer: Groups; readonly until: number }>();
  /** Keys of what is kept, by the rows it is about. */
  const over = new Map<string, Set<string>>();
  let groups = 0;
  const drop = (key: string): void => {
    const found = kept.get(key);
    if (!found) return;
    groups -= found.answer.count;
    kept.delete(key);
    over.get(rowsKey(found.query))?.delete(key);
  };
  const fresh = (key: string) => {
    const found = kept.get(key);
    if (found && now() < found.until) return found;
    drop(key);
    return null;
  };
  return {
    of(query) {
      const own = fresh(keyOfQuery(query));
      if (own) return own.answer;
      for (const key of over.get(rowsKey(query)) ?? []) {
        const other = fresh(key);
        const answer = other && follows(query, other.query) && rolledUp(query, other.query, other.answer, calendar);
        if (answer) return answer;
      }
      return null;
    },
    keep(query, answer) {
      if (seconds <= 0 || answer.count > MOST_KEPT) return;
      const key = keyOfQuery(query);
      drop(key);
      kept.set(key, { query, answer, until: now() + seconds * 1000 });
      groups += answer.count;
      const rows = rowsKey(query);
      const same = over.get(rows);
      if (same) same.add(key);
      else over.set(rows, new Set([key]));
      // The oldest go first.
      for (const oldest of kept.keys()) {
        if (groups <= MOST_KEPT) break;
        drop(oldest);
      }
    },
    clear() {
      kept.clear();
      over.clear();
      groups = 0;
    },
  };
}
