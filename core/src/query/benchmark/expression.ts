import type { Benchmark } from '../../report';
import { aggregated, type Context } from '../context';
import { valuesOf, type Values } from '../values';
import type { Asked } from './asked';
import { tableValues } from './table';

/** Another expression over the measure's own rows, such as a target column; over another table it is a target table. */
export async function expressionValues(
  context: Context,
  benchmark: Benchmark & { kind: 'expression' },
  asked: Asked,
): Promise<Values> {
  const table = benchmark.table ?? context.measure.table;
  if (table !== context.measure.table)
    return tableValues(context, { ...benchmark, kind: 'table', table, spread: 'even', split: 'none' }, asked);
  const of = aggregated(context.source, table, benchmark.expression, `benchmark “${benchmark.name}”`);
  const everything = context.allTime && asked.period.to >= context.known.to;
  const span = everything ? null : { from: asked.period.from, to: asked.period.to };
  return valuesOf(context.source, of, { by: asked.by, grain: asked.grain, span, where: context.brief.only });
}
