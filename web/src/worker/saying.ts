import { changesBetween, withChanges, type Report, type ReportChanges } from '@bold-ruler/core/report';

/** A report on its way to the worker: whole the first time, then what has changed since the last. */
type Said =
  { readonly said: 'whole'; readonly report: Report } | { readonly said: 'changes'; readonly changes: ReportChanges };

const isReport = (word: unknown): word is Report => typeof word === 'object' && word !== null && 'boldRuler' in word;
const isSaid = (word: unknown): word is Said => typeof word === 'object' && word !== null && 'said' in word;

/** Puts the words of questions as they are sent. Messages arrive in the order in which they were sent. */
export function speaker(): (words: readonly unknown[]) => unknown[] {
  let last: Report | null = null;
  return ([first, ...others]) => {
    if (!isReport(first)) return [first, ...others];
    const said: Said = last
      ? { said: 'changes', changes: changesBetween(last, first) }
      : { said: 'whole', report: first };
    last = first;
    return [said, ...others];
  };
}

/** The other end: the words as they were meant. Each report shares with the one before what has not changed. */
export function listener(): (words: readonly unknown[]) => unknown[] {
  let last: Report | null = null;
  return ([first, ...others]) => {
    if (!isSaid(first)) return [first, ...others];
    last =
      first.said === 'whole' ? first.report : isUnchanged(first.changes) ? last! : withChanges(last!, first.changes);
    return [last, ...others];
  };
}

const isUnchanged = ({ parts, lists, gone }: ReportChanges) =>
  gone.length === 0 && Object.keys(parts).length === 0 && Object.keys(lists).length === 0;
