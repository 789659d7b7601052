import { percentile, tidy, total, type Decimals } from '../../number';
import type { Benchmark, MemberEdge } from '../../report';
import { fromEntries, type Values } from '../values';
import type { BenchmarkRequest } from './asked';

/** Mean, median, lowest, highest or a percentile of the members shown, in each step by itself. The whole has no peers. */
export async function peerValues(
  benchmark: Benchmark & { kind: 'peers' },
  { by, actual: known }: BenchmarkRequest,
): Promise<Values> {
  if (by.length === 0) return fromEntries([], null);
  const actual = await known;
  const bySteps = new Map<number | null, number[]>();
  for (const { step, value } of actual.at.values()) {
    if (Number.isNaN(value)) continue;
    const list = bySteps.get(step);
    if (list) list.push(value);
    else bySteps.set(step, [value]);
  }
  const statistics = new Map(
    [...bySteps].map(([step, values]) => [
      step,
      statistic(
        benchmark,
        values.sort((a, b) => a - b),
        actual.decimals,
      ),
    ]),
  );
  const keepsDecimals = benchmark.statistic === 'lowest' || benchmark.statistic === 'highest';
  return fromEntries(
    [...actual.at.values()].map((entry) => ({ ...entry, rows: 0, value: statistics.get(entry.step) ?? NaN })),
    keepsDecimals ? actual.decimals : null,
  );
}

function statistic(
  { statistic: which, percentile: p = 50 }: Benchmark & { kind: 'peers' },
  sorted: readonly number[],
  decimals: Decimals,
): number {
  return statisticOf(sorted, which === 'percentile' ? p : which, decimals);
}

/** What stands for some values, which are sorted and not blank; a number is a percentile, 0–100. None of no values. */
export function statisticOf(sorted: readonly number[], which: MemberEdge, decimals: Decimals): number {
  if (sorted.length === 0) return NaN;
  switch (which) {
    case 'mean':
      return tidy(total(sorted, decimals) / sorted.length);
    case 'median':
      return tidy(percentile(sorted, 0.5));
    case 'lowest':
      return sorted[0]!;
    case 'highest':
      return sorted[sorted.length - 1]!;
    default:
      return tidy(percentile(sorted, which / 100));
  }
}
