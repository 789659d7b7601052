import type { RunOfRows, VectorEngine } from './engine';
import { columnsOfPlan, merged, type VectorPlan, type VectorState } from './plan';

/** Rows that several threads scan: each takes the next run of them until none is left. */
export interface SharedRows {
  readonly from: number;
  /** The row behind the last. */
  readonly to: number;
  /** Rows of a run. */
  readonly size: number;
  /** In memory that threads share: how many runs have been taken, and behind it of each helper whether it has begun. */
  readonly taken: Int32Array;
}

/** Another thread that has the columns of plans before it as well, and scans some of the rows. */
export interface ScanHelper {
  /**
   * What the runs it took give; as a thread does it with `takePart`.
   * @param place the number of the helper among those that are asked
   */
  run(plan: VectorPlan, rows: SharedRows, place: number): Promise<VectorState | null>;
}

/** How rows are shared out: how many are worth it, and how many are taken at a time, few enough that threads end together. */
export interface Sharing {
  readonly least: number;
  readonly size: number;
}

/** Fewer rows than this are scanned before another thread has heard of them. */
export const WORTH_SHARING = 1 << 19;

const SHARING: Sharing = { least: WORTH_SHARING, size: 1 << 16 };

/** What is known of a helper. */
const [WAITING, BEGUN, TOO_LATE] = [0, 1, 2];

/** The runs that this thread takes. */
export function* runsOf({ from, to, size, taken }: SharedRows): Generator<RunOfRows> {
  for (;;) {
    const first = from + Atomics.add(taken, 0, 1) * size;
    if (first >= to) return;
    yield [first, Math.min(first + size, to)];
  }
}

/** A helper's part of a scan; null where all others have ended before it began. */
export function takePart(engine: VectorEngine, plan: VectorPlan, rows: SharedRows, place: number): VectorState | null {
  if (Atomics.compareExchange(rows.taken, 1 + place, WAITING, BEGUN) !== WAITING) return null;
  return engine.run(plan, runsOf(rows));
}

/**
 * Runs a plan in this thread and in others at once; what they give is added up exactly, so that it does not matter who did what. A
 * thread that has not begun when all rows are taken is not waited for. Where not all columns are in memory that threads share, this one
 * does everything, and so it does once more where a thread fails: nobody knows what that one had taken.
 */
export async function runTogether(
  engine: VectorEngine,
  plan: VectorPlan,
  [from, to]: RunOfRows,
  helpers: readonly ScanHelper[],
  { least, size }: Sharing = SHARING,
): Promise<VectorState> {
  if (helpers.length === 0 || to - from < least || !isShared(plan)) return engine.run(plan, [[from, to]]);
  const taken = new Int32Array(new SharedArrayBuffer(4 * (1 + helpers.length)));
  const rows: SharedRows = { from, to, size, taken };
  const parts = helpers.map((helper, place) => helper.run(plan, rows, place));
  // Nobody may be waiting for them when they fail.
  for (const part of parts) part.catch(() => {});
  const own = engine.run(plan, runsOf(rows));
  const begun = parts.filter((_, place) => Atomics.compareExchange(taken, 1 + place, WAITING, TOO_LATE) !== WAITING);
  try {
    return (await Promise.all(begun)).reduce<VectorState>((sum, part) => (part ? merged(sum, part) : sum), own);
  } catch {
    return engine.run(plan, [[from, to]]);
  }
}

const isShared = (plan: VectorPlan): boolean =>
  typeof SharedArrayBuffer !== 'undefined' &&
  [...columnsOfPlan(plan)].every(({ buffer }) => buffer instanceof SharedArrayBuffer);
