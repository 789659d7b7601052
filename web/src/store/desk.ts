import { wrap, type Remote } from 'comlink';
import { create } from 'zustand';
import { Problem } from '@bold-ruler/core/problem';
import type { Report } from '@bold-ruler/core/report';
import type { DeskApi } from '@/worker/desk.worker';
import { OUT_OF_STEP, speaker } from '@/worker/saying';

/** For how many seconds the part that computes has given no sign of life; 0 while it does. */
export const useSilence = create<{ readonly seconds: number }>(() => ({ seconds: 0 }));

/** Milliseconds between two signs of life, after how many without one that is told, and after how many it is ended. */
const BEAT = 1_000;
const TOLD = 5_000;
const ENDED = 60_000;

let running: {
  readonly remote: Remote<DeskApi>;
  end(problem: Problem): void;
  leave(answer: Promise<unknown>): void;
} | null = null;
const listeners = new Set<() => void>();
/** What was asked when it had to be ended: it is not asked again. */
const givenUp = new Set<string>();

/** The worker that holds the open report's tables and computes its figures. It is started anew if it should stop. */
export function desk(): Remote<DeskApi> {
  running ??= start();
  return running.remote;
}

/** Nobody waits for an answer any more: what it asks of databases ends. */
export function leave(answer: Promise<unknown>): void {
  running?.leave(answer);
}

/** Tells when the worker has stopped; the next `desk()` is a new one, with no report open. */
export function onDeskLost(listen: () => void): () => void {
  listeners.add(listen);
  return () => listeners.delete(listen);
}

const LOST = () =>
  new Problem(
    'desk-lost',
    'the part that computes has stopped and was started again',
    undefined,
    'do it once more; nothing that was saved is lost',
  );

const TOO_LONG = (seconds: number) =>
  new Problem(
    'too-long',
    `it was ended after ${seconds} seconds`,
    undefined,
    'ask for less: fewer steps or members, or a simpler expression',
  );

/** Ends what is being computed. */
export function cancelComputing(): void {
  running?.end(TOO_LONG(useSilence.getState().seconds));
}

/**
 * What tells one drawing from another: its figure and what that may rest on, so that it is not asked again for a change elsewhere.
 * Null for other questions, which are asked once by whoever asks.
 */
function questionOf(method: string, words: readonly unknown[]): string | null {
  if (method !== 'draw') return null;
  const [{ figures, measures, benchmarks }, figureId] = words as [Report, string];
  return JSON.stringify([figures.find(({ id }) => id === figureId), measures, benchmarks]);
}

function start(): NonNullable<typeof running> {
  const worker = new Worker(new URL('../worker/desk.worker.ts', import.meta.url), { type: 'module' });
  const plain = wrap<DeskApi>(worker);
  const { say, startOver } = speaker();
  /** Asks; what never arrived, or could not be made out, is said whole the next time, and then asked once more. */
  const ask = async (
    method: (...words: unknown[]) => Promise<unknown>,
    words: readonly unknown[],
    question: number,
  ) => {
    try {
      return await method(...say(words, question));
    } catch (error) {
      const name = (error as Error | null)?.name;
      if (name !== OUT_OF_STEP && name !== 'DataCloneError') throw error;
      startOver();
      if (name !== OUT_OF_STEP) throw error;
      return method(...say(words, question));
    }
  };
  let questions = 0;
  /** Questions that wait for their answers, by these. */
  const asking = new WeakMap<Promise<unknown>, number>();
  /** What waits for an answer, the first asked first; it is computed in that order. */
  const waiting = new Map<(problem: Problem) => void, () => string | null>();
  /** Milliseconds without a sign of life, as far as this page was awake to listen, and when it last looked. */
  let silent = 0;
  let looked = performance.now();
  let beat: ReturnType<typeof setInterval> | null = null;

  const end = (problem: Problem) => {
    if (beat) clearInterval(beat);
    worker.terminate();
    if (problem.code === 'too-long') {
      const [first] = waiting.values();
      const question = first?.() ?? null;
      if (question !== null) givenUp.add(question);
    }
    running = null;
    useSilence.setState({ seconds: 0 });
    for (const reject of waiting.keys()) reject(problem);
    for (const listen of listeners) listen();
  };
  const look = () => {
    if (waiting.size === 0) {
      clearInterval(beat!);
      beat = null;
      return;
    }
    worker.postMessage({ beat: true });
    // In a tab that is not seen, and while the machine sleeps, looks are far apart: that is no silence.
    const now = performance.now();
    silent += Math.min(now - looked, 2 * BEAT);
    looked = now;
    const seconds = Math.floor(silent / 1000);
    if (silent > ENDED) end(TOO_LONG(seconds));
    else if (silent > TOLD) useSilence.setState({ seconds });
  };
  worker.addEventListener('message', () => {
    silent = 0;
    if (useSilence.getState().seconds > 0) useSilence.setState({ seconds: 0 });
  });
  worker.addEventListener('error', () => end(LOST()));

  const remote = new Proxy(plain, {
    get(target, key) {
      const method: unknown = Reflect.get(target, key);
      if (typeof key !== 'string' || key === 'then' || typeof method !== 'function') return method;
      return (...words: unknown[]) => {
        const question = ++questions;
        const answer = new Promise((resolve, reject) => {
          const same = givenUp.size > 0 ? questionOf(key, words) : null;
          if (same !== null && givenUp.has(same))
            return reject(
              new Problem(
                'given-up',
                'it took too long before',
                undefined,
                'change what it asks for, and it is tried again',
              ),
            );
          if (beat === null) {
            silent = 0;
            looked = performance.now();
            beat = setInterval(look, BEAT);
          }
          waiting.set(reject, () => questionOf(key, words));
          ask(method as (...words: unknown[]) => Promise<unknown>, words, question)
            .then(resolve, reject)
            .finally(() => {
              waiting.delete(reject);
              asking.delete(answer);
            });
        });
        asking.set(answer, question);
        return answer;
      };
    },
  });
  const leave = (answer: Promise<unknown>) => {
    const question = asking.get(answer);
    if (question !== undefined) worker.postMessage({ leave: question });
  };
  return { remote, end, leave };
}
