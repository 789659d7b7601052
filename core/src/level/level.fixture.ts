import { addMonths, isoDay, readIsoDay } from '../calendar';
import { fileOf, readCsv, readCsvFile } from '../reading';
import { checkReport, type Report } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { levelChecks } from '.';

export const LINES = [
  'day,shop,channel,net,goal',
  '2024-11-05,North,Web,90,80',
  '2025-09-05,North,Web,100,80',
  '2025-10-05,South,Web,300,400',
  '2025-10-07,East,Web,250,200',
  '2026-01-05,West,Schools,250,300',
];
export const MANY_DAYS = [LINES[0]!, ...Array.from({ length: 6 }, () => LINES.slice(1)).flat()];
export const PLAN = [
  'month,shop,target',
  '2025-09,North,90',
  '2025-09,South,200',
  '2025-10,East,300',
  '2025-10,West,100',
];
export interface Made {
  readonly brief?: string;
  readonly look?: object;
  readonly lines?: readonly string[];
  readonly plan?: readonly string[];
  readonly more?: object;
}
export const RULE = { encode: { weight: 'bold' }, on: true };
export async function findingsOf(report: Report, { lines = LINES, plan = PLAN }: Made) {
  // Of what stands for a byte that is no letter, only that byte is left.
  const bytes = new TextEncoder()
    .encode(lines.join('\n').replaceAll('\uFFFF', '\u0001'))
    .map((byte) => (byte === 1 ? 0xff : byte));
  const orders = makeTable(await readCsvFile(fileOf('orders', bytes)), { id: 'orders', date: 'day' });
  const targets = makeTable(await readCsv('plan', plan.join('\n')), { id: 'plan', date: 'month', grain: 'month' });
  const tables = new Map([
    ['orders', orders],
    ['plan', targets],
  ]);
  const desk = workspaceFor(report, tables);
  return levelChecks(desk);
}
export const reportOf = ({ brief = 'net by shop as bars', look = {}, more = {} }: Made): Report =>
  checkReport({
    boldRuler: 1,
    name: 'r',
    calendar: { fiscalYearStart: 9 },
    tables: [
      { id: 'orders', source: { file: 'orders.csv' }, date: 'day' },
      { id: 'plan', source: { file: 'plan.csv' }, date: 'month', grain: 'month' },
    ],
    measures: [{ name: 'net', table: 'orders', expression: 'sum(net)' }],
    benchmarks: [
      { name: 'goal', kind: 'expression', expression: 'sum(goal)' },
      { name: 'plan', kind: 'table', table: 'plan', expression: 'sum(target)', spread: 'even', split: 'none' },
      { name: 'flat', kind: 'fixed', value: 200, per: [] },
      { name: 'each', kind: 'fixed', value: 200, per: ['member'] },
    ],
    figures: [{ id: 'f', brief, look }],
    ...more,
  });
export const numbers = (...rules: object[]) => ({ highlights: [{ name: 'sizes', on: 'value', rules }] });
export const shops = (...rows: string[]) => ['day,shop,channel,net,goal', ...rows];
export const PRICED = LINES.map((line, i) => `${line},${i === 0 ? 'unit price' : i}`);
/** Rows in two currencies, or in one. */
export const inCurrencies = (...codes: readonly string[]) =>
  LINES.map((line, i) => `${line},${i === 0 ? 'currency' : codes[i % codes.length]}`);
/** Rates of these months; with a target, as the other checks look for one. */
export const ratesOf = (...months: readonly string[]) => [
  'month,code,rate,target',
  ...months.map((month) => `${month},USD,0.9,1`),
];
export const ALL_MONTHS = ['2024-11', '2025-09', '2025-10', '2026-01'];
/** The measure in euros, by the rates of each month. */
export const IN_EUROS = {
  tables: [
    { id: 'orders', source: { file: 'orders.csv' }, date: 'day' },
    {
      id: 'plan',
      source: { file: 'plan.csv' },
      date: 'month',
      grain: 'month',
      rates: { currency: 'code', rate: 'rate' },
    },
  ],
  measures: [
    {
      name: 'net',
      table: 'orders',
      expression: 'sum(net)',
      currency: { column: 'currency', rates: 'plan', to: 'EUR', at: 'own' },
    },
  ],
};
/** A page whose text says that a shop is furthest behind. */
export const page = (member: string) => [
  {
    id: 'p',
    title: 'P',
    rows: [
      {
        blocks: [
          {
            text: `# To know\n- ${member} is furthest behind\n- And more`,
            about: 'f',
            share: 12,
            claims: [{ kind: 'largest gap', member, standing: 'behind', text: `${member} is furthest behind` }],
          },
        ],
      },
    ],
  },
];
export const OUTLOOK = { benchmarks: [{ name: 'outlook', kind: 'forecast', method: 'same period last year' }] };
/** Three years of months, level or growing twofold each year. */
const months = (of: (year: number) => number) =>
  shops(
    ...Array.from({ length: 31 }, (_, i) => {
      const day = new Date(Date.UTC(2023, 6 + i, 5));
      return `${day.toISOString().slice(0, 10)},North,Web,${of(Math.floor(i / 12))},1`;
    }),
  );
export const YEARS = months(() => 100);
export const DOUBLED = months((year) => 100 * 2 ** year);
/** Rows that stand for quarters, and whose they are. */
export const QUARTERS = shops('2025-Q1,North,Web,5,3', '2025-Q2,North,Web,5,3', '2025-Q3,North,Web,5,3');
export const readAs = (read: string) => ({
  tables: [
    {
      id: 'orders',
      source: { file: 'orders.csv' },
      date: 'day',
      columns: [{ name: 'day', type: 'date', read }],
    },
    { id: 'plan', source: { file: 'plan.csv' }, date: 'month', grain: 'month' },
  ],
});

/** Each order finds its shop's plan. */
export const LOOKED_UP = [
  {
    id: 'orders',
    source: { file: 'orders.csv' },
    date: 'day',
    joins: [{ columns: ['shop'], to: 'plan', on: ['shop'] }],
  },
  { id: 'plan', source: { file: 'plan.csv' }, date: 'month', grain: 'month' },
];

/** Fiscal months that are listed: those of the calendar, from one on. */
export const monthsFrom = (first: string, count = 12) => ({
  calendar: {
    months: {
      first: first.slice(0, 7),
      from: Array.from({ length: count + 1 }, (_, i) => isoDay(addMonths(readIsoDay(first)!, i))),
    },
  },
});
