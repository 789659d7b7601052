import type { VectorEngine } from './engine';
import { columnsOfPlan, merged, type VectorPlan, type VectorState } from './plan';

/** Another thread that has the columns of plans before it as well, and runs a part of the rows. */
export interface ScanHelper {
  /** What the rows of a plan give, from one up to, but without, another. */
  run(plan: VectorPlan, from: number, to: number): Promise<VectorState>;
}

/** Rows that are scanned while another thread hears of its part. */
const HEAD_START = 1 << 17;

/** Fewer rows than this are scanned before another thread has heard of them. */
export const WORTH_SHARING = 1 << 18;

/**
 * Runs a plan in this thread and in others at once, each over a run of its rows; what they give is added up exactly, so that it does
 * not matter who did what. Where not all columns are in memory that threads share, this one does everything, and so it does the
 * part of a thread that fails.
 */
export async function runTogether(
  engine: VectorEngine,
  plan: VectorPlan,
  [from, to]: readonly [number, number],
  helpers: readonly ScanHelper[],
  least = WORTH_SHARING,
): Promise<VectorState> {
  if (helpers.length === 0 || to - from < least || !isShared(plan)) return engine.run(plan, from, to);
  const size = Math.floor(Math.max(to - from - HEAD_START, (to - from) / 2) / (helpers.length + 1));
  const own = to - size * helpers.length;
  const parts = helpers.map((helper, i) => {
    const [first, end] = [own + size * i, own + size * (i + 1)];
    return helper.run(plan, first, end).catch(() => engine.run(plan, first, end));
  });
  const first = engine.run(plan, from, own);
  return (await Promise.all(parts)).reduce(merged, first);
}

const isShared = (plan: VectorPlan): boolean =>
  typeof SharedArrayBuffer !== 'undefined' &&
  [...columnsOfPlan(plan)].every(({ buffer }) => buffer instanceof SharedArrayBuffer);
