import type { Benchmark } from '../../report';
import { benchmarkNamed, type Context } from '../context';
import type { Asked, Held } from './asked';
import { expressionValues } from './expression';
import { fixedValues } from './fixed';
import { forecastValues } from './forecast';
import { peerValues } from './peers';
import { periodValues } from './period';
import { scaledValues } from './scaled';
import { tableValues } from './table';

/** The benchmark's value for every group. Throws a `Problem` where the benchmark cannot follow the figure. */
export async function benchmarkValues(context: Context, benchmark: Benchmark, asked: Asked): Promise<Held> {
  switch (benchmark.kind) {
    case 'expression':
      return { values: await expressionValues(context, benchmark, asked), span: null };
    case 'table':
      return { values: await tableValues(context, benchmark, asked), span: null };
    case 'fixed':
      return { values: fixedValues(context, benchmark, asked), span: null };
    case 'scaled':
      return scaledValues(context, benchmark, asked, benchmarkValues);
    case 'period':
      return periodValues(context, benchmark, asked);
    case 'peers':
      return { values: peerValues(benchmark, asked), span: null };
    case 'forecast':
      return { values: await forecastValues(context, benchmark, asked), span: null };
  }
}

/** True when a benchmark is cut at the as-of date by itself, so that there is nothing else due by now. */
export function isLikeForLike(context: Context, benchmark: Benchmark): boolean {
  if (benchmark.kind === 'scaled')
    return benchmark.of === 'measure' || isLikeForLike(context, benchmarkNamed(context.report, benchmark.of));
  return benchmark.kind === 'period' || benchmark.kind === 'peers';
}
