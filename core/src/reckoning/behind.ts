import type { Condition } from '../brief';
import { endOf, spanOf, writtenDay, type Span } from '../calendar';
import { listed } from '../problem';
import type { Behind, Cells, RowsFound } from '../query';
import { writeCsv } from '../table';

/** The rows behind a row of a figure; null for “the rest”, which is no member. */
export function behindRow(cells: Cells, row: number, known: Span | null): Behind | null {
  const { brief, calendar, asOf, period, fields, members, measure, steps, grain } = cells;
  if (cells.isRest[row]) return null;
  const where: Condition[] = [
    ...brief.only,
    ...fields.map((field, f): Condition => ({ kind: 'is', field, members: [members[f]![row] || null] })),
  ];
  const isWhole = brief.period.kind === 'all time' && (known === null || asOf >= known.to);
  const last = Math.min(period.to, asOf);
  const table = measure.table;
  if (!steps || !grain) return { table, where, span: isWhole ? null : { from: period.from, to: last } };
  const step = spanOf(grain, steps[row]!, calendar);
  // A running sum holds everything from the beginning of the period.
  const from = cells.view.kind === 'cumulative' ? period.from : Math.max(step.from, period.from);
  return { table, where, span: { from, to: Math.min(endOf(grain, steps[row]!, calendar), last) } };
}

/** The rows in words: from which days, and which conditions they meet. */
export function behindWords({ span, where }: Behind): string {
  const days = span ? ` from ${writtenDay(span.from)} to ${writtenDay(span.to)}` : '';
  const conditions = where.map((condition) => {
    switch (condition.kind) {
      case 'is':
      case 'is not':
        return `${condition.field} ${condition.kind} ${listed(
          condition.members.map((member) => member ?? 'blank'),
          'or',
        )}`;
      case 'at least':
        return `${condition.field} is at least ${condition.value}`;
      case 'below':
        return `${condition.field} is below ${condition.value}`;
    }
  });
  return `${days}${conditions.length > 0 ? ` where ${listed([...new Set(conditions)], 'and')}` : ''}`;
}

/** Rows as CSV, for a spreadsheet. */
export function rowsCsv({ columns, lines }: Pick<RowsFound, 'columns' | 'lines'>): string {
  return writeCsv([columns.map(({ name }) => name), ...lines]);
}
