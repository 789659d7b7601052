import { Problem } from '@bold-ruler/core/problem';

/** What goes wrong with a database, in sentences that name no address, no user and no password. */
export function faultsOf(name: string) {
  const fault = (code: string, sentence: string, remedy?: string) =>
    new Problem(code, sentence, { in: `database “${name}”` }, remedy);
  return {
    slow: (seconds: number) =>
      fault(
        'database-slow',
        `it took longer than ${seconds} ${seconds === 1 ? 'second' : 'seconds'}`,
        'choose fewer days or rows, or let it take longer where it is set up',
      ),
    noTable: (message: string) =>
      fault(
        'no-such-table',
        message || 'the table is not there',
        'correct its name in the report, or ask for it there',
      ),
    noColumn: (message: string) =>
      fault('no-such-column', message || 'a column is not there', 'open the report again: the table has changed'),
    noRight: (message: string) => fault('no-right', message || 'it may not be read', 'ask for the right to SELECT'),
    notReading: () =>
      fault('not-a-reading', 'it is only read from, and the query would change something', 'write one SELECT'),
    refuses: () =>
      fault(
        'database-refuses',
        'it does not let us in',
        'check the user, the password and the name of the database where it is set up',
      ),
    busy: () => fault('database-away', 'it takes no more questions now', 'try again in a while'),
    says: (message: string, remedy = 'correct the table or the query in the report') =>
      fault('database-says', `it says: ${message}`, remedy),
    away: () =>
      fault(
        'database-away',
        'it cannot be reached',
        'check that it runs and how it is reached where it is set up, and try again',
      ),
    incomplete: () =>
      fault(
        'database-incomplete',
        'one of the servers that hold its rows cannot be reached: its numbers would be incomplete, so none are shown',
        'try again once that server runs',
      ),
    tooMany: (rows: number) =>
      fault(
        'too-many-rows',
        `the answer has more than ${rows.toLocaleString('en')} rows`,
        'choose a field with fewer members, a coarser step or a shorter period',
      ),
    tooLarge: () =>
      fault(
        'database-small',
        'it has not memory enough for this question',
        'choose fewer days or rows; percentiles, standard deviations and counts of different members take most',
      ),
    beyond: (what: string, remedy: string) => fault('not-in-database', what, remedy),
    left: () => fault('left', 'nobody waits for the answer any more'),
  };
}

/** Rows an answer may have: more are no answer to a figure. */
export const MOST_ROWS = 2_000_000;
