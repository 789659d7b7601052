import { Worker } from 'node:worker_threads';

/** What somebody asks the server to draw. */
export interface Drawing {
  readonly asks: 'draw' | 'numbers';
  readonly content:
    | { readonly kind: 'bundle'; readonly bytes: Uint8Array }
    | { readonly kind: 'report'; readonly report: string; readonly tables: Readonly<Record<string, string>> };
  /** A figure of the report, or a brief for one that is not in it. */
  readonly figure: string | null;
  readonly brief: string | null;
  readonly format: string;
  readonly scale: number;
}

export interface Drawn {
  readonly type: string;
  readonly body: string | Uint8Array;
}

export interface Refusal {
  readonly code: string;
  readonly message: string;
  readonly place: unknown;
  readonly remedy: string | null;
}

export const LIMITS = {
  /** Bytes of a request's body. */
  body: 64_000_000,
  /** Milliseconds a drawing may take, waiting not counted. */
  time: 20_000,
  /** Drawings at a time, and how many may wait. */
  atOnce: 2,
  waiting: 8,
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

let running = 0;
const waiting: (() => void)[] = [];

async function turn(): Promise<void> {
  if (running < LIMITS.atOnce) {
    running += 1;
    return;
  }
  if (waiting.length >= LIMITS.waiting)
    throw refused(503, 'busy', 'too many drawings are waiting', 'ask again in a few seconds');
  await new Promise<void>((resolve) => waiting.push(resolve));
}

function done(): void {
  const next = waiting.shift();
  if (next) next();
  else running -= 1;
}

const NOT_FOUND = new Set(['unknown-figure']);

/** Draws in a thread of its own, which is ended when it takes too long or too much. Throws what is `Refused`. */
export async function draw(drawing: Drawing): Promise<Drawn> {
  await turn();
  try {
    return await inThread(drawing);
  } finally {
    done();
  }
}

function inThread(drawing: Drawing): Promise<Drawn> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./drawing.worker.ts', import.meta.url), {
      workerData: drawing,
      resourceLimits: { maxOldGenerationSizeMb: LIMITS.memory },
    });
    const timer = setTimeout(() => {
      void worker.terminate();
      reject(refused(504, 'too-slow', `it took longer than ${LIMITS.time / 1000} seconds`, 'send fewer rows'));
    }, LIMITS.time);
    const end = () => {
      clearTimeout(timer);
      void worker.terminate();
    };
    worker.on('message', (answer: { ok: true; value: Drawn } | { ok: false; problem: Refusal }) => {
      end();
      if (answer.ok) return resolve(answer.value);
      const { problem } = answer;
      reject(new Refused(problem.code === 'unforeseen' ? 500 : NOT_FOUND.has(problem.code) ? 404 : 422, problem));
    });
    worker.on('error', (error: Error & { code?: string }) => {
      end();
      reject(
        error.code === 'ERR_WORKER_OUT_OF_MEMORY'
          ? refused(413, 'too-large', 'it needs more memory than a drawing may take', 'send fewer rows')
          : refused(500, 'unforeseen', 'something unforeseen went wrong'),
      );
    });
  });
}
