import type { Condition } from '../brief';
import { endOf, spanOf, writtenDay, type Span } from '../calendar';
import { listed } from '../problem';
import { codedField, type Cells } from '../query';
import { cellText, columnOf, writeCsv, type Table } from '../table';

/** The rows a number was made from: those of a table that lie in a span and meet all conditions. */
export interface Behind {
  readonly table: string;
  /** Null: rows of any day, and those without one. */
  readonly span: Span | null;
  readonly where: readonly Condition[];
}

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

/** Which rows of a table lie behind a number, in the table's order. One row after the other is looked at. */
export function rowsBehind(table: Table, { span, where }: Behind): number[] {
  const date = table.date === null ? undefined : columnOf(table, table.date);
  const tests = where.map((condition) => testFor(table, condition));
  const found: number[] = [];
  for (let row = 0; row < table.rows; row++) {
    if (span) {
      if (date?.kind !== 'date') continue;
      const day = date.days[row]!;
      if (day < span.from || day > span.to) continue;
    }
    if (tests.every((test) => test(row))) found.push(row);
  }
  return found;
}

function testFor(table: Table, condition: Condition): (row: number) => boolean {
  const column = columnOf(table, condition.field);
  if ('value' in condition) {
    if (column?.kind !== 'number') return () => false;
    const limit = condition.value * 10 ** (column.decimals ?? 0);
    const { values } = column;
    return condition.kind === 'at least' ? (row) => values[row]! >= limit : (row) => values[row]! < limit;
  }
  if (!column) return () => false;
  const { members: names, codes } = codedField(column);
  const wanted = new Set(condition.members.map((member) => member ?? ''));
  const isIn = condition.kind === 'is';
  return (row) => wanted.has(names[codes[row]!]!) === isIn;
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

/** Rows of a table as CSV, for a spreadsheet. */
export function rowsCsv({ columns }: Table, rows: readonly number[]): string {
  return writeCsv([
    columns.map(({ name }) => name),
    ...rows.map((at) => columns.map((column) => cellText(column, at))),
  ]);
}
