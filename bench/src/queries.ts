import type { Condition } from '@bold-ruler/core/brief';
import { readIsoDay, type Grain } from '@bold-ruler/core/calendar';
import { checkExpression, readExpression, type Aggregate } from '@bold-ruler/core/measure';
import type { Query } from '@bold-ruler/core/query';
import { columnTypes } from '@bold-ruler/core/source';
import type { Table } from '@bold-ruler/core/table';

/** A query as both sides answer it. */
export interface NamedQuery {
  readonly name: string;
  readonly measures: readonly string[];
  readonly by: readonly string[];
  readonly grain: Grain | null;
  readonly span: readonly [string, string] | null;
  readonly where: readonly Condition[];
  readonly sql: string;
}

const span = (from: string, to: string) => [from, to] as const;

/** Ten group-by queries a page of figures asks, plain column names in their SQL. */
export const QUERIES: readonly NamedQuery[] = [
  {
    name: 'net-by-territory',
    measures: ['sum(net)'],
    by: ['territory'],
    grain: null,
    span: null,
    where: [],
    sql: 'select territory, sum(net), count(*) from orders group by territory',
  },
  {
    name: 'net-by-territory-fiscal-year-to-date',
    measures: ['sum(net)'],
    by: ['territory'],
    grain: null,
    span: span('2025-09-01', '2026-03-18'),
    where: [],
    sql: "select territory, sum(net), count(*) from orders where ordered between date '2025-09-01' and date '2026-03-18' group by territory",
  },
  {
    name: 'net-and-cost-by-month-and-product-line',
    measures: ['sum(net)', 'sum(cost)'],
    by: ['product line'],
    grain: 'month',
    span: null,
    where: [],
    sql: `select "product line", date_trunc('month', ordered), sum(net), sum(cost), count(*) from orders group by 1, 2`,
  },
  {
    name: 'net-by-account-of-two-channels',
    measures: ['sum(net)'],
    by: ['account'],
    grain: null,
    span: null,
    where: [{ kind: 'is', field: 'channel', members: ['Schools', 'Web'] }],
    sql: "select account, sum(net), count(*) from orders where channel in ('Schools', 'Web') group by account",
  },
  {
    name: 'delivery-days-by-rep',
    measures: ['avg("days to deliver")'],
    by: ['rep'],
    grain: null,
    span: null,
    where: [],
    sql: 'select rep, avg("days to deliver"), count(*) from orders group by rep',
  },
  {
    name: 'net-by-day-of-one-year',
    measures: ['sum(net)'],
    by: [],
    grain: 'day',
    span: span('2024-09-01', '2025-08-31'),
    where: [],
    sql: "select ordered, sum(net), count(*) from orders where ordered between date '2024-09-01' and date '2025-08-31' group by ordered",
  },
  {
    name: 'returned-by-product-line',
    measures: ['sum(net) filter (where quantity < 0)'],
    by: ['product line'],
    grain: null,
    span: null,
    where: [],
    sql: 'select "product line", sum(net) filter (where quantity < 0), count(*) from orders group by 1',
  },
  {
    name: 'margin-and-pieces-by-territory-and-rep',
    measures: ['sum(net)', 'sum(cost)', 'sum(quantity)'],
    by: ['territory', 'rep'],
    grain: null,
    span: null,
    where: [],
    sql: 'select territory, rep, sum(net), sum(cost), sum(quantity), count(*) from orders group by 1, 2',
  },
  {
    name: 'accounts-a-month',
    measures: ['count(distinct account)'],
    by: [],
    grain: 'month',
    span: null,
    where: [],
    sql: "select date_trunc('month', ordered), count(distinct account), count(*) from orders group by 1",
  },
  {
    name: 'net-of-large-lines-by-week-and-territory',
    measures: ['sum(net)'],
    by: ['territory'],
    grain: 'week',
    span: null,
    where: [{ kind: 'at least', field: 'net', value: 100 }],
    sql: "select territory, date_trunc('week', ordered), sum(net), count(*) from orders where net >= 100 group by 1, 2",
  },
];

function days(text: readonly [string, string]): { from: number; to: number } {
  return { from: readIsoDay(text[0])!, to: readIsoDay(text[1])! };
}

export const SCHOOL = { fiscalYearStart: 9, fiscalYearNamed: 'end', weekStart: 'monday' } as const;

export function queryOf(table: Table, { measures, by, grain, span, where }: NamedQuery): Query {
  const aggregates = measures.map(
    (text) => checkExpression(readExpression(text), text, columnTypes(table), 'groups').expression as Aggregate,
  );
  return { table: table.id, aggregates, by, grain, span: span && days(span), where };
}
