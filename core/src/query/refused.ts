import type { Brief } from '../brief';
import { isoDay, spanOf, writtenDay, type Grain, type Span } from '../calendar';
import { Problem } from '../problem';
import { measured, measureNamed, type Context } from './context';
import type { TableFacts } from './query';
import { Refusal } from './refusal';

const FINENESS = { day: 0, week: 1, month: 2, quarter: 3, year: 4 } as const;

export const isFiner = (one: Grain, other: Grain): boolean => FINENESS[one] < FINENESS[other];

/** Refuses a brief that asks of its measures what they do not know. Throws a `Problem` that says what would be known. */
export function refuseWhatCannotBe(context: Context): void {
  const { source, report, brief, of, measure } = context;
  const { table } = of;
  const isAdditiveMeasure = (name: string) => {
    if (name === measure.name) return of.additive;
    return measured(source, report.calendar, measureNamed(report, name)).additive;
  };
  if ((brief.grain || brief.period.kind !== 'all time') && table.date === null) {
    throw new Refusal(
      'no-date',
      `measure “${measure.name}” reads table “${table.id}”, which has no date column`,
      'leave out “during” and “each”, or name its date column in the report',
      (one) => ({ ...one, grain: null, period: { kind: 'all time' } }),
    );
  }
  for (const name of new Set(brief.views.map((view) => view.measure))) {
    const facts = source.facts(measureNamed(report, name).table);
    if (facts) refuseParts(context, name, facts);
  }
  for (const view of brief.views) {
    if ((view.kind === 'change' || view.kind === 'smoothed') && !brief.grain) {
      throw new Problem(
        'view-needs-grain',
        `“${view.kind === 'change' ? 'change in' : 'smoothed'}” compares steps in time, and the brief has none`,
        { in: 'brief' },
        'add a grain, such as “each month”',
      );
    }
    if (view.kind === 'rank' && brief.by.length === 0) {
      throw new Problem(
        'rank-needs-field',
        `“rank of ${view.measure}” is a place among members, and the brief has no field`,
        { in: 'brief' },
        'add a field whose members are ranked, as in “by territory”',
      );
    }
    if ((view.kind === 'cumulative' || view.kind === 'share') && !isAdditiveMeasure(view.measure)) {
      throw new Problem(
        'not-additive',
        `“${view.measure}” does not add up over rows, so there is no ${view.kind === 'share' ? 'share of it' : 'running sum of it'}`,
        { in: 'brief' },
        'use a measure that is a sum or a count',
      );
    }
  }
}

/** Refuses steps and periods that ask for parts of what a table’s rows stand for. Throws a `Problem`. */
function refuseParts({ brief, period }: Context, name: string, { grain, periods }: TableFacts): void {
  if (!grain || grain === 'day') return;
  if (brief.grain && isFiner(brief.grain, grain))
    throw new Refusal(
      'grain-too-fine',
      `“${name}” is known for each ${grain} only, not for each ${brief.grain}`,
      `ask for each ${grain}`,
      (one) => ({ ...one, grain }),
    );
  // Fiscal periods that begin in other months than the rows' count where the rows' first days lie, which is told.
  if (!namesDays(brief.period)) return;
  const whole = wholeAround(period, { grain, periods });
  const endsAt = brief.period.kind === 'to date' ? whole.to : period.to;
  if (period.from === whole.from && endsAt === whole.to) return;
  throw new Refusal(
    'period-cuts-rows',
    `“${name}” is known for each ${grain} only, and ${writtenDay(period.from)} to ${writtenDay(period.to)} is not made of whole ${grain}s`,
    `use “during ${isoDay(whole.from)} to ${isoDay(whole.to)}”`,
    during(whole),
  );
}

/** The same brief over some days. */
export const during =
  (span: Span) =>
  (brief: Brief): Brief => ({ ...brief, period: { kind: 'days', from: span.from, to: span.to } });

/** The days of all periods that rows stand for, of which a span has days. */
function wholeAround(
  { from, to }: Span,
  { grain, periods }: Pick<TableFacts, 'periods'> & { readonly grain: Grain },
): Span {
  return { from: spanOf(grain, from, periods).from, to: spanOf(grain, to, periods).to };
}

/** Refuses a fixed range that begins or ends inside what the rows of the measure stand for. Throws a `Problem`. */
export function refuseRange({ of: { table }, measure }: Context, benchmark: string, range: Span): void {
  const { grain, periods } = table;
  if (!grain || grain === 'day') return;
  const whole = wholeAround(range, { grain, periods });
  if (whole.from === range.from && whole.to === range.to) return;
  throw new Problem(
    'period-cuts-rows',
    `“${measure.name}” is known for each ${grain} only, and “${benchmark}” is not made of whole ${grain}s`,
    { in: `benchmark “${benchmark}”` },
    `let it run from ${isoDay(whole.from)} to ${isoDay(whole.to)}`,
  );
}

/** Whether a period is made of days or weeks, and not of months. */
function namesDays(words: Context['brief']['period']): boolean {
  if (words.kind === 'days') return true;
  return 'grain' in words && FINENESS[words.grain] < FINENESS.month;
}
