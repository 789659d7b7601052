import { startOf, step, type Day, type FiscalCalendar, type Grain } from '../calendar';
import { converted } from '../measure';
import { total } from '../number';
import { listed, Problem } from '../problem';
import type { Benchmark } from '../report';
import { EVER, type Rates } from '../table';
import type { Held } from './benchmark/asked';
import { actualSpan, note, type Context } from './context';
import type { Member } from './members';
import { Refusal } from './refusal';
import { groupKey, valuesOf, type Values } from './values';

// What of a change since another period is a change of exchange rates: amounts at the rates they have, less the same amounts at the rates
// of the period they are compared with.

/** Amounts at the rates of the period compared with. */
export interface AtRatesBefore {
  /** By member, as the actuals are. */
  readonly values: Values;
  /** By row of the figure; a row of which some rate is not known has its actual. */
  readonly rows: Float64Array;
}

/** Days of a month, in the long run. */
const MONTH = 30.436875;

/**
 * Rates of one period as if they were those of another: of as many months, or days, later.
 * @param calendar whose months and years the rates are of
 */
function ratesLater(rates: Rates, grain: Grain, before: Day, now: Day, calendar: FiscalCalendar): Rates {
  const isByDays = grain === 'day' || grain === 'week';
  // A year of 52 weeks is 12 months, as is one of 53.
  const months = Math.round((now - before) / MONTH);
  const later = (day: Day) =>
    isByDays ? day + now - before : step('month', startOf('month', day, calendar), months, calendar);
  return rates.map(([code, spans]) => [
    code,
    spans.map(([from, to, rate]) =>
      from === EVER.from ? ([from, to, rate] as const) : ([later(from), later(to + 1) - 1, rate] as const),
    ),
  ]);
}

/**
 * The amounts of a figure at the rates of the period it is compared with.
 * @throws {Problem} where nothing is converted by the rates of each row, or it is not compared with another period
 */
export async function atRatesBefore(
  context: Context,
  benchmark: Benchmark | null,
  chosen: readonly Member[],
  actual: Values,
  held: Held | null,
): Promise<AtRatesBefore> {
  const { of, brief, source, measure, period } = context;
  const { conversion } = of;
  if (!conversion || conversion.said.at !== 'own')
    throw new Problem(
      'nothing-exchanged',
      `“${measure.name}” is not converted by the rates of each row’s own period, so exchange rates make no difference`,
      { in: 'look of the figure' },
      'leave the exchange rates out of the look, or convert the measure at the Numbers step',
    );
  if (benchmark?.kind !== 'period' || !held?.span || brief.grain || !of.additive)
    throw new Refusal(
      'exchange-needs-period',
      'the effect of exchange rates tells two periods apart',
      'add “against last year” or another period, and leave out “each”',
      (one) => ({ ...one, grain: null, against: benchmark?.kind === 'period' ? one.against : 'last year' }),
    );
  const { grain, periods } = source.facts(conversion.said.rates)!;
  const rates = ratesLater(conversion.rates, grain ?? 'day', held.span.from, period.from, periods);
  const expression = converted(conversion.of, { ...conversion, rates });
  const shape = { by: brief.by, grain: null, span: actualSpan(context), where: brief.only };
  const found = await valuesOf(source, { ...of, expression }, shape);
  const lacking: string[] = [];
  const valueOf = (key: string): number => {
    const [before, is] = [found.at.get(key)?.value ?? NaN, actual.at.get(key)?.value ?? NaN];
    return Number.isFinite(before) ? before : is;
  };
  for (const [key, { members, value }] of actual.at)
    if (Number.isFinite(value) && value !== 0 && !Number.isFinite(found.at.get(key)?.value ?? NaN))
      lacking.push(members.join(' · ') || measure.name);
  if (lacking.length > 0)
    note(
      context,
      'rate-missing',
      'warning',
      `“${conversion.said.rates}” lacks rates of the period compared with for ${listed(lacking.slice(0, 3), 'and')}${lacking.length > 3 ? ` and ${lacking.length - 3} more` : ''}: what exchange rates did there is in the other steps`,
    );
  const kept = new Set(chosen.flatMap(({ isRest, members }) => (isRest ? [] : [groupKey(members, null)])));
  const left = [...actual.at.keys()].filter((key) => !kept.has(key));
  const rows = chosen.map(({ isRest, members }) =>
    isRest ? total(left.map(valueOf), found.decimals) : valueOf(groupKey(members, null)),
  );
  const values = { ...found, at: new Map([...found.at].map(([key, one]) => [key, { ...one, value: valueOf(key) }])) };
  return { values, rows: Float64Array.from(rows) };
}
