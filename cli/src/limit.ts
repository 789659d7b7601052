import { Worker } from 'node:worker_threads';
import { Problem } from '@bold-ruler/core/problem';

/** Seconds a command may take when nothing else is said. */
const SECONDS = 600;

/** Waits beside the work, which may keep its own thread busy, and ends the process when the time is over. */
const WATCH = `
  const { workerData } = require('node:worker_threads');
  const { writeSync } = require('node:fs');
  setTimeout(() => {
    writeSync(2, workerData.message);
    process.kill(process.pid, 'SIGKILL');
  }, workerData.milliseconds);
`;

/**
 * Ends this process after some seconds, whatever it does then: `BOLD_RULER_TIME` says how many, 0 is without a limit.
 * Throws a `Problem` where that is no number. What is given back ends the watch.
 */
export function limitTime(said: string | undefined): () => void {
  const seconds = said === undefined || said === '' ? SECONDS : Number(said);
  if (!(seconds >= 0))
    throw new Problem(
      'usage',
      `BOLD_RULER_TIME is “${said}”`,
      undefined,
      'give it a number of seconds, or 0 for no limit',
    );
  if (seconds === 0 || seconds > 2_000_000) return () => {};
  const watch = new Worker(WATCH, {
    eval: true,
    workerData: {
      milliseconds: seconds * 1000,
      message: `bold-ruler: it was ended after ${seconds} seconds — ask for less, or set BOLD_RULER_TIME to more of them (0 is without a limit).\n`,
    },
  });
  watch.unref();
  return () => void watch.terminate();
}
