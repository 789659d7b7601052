import { tidy } from '../../number';
import type { Benchmark } from '../../report';
import { benchmarkNamed, type Context } from '../context';
import { mapValues } from '../values';
import type { Asked, Held } from './asked';

/** Another benchmark, or the measure itself, times one plus a share. A chain that comes back to itself is refused when the report is read. */
export async function scaledValues(
  context: Context,
  benchmark: Benchmark & { kind: 'scaled' },
  asked: Asked,
  valuesOfBenchmark: (context: Context, benchmark: Benchmark, asked: Asked) => Promise<Held>,
): Promise<Held> {
  const of: Held =
    benchmark.of === 'measure'
      ? { values: asked.actual, span: null }
      : await valuesOfBenchmark(context, benchmarkNamed(context.report, benchmark.of), asked);
  return { ...of, values: mapValues(of.values, null, ({ value }) => tidy(value * (1 + benchmark.by))) };
}
