import { endOf, writtenDay, type Period } from '../calendar';
import type { Benchmark } from '../report';
import type { BenchmarkRequest, Held } from './benchmark/asked';
import { benchmarkValues, isLikeForLike } from './benchmark/benchmark';
import { note, type Context } from './context';
import { Refusal } from './refusal';
import { fromEntries } from './values';

/** What of a benchmark is due by now is not known, and nothing is held against it. */
export const DUE_NOT_KNOWN = 'due-not-known';

/** What of the benchmark is due by the as-of date; null where the period is over or the benchmark is cut there anyway. */
export async function dueValues(context: Context, benchmark: Benchmark, ask: BenchmarkRequest): Promise<Held | null> {
  const { period, asOf, brief, calendar } = context;
  const runsOn = brief.views[0]!.kind === 'cumulative' && ask.grain !== null;
  if (!period.partial || period.from > asOf || (isLikeForLike(context, benchmark) && !runsOn)) return null;
  const toDate: Period = { ...period, to: asOf, partial: false, whole: false };
  const checks = context.checks.length;
  const held = await benchmarkValues(context, benchmark, { ...ask, period: toDate }).catch((error: unknown) => {
    if (error instanceof Refusal && error.code === 'target-too-coarse') return null;
    throw error;
  });
  // How a target was cut is told once, for the benchmark itself.
  if (brief.grain) context.checks.length = checks;
  if (!held) {
    note(
      context,
      DUE_NOT_KNOWN,
      'note',
      `“${benchmark.name}” is not spread over time, so it is not known what of it is due by ${writtenDay(asOf)}, and nothing is held against it while it runs`,
    );
    return null;
  }
  if (!ask.grain) return held;
  const running = [...held.values.at.values()].filter(({ step }) => endOf(ask.grain!, step!, calendar) > asOf);
  return { ...held, values: fromEntries(running, held.values.decimals) };
}
