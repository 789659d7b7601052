import type { Benchmark } from '../../report';
import { aggregated, type Context } from '../context';
import { valuesOf } from '../values';
import type { BenchmarkRequest, Held } from './asked';
import { tableValues } from './table';

/** Another expression over the measure's own rows, such as a target column; over another table it is a target table. */
export async function expressionValues(
  context: Context,
  benchmark: Benchmark & { kind: 'expression' },
  asked: BenchmarkRequest,
): Promise<Held> {
  const table = benchmark.table ?? context.measure.table;
  if (table !== context.measure.table)
    return tableValues(context, { ...benchmark, kind: 'table', table, spread: 'even', split: 'none' }, asked);
  // Over the measure's own rows it is in the measure's currency.
  const { calendar, measure } = context;
  const of = aggregated(context.source, table, benchmark.expression, `benchmark “${benchmark.name}”`, {
    calendar,
    currency: measure.currency,
  });
  const everything = context.allTime && asked.period.to >= context.known.to;
  const span = everything ? null : { from: asked.period.from, to: asked.period.to };
  const shape = { by: asked.by, grain: asked.grain, span, where: context.brief.only };
  return { values: await valuesOf(context.source, of, shape), span: null };
}
