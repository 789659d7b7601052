import type { SentProblem } from '@bold-ruler/core/problem';
import { clockTime } from './clock';

/** What keeps a question from being answered though nothing is wrong with it: what was drawn before still holds, of its time. */
const AWAY = /^(?:database-|server-away$|no-such-table$|no-such-column$|no-right$)/;

/** A problem in words, and since when what stays on the paper is as it is; null at where nothing stays. */
export function problemWords({ code, message }: SentProblem, at: number | null): string {
  return at !== null && AWAY.test(code) ? `${message} What is shown is of ${clockTime(at)}.` : message;
}
