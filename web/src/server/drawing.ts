import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { SentRequest } from './wish';

export interface DrawnFile {
  readonly type: string;
  readonly body: string | Uint8Array;
  /** The body is the SVG of a PNG that is wanted at this scale. */
  readonly scale?: number;
}

export interface Refusal {
  readonly code: string;
  readonly message: string;
  readonly place: unknown;
  readonly remedy: string | null;
}

export const LIMITS = {
  /** Bytes of a request's body, and of all that are being read. */
  body: 64_000_000,
  beingRead: 256_000_000,
  /** Milliseconds for sending a body, and for its drawing, waiting not counted. */
  sending: 30_000,
  time: 20_000,
  /** Drawings at a time, and how many may wait. */
  atOnce: 2,
  waiting: 16,
  /** A drawing that takes longer makes way for others: so many such go on beside them, more are asked to come again. */
  quick: 1_500,
  slow: 2,
  /** Megabytes of memory for each. */
  memory: 1024,
} as const;

/** A status and what is wrong. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly refusal: Refusal,
  ) {
    super(refusal.message);
  }
}

export const refused = (status: number, code: string, message: string, remedy: string | null = null) =>
  new Refused(status, { code, message, place: null, remedy });

let quick = 0;
let slow = 0;
const waiting: (() => void)[] = [];

const busy = () => refused(503, 'busy', 'too many drawings are waiting', 'ask again in a few seconds');

async function turn(): Promise<void> {
  if (quick < LIMITS.atOnce) {
    quick += 1;
    return;
  }
  if (waiting.length >= LIMITS.waiting) throw busy();
  await new Promise<void>((resolve) => waiting.push(resolve));
}

/** A quick place is free: the next has it. */
function next(): void {
  const first = waiting.shift();
  if (first) first();
  else quick -= 1;
}

const STATUS: Readonly<Record<string, number>> = {
  'broken-json': 400,
  'odd-shape': 400,
  'wrong-request': 400,
  'unknown-figure': 404,
  unforeseen: 500,
};

/**
 * Draws in a thread of its own, which is ended when it takes too long or too much. One that takes longer than most gives its
 * place to those that wait, so that a few slow ones hold up nobody. Throws what is `Refused`.
 */
export async function drawInTurn(sent: SentRequest): Promise<DrawnFile> {
  await turn();
  const stop = new AbortController();
  let isSlow = false;
  const timer = setTimeout(() => {
    if (slow >= LIMITS.slow) return stop.abort(busy());
    isSlow = true;
    slow += 1;
    next();
  }, LIMITS.quick);
  const end = setTimeout(
    () => stop.abort(refused(504, 'too-slow', `it took longer than ${LIMITS.time / 1000} seconds`, 'send fewer rows')),
    LIMITS.time,
  );
  try {
    const drawn = await inThread(sent, stop.signal);
    return drawn.scale === undefined ? drawn : await asPng(drawn.body as string, drawn.scale, stop.signal);
  } finally {
    clearTimeout(timer);
    clearTimeout(end);
    if (isSlow) slow -= 1;
    else next();
  }
}

/** The picture is made in a process of its own: native code in a thread cannot be ended. */
function asPng(svg: string, scale: number, stop: AbortSignal): Promise<DrawnFile> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [join(process.cwd(), 'server/png.mjs'), String(scale)], {
      stdio: ['pipe', 'pipe', 'ignore'],
    });
    const parts: Buffer[] = [];
    const onStop = () => {
      child.kill('SIGKILL');
      reject(stop.reason as Refused);
    };
    stop.addEventListener('abort', onStop);
    child.stdout.on('data', (part: Buffer) => parts.push(part));
    child.stdin.on('error', () => {});
    child.on('error', () => reject(refused(500, 'unforeseen', 'something unforeseen went wrong')));
    child.on('close', (code) => {
      stop.removeEventListener('abort', onStop);
      if (code === 0) resolve({ type: 'image/png', body: new Uint8Array(Buffer.concat(parts)) });
      else reject(refused(500, 'unforeseen', 'something unforeseen went wrong'));
    });
    child.stdin.end(svg);
  });
}

type Answer = { readonly ok: true; readonly value: DrawnFile } | { readonly ok: false; readonly problem: Refusal };

/** A thread that draws one thing after another: one that has drawn before draws faster. */
class Thread {
  private drawn = 0;
  private answer: ((answer: Answer) => void) | null = null;
  private fail: ((error: Error & { code?: string }) => void) | null = null;
  private readonly worker = new Worker(new URL('./drawing.worker.ts', import.meta.url), {
    resourceLimits: { maxOldGenerationSizeMb: LIMITS.memory },
  });

  constructor() {
    this.worker.on('message', (answer: Answer) => this.answer?.(answer));
    this.worker.on('error', (error: Error) => {
      idle.delete(this);
      this.fail?.(error);
    });
    this.worker.on('exit', () => idle.delete(this));
  }

  draw(sent: SentRequest): Promise<Answer> {
    return new Promise((resolve, reject) => {
      [this.answer, this.fail] = [resolve, reject];
      this.worker.postMessage(sent, [sent.bytes.buffer as ArrayBuffer]);
    });
  }

  /** Waits for the next drawing, or ends after many. */
  rest(): void {
    this.drawn += 1;
    if (this.drawn < MOST_DRAWN && idle.size < LIMITS.atOnce) idle.add(this);
    else this.end();
  }

  end(): void {
    void this.worker.terminate();
  }
}

/** Threads that have nothing to do. */
const idle = new Set<Thread>();
/** A thread is replaced after so many drawings. */
const MOST_DRAWN = 100;

async function inThread(sent: SentRequest, stop: AbortSignal): Promise<DrawnFile> {
  const [known] = idle;
  const thread = known ?? new Thread();
  idle.delete(thread);
  const stopped = new Promise<never>((_, reject) => {
    stop.addEventListener('abort', () => reject(stop.reason as Refused), { once: true });
  });
  let answer: Answer;
  try {
    answer = await Promise.race([thread.draw(sent), stopped]);
  } catch (error) {
    thread.end();
    if (error instanceof Refused) throw error;
    throw (error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY'
      ? refused(413, 'too-large', 'it needs more memory than a drawing may take', 'send fewer rows')
      : refused(500, 'unforeseen', 'something unforeseen went wrong');
  }
  thread.rest();
  if (answer.ok) return answer.value;
  throw new Refused(STATUS[answer.problem.code] ?? 422, answer.problem);
}
