import { decimalsOf, EXACT_LIMIT, power, scaled, tidy } from '../../number';
import type { Benchmark } from '../../report';
import { benchmarkNamed, type Context } from '../context';
import { mapValues, type Values } from '../values';
import type { BenchmarkRequest, Held } from './asked';

/** Another benchmark, or the measure itself, times one plus a share. A chain that comes back to itself is refused when the report is read. */
export async function scaledValues(
  context: Context,
  benchmark: Benchmark & { kind: 'scaled' },
  asked: BenchmarkRequest,
  valuesOfBenchmark: (context: Context, benchmark: Benchmark, asked: BenchmarkRequest) => Promise<Held>,
): Promise<Held> {
  const of: Held =
    benchmark.of === 'measure'
      ? { values: await asked.actual, span: null }
      : await valuesOfBenchmark(context, benchmarkNamed(context.report, benchmark.of), asked);
  return { ...of, values: times(of.values, tidy(1 + benchmark.by)) };
}

/** Every value times a factor: exactly, where both are held as integers and their products are not too large. */
function times(values: Values, factor: number): Values {
  const finer = decimalsOf(factor);
  const { decimals } = values;
  if (finer !== null && decimals !== null) {
    const by = scaled(factor, finer);
    const magnitude = [...values.at.values()].reduce((sum, { value }) => sum + (Math.abs(value) || 0), 0);
    if (magnitude * power(decimals) * Math.abs(by) < EXACT_LIMIT)
      return mapValues(
        values,
        decimals + finer,
        ({ value }) => (scaled(value, decimals) * by) / power(decimals + finer),
      );
  }
  return mapValues(values, null, ({ value }) => tidy(value * factor));
}
