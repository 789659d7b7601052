import { Problem } from '../problem';
import { aggregated, measureNamed, type Context } from './context';

const FINENESS = { day: 0, week: 1, month: 2, quarter: 3, year: 4 } as const;

/** Refuses a brief that asks of its measures what they do not know. Throws a `Problem` that says what would be known. */
export function refuseWhatCannotBe({ source, report, brief, of, measure }: Context): void {
  const { table } = of;
  const isAdditiveMeasure = (name: string) => {
    if (name === measure.name) return of.additive;
    const other = measureNamed(report, name);
    return aggregated(source, other.table, other.expression, `measure “${name}”`).additive;
  };
  if ((brief.grain || brief.period.kind !== 'all time') && table.date === null) {
    throw new Problem(
      'no-date',
      `measure “${measure.name}” reads table “${table.id}”, which has no date column`,
      { in: 'brief' },
      'leave out “during” and “each”, or name its date column in the report',
    );
  }
  if (brief.grain && table.grain && FINENESS[brief.grain] < FINENESS[table.grain]) {
    throw new Problem(
      'grain-too-fine',
      `“${measure.name}” is known for each ${table.grain} only, not for each ${brief.grain}`,
      { in: 'brief' },
      `ask for each ${table.grain}`,
    );
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
