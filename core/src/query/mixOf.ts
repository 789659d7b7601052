import { finer } from '../number';
import { Problem } from '../problem';
import type { Benchmark } from '../report';
import { askedFor, type Held } from './benchmark/asked';
import { benchmarkValues } from './benchmark/benchmark';
import { actualSpan, measured, measureNamed, type Context } from './context';
import type { Member } from './members';
import { priceVolumeMix, type PriceVolumeMix } from './priceVolumeMix';
import { Refusal } from './refusal';
import { groupKey, valuesOf, type Values } from './values';

/**
 * Volume, price and mix of the gap to another period, from the values and quantities now and then of the members that are shown: of all
 * of them, one by one, where the rest is shown as well.
 */
export async function mixOf(
  context: Context,
  benchmark: Benchmark | null,
  quantity: string,
  chosen: readonly Member[],
  actual: Values,
  held: Held | null,
): Promise<PriceVolumeMix> {
  const { brief, source, report, measure } = context;
  if (benchmark?.kind !== 'period' || !held || brief.by.length === 0 || brief.grain)
    throw new Refusal(
      'mix-needs-period',
      'volume, price and mix tell two periods apart, member by member',
      'add a field and “against last year” or another period, and leave out “each”',
      (one) => ({ ...one, grain: null, against: benchmark?.kind === 'period' ? one.against : 'last year' }),
    );
  const pieces = measureNamed(report, quantity);
  const of = measured(source, report.calendar, pieces);
  if (!of.additive || !context.of.additive)
    throw new Problem(
      'not-additive',
      `“${of.additive ? measure.name : quantity}” does not add up over rows, so there is no volume, price and mix of it`,
      { in: 'look of the figure' },
      'use measures that are sums or counts',
    );
  const counted = valuesOf(source, of, { by: brief.by, grain: null, span: actualSpan(context), where: brief.only });
  const [now, before] = await Promise.all([
    counted,
    benchmarkValues({ ...context, of, measure: pieces }, benchmark, askedFor(context, counted)),
  ]);
  const keys = chosen.some(({ isRest }) => isRest)
    ? new Set([...actual.at.keys(), ...held.values.at.keys()])
    : chosen.map(({ members }) => groupKey(members, null));
  return priceVolumeMix(
    [...keys].map((key) => ({
      name: key,
      value: actual.at.get(key)?.value ?? NaN,
      quantity: now.at.get(key)?.value ?? NaN,
      valueBefore: held.values.at.get(key)?.value ?? NaN,
      quantityBefore: before.values.at.get(key)?.value ?? NaN,
    })),
    finer(actual.decimals, held.values.decimals),
  );
}
