import { changesBetween, withChanges, type Report, type ReportChanges } from '@bold-ruler/core/report';

/**
 * A report on its way to the worker, by its number: whole, or what has changed since the one before; and the number of the question,
 * by which it can be left.
 */
type Said = { readonly said: number; readonly question?: number } & (
  | { readonly report: Report }
  | { readonly since: number; readonly changes: ReportChanges }
);

const isReport = (word: unknown): word is Report => typeof word === 'object' && word !== null && 'boldRuler' in word;
const isSaid = (word: unknown): word is Said => typeof word === 'object' && word !== null && 'said' in word;

/** The name of the error of a listener that has not heard what the changes are to. */
export const OUT_OF_STEP = 'OutOfStep';

export interface Speaker {
  /** The words of a question as they are sent. Messages arrive in the order in which they were sent. */
  say(words: readonly unknown[], question?: number): unknown[];
  /** The next report is said whole: a message may not have arrived. */
  startOver(): void;
}

export function speaker(): Speaker {
  let last: Report | null = null;
  let count = 0;
  return {
    say([first, ...others], question) {
      if (!isReport(first)) return [first, ...others];
      const numbers = { said: count + 1, ...(question === undefined ? {} : { question }) };
      const said: Said = last
        ? { ...numbers, since: count, changes: changesBetween(last, first) }
        : { ...numbers, report: first };
      last = first;
      count++;
      return [said, ...others];
    },
    startOver() {
      last = null;
    },
  };
}

/**
 * The other end: the words as they were meant. Each report shares with the one before what has not changed.
 * Throws an error called `OUT_OF_STEP` for changes to a report that it has not heard.
 */
export function listener(): (words: readonly unknown[]) => unknown[] {
  let last: Report | null = null;
  let heard = 0;
  return ([first, ...others]) => {
    if (!isSaid(first)) return [first, ...others];
    if ('report' in first) last = first.report;
    else if (last && first.since === heard) last = isUnchanged(first.changes) ? last : withChanges(last, first.changes);
    else throw Object.assign(new Error('these are changes to another report'), { name: OUT_OF_STEP });
    heard = first.said;
    return [last, ...others];
  };
}

/** The number of a question that can be left; null for others. */
export const questionIn = ([first]: readonly unknown[]): number | null =>
  isSaid(first) && first.question !== undefined ? first.question : null;

const isUnchanged = ({ parts, lists, gone }: ReportChanges) =>
  gone.length === 0 && Object.keys(parts).length === 0 && Object.keys(lists).length === 0;
