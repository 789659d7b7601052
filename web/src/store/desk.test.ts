import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { Problem } from '@bold-ruler/core/problem';

// The worker that computes, as the page watches over it: signs of life, the end of what gives none, and a new beginning.

class FakeWorker extends EventTarget {
  static readonly all: FakeWorker[] = [];
  isAlive = true;
  beats = 0;
  constructor() {
    super();
    FakeWorker.all.push(this);
  }
  postMessage(message: { beat?: true }) {
    if (!message.beat) return;
    this.beats++;
    if (this.isAlive) this.dispatchEvent(new MessageEvent('message', { data: { beat: true } }));
  }
  terminate() {
    this.isAlive = false;
  }
}

/** What was asked and waits; each with its way to an answer. */
const waiting: {
  method: string;
  words: unknown[];
  answer: (value: unknown) => void;
  refuse: (error: Error) => void;
}[] = [];
vi.mock('comlink', () => ({
  wrap: () =>
    new Proxy(
      {},
      {
        get: (_, method: string) =>
          method === 'then'
            ? undefined
            : (...words: unknown[]) =>
                new Promise((answer, refuse) => {
                  waiting.push({ method, words, answer, refuse });
                }),
      },
    ),
}));

const { cancelComputing, desk, onDeskLost, useSilence } = await import('./desk');
const seconds = () => useSilence.getState().seconds;
const caught = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: unknown) => error as Problem,
  );
const report = (brief = 'net') =>
  ({ boldRuler: 1, figures: [{ id: 'a', brief }], measures: [], benchmarks: [] }) as never;

let lost = 0;
let stop = () => {};
beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval', 'performance'] });
  vi.stubGlobal('Worker', FakeWorker);
  lost = 0;
  stop = onDeskLost(() => lost++);
});
afterEach(() => {
  stop();
  cancelComputing();
  waiting.length = 0;
  vi.useRealTimers();
});

const pass = (milliseconds: number) => vi.advanceTimersByTime(milliseconds);

describe('while something is computed', () => {
  test('a worker that answers is not told of, and is not asked for a sign when nothing waits', async () => {
    const first = desk().profile(report(), 'sales');
    const worker = FakeWorker.all.at(-1)!;
    pass(8_000);
    expect([seconds(), worker.beats]).toEqual([0, 8]);
    waiting[0]!.answer('done');
    expect(await first).toBe('done');
    await new Promise(setImmediate);
    pass(30_000);
    expect(worker.beats).toBeLessThanOrEqual(9);
    expect(lost).toBe(0);
  });

  test('silence is told after five seconds, and over when there is a sign again', () => {
    void caught(desk().profile(report(), 'sales'));
    const worker = FakeWorker.all.at(-1)!;
    worker.isAlive = false;
    pass(4_000);
    expect(seconds()).toBe(0);
    pass(4_000);
    expect(seconds()).toBeGreaterThanOrEqual(6);
    worker.isAlive = true;
    pass(1_000);
    expect(seconds()).toBe(0);
  });

  test('after a minute of silence it is ended: what waits is told, and the next question has a new worker', async () => {
    const first = caught(desk().profile(report(), 'sales'));
    const second = caught(desk().check(report()));
    const worker = FakeWorker.all.at(-1)!;
    worker.isAlive = false;
    pass(65_000);
    expect((await first)!.code).toBe('too-long');
    expect((await second)!.message).toContain('ended after 6');
    expect([lost, seconds()]).toEqual([1, 0]);
    void caught(desk().profile(report(), 'sales'));
    expect(FakeWorker.all.at(-1)).not.toBe(worker);
  });

  test('it can be ended by hand', async () => {
    const first = caught(desk().profile(report(), 'sales'));
    cancelComputing();
    expect((await first)!.code).toBe('too-long');
    expect(lost).toBe(1);
  });

  test('one that stops by itself is told as that, and may be asked the same again', async () => {
    const first = caught(desk().draw(report(), 'a'));
    FakeWorker.all.at(-1)!.dispatchEvent(new Event('error'));
    expect((await first)!.code).toBe('desk-lost');
    const again = desk().draw(report(), 'a');
    waiting.at(-1)!.answer('drawn');
    expect(await again).toBe('drawn');
  });

  test('a page that slept does not count the time in which it listened to nothing', () => {
    void caught(desk().profile(report(), 'sales'));
    FakeWorker.all.at(-1)!.isAlive = false;
    pass(1_000);
    // The machine sleeps for an hour: no timer runs, then one does.
    const now = performance.now();
    vi.spyOn(performance, 'now').mockImplementation(() => now + 3_600_000);
    vi.advanceTimersToNextTimer();
    expect([seconds(), lost]).toEqual([0, 0]);
    vi.restoreAllMocks();
  });
});

test('a drawing that had to be ended is not asked again until it asks for something else', async () => {
  const first = caught(desk().draw(report('slow'), 'a'));
  cancelComputing();
  await first;
  expect((await caught(desk().draw(report('slow'), 'a')))!.code).toBe('given-up');
  const other = desk().draw(report('quick'), 'a');
  waiting.at(-1)!.answer('drawn');
  expect(await other).toBe('drawn');
  // Other questions are asked once by whoever asks, and are not held back.
  const profile = caught(desk().profile(report('slow'), 'sales'));
  cancelComputing();
  await profile;
  void caught(desk().profile(report('slow'), 'sales'));
  expect(waiting.at(-1)!.method).toBe('profile');
});

describe('what the worker is told of a report', () => {
  const named = (name: string) => Object.assign(new Error(name), { name });
  const isWhole = ({ words }: (typeof waiting)[number]) => 'report' in (words[0] as object);

  test('is the whole the first time, and what has changed from then on', () => {
    const now = report();
    for (const _ of [1, 2]) void caught(desk().profile(now, 'sales'));
    expect(waiting.map(isWhole)).toEqual([true, false]);
    // A new worker has heard nothing.
    cancelComputing();
    void caught(desk().profile(now, 'sales'));
    expect(isWhole(waiting.at(-1)!)).toBe(true);
  });

  test('is said whole once more where it could not be made out, and the question is asked again', async () => {
    const now = report();
    void caught(desk().profile(now, 'sales'));
    const second = desk().profile(now, 'goals');
    waiting[1]!.refuse(named('OutOfStep'));
    await vi.waitFor(() => expect(waiting).toHaveLength(3), { timeout: 240_000 });
    expect([isWhole(waiting[2]!), waiting[2]!.words[1]]).toEqual([true, 'goals']);
    waiting[2]!.answer('done');
    expect(await second).toBe('done');
  });

  test('is said whole the next time where a question could not be sent; other errors change nothing', async () => {
    const now = report();
    const first = caught(desk().profile(now, 'sales'));
    waiting[0]!.refuse(named('DataCloneError'));
    expect((await first)!.name).toBe('DataCloneError');
    const second = caught(desk().profile(now, 'sales'));
    expect(isWhole(waiting[1]!)).toBe(true);
    waiting[1]!.refuse(named('TypeError'));
    expect((await second)!.name).toBe('TypeError');
    void caught(desk().profile(now, 'sales'));
    expect(isWhole(waiting[2]!)).toBe(false);
  });
});
