import type { Benchmark } from '../../report';
import { benchmarkNamed, type Context } from '../context';
import type { BenchmarkRequest, Held } from './asked';
import { withActualsFrom } from './coverage';
import { expressionValues } from './expression';
import { fixedValues } from './fixed';
import { forecastValues } from './forecast';
import { peerValues } from './peers';
import { periodValues } from './period';
import { scaledValues } from './scaled';
import { tableValues } from './table';

/** The benchmark's value for every group. Throws a `Problem` where the benchmark cannot follow the figure. */
export async function benchmarkValues(context: Context, benchmark: Benchmark, asked: BenchmarkRequest): Promise<Held> {
  switch (benchmark.kind) {
    case 'expression': {
      const held = await expressionValues(context, benchmark, asked);
      const isOwn = (benchmark.table ?? context.measure.table) === context.measure.table;
      return isOwn ? held : withActualsFrom(context, benchmark.name, asked, held);
    }
    case 'table':
      return withActualsFrom(context, benchmark.name, asked, await tableValues(context, benchmark, asked));
    case 'fixed':
      return withActualsFrom(context, benchmark.name, asked, {
        values: await fixedValues(context, benchmark, asked),
        span: null,
      });
    case 'scaled':
      return scaledValues(context, benchmark, asked, benchmarkValues);
    case 'period':
      return periodValues(context, benchmark, asked);
    case 'peers':
      return { values: await peerValues(benchmark, asked), span: null };
    case 'forecast':
      return { values: await forecastValues(context, benchmark, asked), span: null };
  }
}

/** What a benchmark rests on: of one that is scaled the kind of what it scales; `measure` where that is the measure itself. */
export function kindBeneath(context: Pick<Context, 'report'>, benchmark: Benchmark): Benchmark['kind'] | 'measure' {
  if (benchmark.kind !== 'scaled') return benchmark.kind;
  return benchmark.of === 'measure' ? 'measure' : kindBeneath(context, benchmarkNamed(context.report, benchmark.of));
}

/** True when a benchmark is cut at the as-of date by itself, so that there is nothing else due by now. */
export function isLikeForLike(context: Context, benchmark: Benchmark): boolean {
  return ['measure', 'period', 'peers'].includes(kindBeneath(context, benchmark));
}
