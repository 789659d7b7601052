import { describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { numbersOf } from '../figure';
import { answerBrief } from '../query';
import { fileOf } from '../reading';
import { likelyMain, useOf } from '../report';
import { lookupOffers, makeTable } from '../table';
import { readCsv } from '../reading';
import { bareReport, readBare, together, workspaceFor } from '.';

// What is made of files that nobody has described: what each is for, how they hang together, what the first figure says.

const ORDERS = [
  'order no,day,product code,rep,discount,net',
  '1,2025-01-07,P01,Nils Ohara,10%,100',
  '2,2025-01-08,P02,Ines Vale,0%,200',
  '3,2025-02-03,P01,Ines Vale,5%,50',
  '4,2025-02-05,P03,Nils Ohara,20%,300',
  '5,2025-03-05,P02,Nils Ohara,0%,150',
];
const PRODUCTS = ['code,family,list price', 'P01,Keys,19.90', 'P02,Brass,250', 'P03,Keys,89', 'P04,Drums,35'];
const PRICES = ['product code,price', 'P01,19.90', 'P02,250', 'P03,89'];
const SUPPLIERS = ['family,supplier', 'Keys,Ashdown', 'Brass,Corvane', 'Drums,Corvane'];
const QUOTAS = ['Rep,Jan 2025,Feb 2025,Mar 2025,Apr 2025', 'Nils Ohara,80,90,100,110', 'Ines Vale,150,60,70,80'];
const SURVEY = [
  'day,rep,Helpfulness (1-5)',
  '2025-01-09,Nils Ohara,4',
  '2025-01-10,Ines Vale,5',
  '2025-02-10,Ines Vale,2',
];
const TEAMS = [
  'rep,from,team',
  'Nils Ohara,2024-01-01,North',
  'Nils Ohara,2025-02-01,South',
  'Ines Vale,2024-01-01,North',
];

async function bare(files: Readonly<Record<string, readonly string[]>>) {
  const known = await Promise.all(
    Object.entries(files).map(([id, lines]) =>
      readBare({ id, source: { file: `${id}.csv` } }, fileOf(`${id}.csv`, new TextEncoder().encode(lines.join('\n')))),
    ),
  );
  const report = bareReport(known[0]!.entry.id, known);
  const desk = workspaceFor(report, new Map(known.map(({ entry, table }) => [entry.id, table])));
  const rows = async (brief: string) => numbersOf(await answerBrief(desk, readBrief(brief, desk.vocabulary))).rows;
  return { report, desk, rows };
}

describe('of files nobody has described', () => {
  test('rates beside rows in several currencies are rates, and targets in several currencies are targets', async () => {
    const sales = ['day,shop,currency,net', '2025-01-10,Alder,EUR,1', '2025-02-10,Birch,USD,2'];
    const rates = ['month,currency,rate', '2025-01,USD,0.9'];
    const goals = ['month,currency,goal', '2025-01,EUR,5', '2025-01,USD,7'];
    const { report } = await bare({ sales, rates, goals });
    expect(report.tables.map(({ id, rates: of }) => [id, of])).toEqual([
      ['sales', undefined],
      ['rates', { currency: 'currency', rate: 'rate' }],
      ['goals', undefined],
    ]);
    expect(report.measures.map(({ name }) => name)).toEqual(['net']);
    expect(report.benchmarks.flatMap((one) => (one.kind === 'table' ? [one.table] : []))).toContain('goals');
  });

  describe('the first figure of rows nobody has described', () => {
    const first = async (header: string, rows: readonly string[]) =>
      (await bare({ sales: [header, ...rows] })).report.figures[0]!.brief;
    const days = Array.from({ length: 40 }, (_, i) => `2025-0${1 + (i % 6)}-1${i % 9}`);

    test('is by the field of few members that differ most', async () => {
      // Of three regions one has nearly all; the four channels have the same.
      const rows = days.map(
        (day, i) => `${day},${['a', 'b', 'c', 'd'][i % 4]},${i < 30 ? 'North' : i < 35 ? 'South' : 'East'},10`,
      );
      expect(await first('day,channel,region,net', rows)).toBe('"net" by "region" as bullet');
      const turned = days.map(
        (day, i) =>
          `${day},${i % 5 === 0 ? 'a' : i % 5 === 1 ? 'b' : 'c'},${['N', 'S', 'E'][i % 3]},${i % 5 < 2 ? 1 : 90}`,
      );
      expect(await first('day,channel,region,net', turned)).toBe('"net" by "channel" as bullet');
    });
    test('is not by what names rows one by one, by two members where there are more, or by a currency', async () => {
      const rows = days.map(
        (day, i) => `${day},C-${1000 + i},${i % 2 ? 'yes, new' : 'old'},${i % 7 ? 'EUR' : 'USD'},${'PQR'[i % 3]},10`,
      );
      const quoted = rows.map((row) => row.replace('yes, new', 'new'));
      expect(await first('day,contract,status,currency,line,net', quoted)).toBe('"net" by "line" as bullet');
      expect(
        await first(
          'day,contract,currency,net',
          quoted.map((row) => row.replace(/,(?:new|old),/, ',').replace(/,[PQR],/, ',')),
        ),
      ).toBe('"net" as headline');
    });
    test('is of the current year where rows are of several, also against targets', async () => {
      const rows = ['2024-03-01,a,1', '2024-04-01,b,2', '2025-02-01,c,3', '2025-03-01,a,9'];
      expect(await first('day,shop,net', rows)).toBe(
        '"net" by "shop" during year to date against "last year" as bullet',
      );
      const { report } = await bare({
        sales: ['day,shop,net', ...rows],
        targets: ['month,shop,target', ...['2024-03', '2024-04', '2025-02', '2025-03'].map((month) => `${month},a,5`)],
      });
      expect(report.figures[0]!.brief).toContain('during year to date against');
    });
  });

  test('the first is measured: amounts are added up, and of rates, prices and scores the mean is taken', async () => {
    const { report } = await bare({ orders: ORDERS, survey: SURVEY });
    expect(report.measures.map(({ name, table, expression }) => [name, table, expression])).toEqual([
      ['order no', 'orders', 'sum("order no")'],
      ['discount', 'orders', 'avg("discount")'],
      ['net', 'orders', 'sum("net")'],
      ['Helpfulness (1-5)', 'survey', 'avg("Helpfulness (1-5)")'],
    ]);
  });

  test.each([
    ['products', PRODUCTS, 'lookup', [{ columns: ['product code'], to: 'products', on: ['code'] }]],
    ['prices', PRICES, 'lookup', [{ columns: ['product code'], to: 'prices', on: ['product code'] }]],
    ['teams', TEAMS, 'lookup', [{ columns: ['rep'], to: 'teams', on: ['rep'], since: 'from' }]],
    ['survey', SURVEY, 'rows', undefined],
    ['quotas', QUOTAS, 'targets', undefined],
    ['targets', ['rep,value', 'Nils Ohara,500', 'Ines Vale,400'], 'targets', undefined],
  ])('%s are for what they are for', async (id, lines, use, joins) => {
    const { report } = await bare({ orders: ORDERS, [id]: lines });
    expect(useOf(report, id)).toBe(use);
    expect(report.tables[0]!.joins).toEqual(joins);
    const held = report.benchmarks.flatMap((one) => (one.kind === 'table' ? [one.table] : []));
    expect(new Set(held)).toEqual(new Set(use === 'targets' ? [id] : []));
  });

  test('lookups go on from lookups', async () => {
    const { report, rows } = await bare({ orders: ORDERS, suppliers: SUPPLIERS, products: PRODUCTS });
    expect(report.tables.map(({ id, joins = [] }) => [id, joins.map(({ to }) => to)])).toEqual([
      ['orders', ['products']],
      ['suppliers', []],
      ['products', ['suppliers']],
    ]);
    expect((await rows('net by supplier as bars')).map(({ key, actual }) => [key['supplier'], actual])).toEqual([
      ['Ashdown', 450],
      ['Corvane', 350],
    ]);
  });

  test('a sheet of quotas with a column for each month is read as rows, and the first figure is held against them, up to now', async () => {
    const { report, rows } = await bare({ orders: ORDERS, quotas: QUOTAS });
    expect(report.tables[1]).toMatchObject({ long: { name: 'month' }, date: 'month' });
    expect(report.figures[0]!.brief).toBe('"net" by "rep" during year to date against "quotas" as bullet');
    const told = (await rows(report.figures[0]!.brief)).map(({ key, actual, benchmark }) => [
      key['rep'],
      actual,
      benchmark!.toFixed(6),
    ]);
    expect(told).toEqual([
      ['Ines Vale', 250, (150 + 60 + (70 * 5) / 31).toFixed(6)],
      ['Nils Ohara', 550, (80 + 90 + (100 * 5) / 31).toFixed(6)],
    ]);
  });
});

test('what is measured is what has amounts of days and no targets, however many rows the others have', async () => {
  const known = async (id: string, lines: readonly string[]) =>
    readBare({ id, source: { file: `${id}.csv` } }, fileOf(`${id}.csv`, new TextEncoder().encode(lines.join('\n'))));
  const all = [
    await known('quotas', QUOTAS),
    await known('survey', [...SURVEY, ...SURVEY.slice(1), ...SURVEY.slice(1)]),
    await known('products', PRODUCTS),
    await known('orders', ORDERS),
  ];
  expect(likelyMain(all).map(({ entry }) => entry.id)).toEqual(['orders', 'quotas', 'survey', 'products']);
  const small = [
    await known('Plan', ['shop,goal', 'Nord,5']),
    await known('Sales', ['shop,kind,net', 'Nord,a,1', 'Süd,b,2']),
  ];
  expect(likelyMain(small).map(({ entry }) => entry.id)).toEqual(['Sales', 'Plan']);
});

test('a lookup is offered where each key stands once and most rows find theirs, the column of the same name first', async () => {
  const table = async (id: string, lines: readonly string[]) => makeTable(await readCsv(id, lines.join('\n')), { id });
  const orders = await table('orders', ORDERS);
  const offers = async (lines: readonly string[]) => lookupOffers(orders, await table('more', lines));
  expect(await offers(PRODUCTS)).toEqual([{ columns: ['product code'], to: 'more', on: ['code'], found: 1, lost: 0 }]);
  expect(await offers(PRODUCTS.slice(0, 3))).toEqual([
    { columns: ['product code'], to: 'more', on: ['code'], found: 0.8, lost: 1 },
  ]);
  expect(await offers([...PRODUCTS, 'P01,Keyboards,1'])).toEqual([]);
  expect(await offers(['code', 'P01', 'P02', 'P03'])).toEqual([]);
  expect(await offers(['x,y', 'a,b', 'c,d'])).toEqual([]);
  expect(await offers(['no,remark', '1,late', '2,gift', '3,late', '4,none', '5,none'])).toEqual([]);
  expect(await offers(['Order No.,remark', '1,late', '2,gift', '3,late', '4,none', '5,none'])).toMatchObject([
    { columns: ['order no'], on: ['Order No.'] },
  ]);
  expect(
    await offers([
      'rep,product code,commission rate',
      'Nils Ohara,P01,1',
      'Nils Ohara,P03,2',
      'Ines Vale,P02,3',
      'Ines Vale,P01,2',
      'Nils Ohara,P02,1',
    ]),
  ).toEqual([{ columns: ['rep', 'product code'], to: 'more', on: ['rep', 'product code'], found: 1, lost: 0 }]);
});

test('files of one layout whose names differ in a month are one table, but not where a day is in both', async () => {
  const month = (id: string, ...rows: readonly string[]) =>
    readBare(
      { id, source: { file: `${id}.csv` } },
      fileOf(`${id}.csv`, new TextEncoder().encode(['day,shop,net', ...rows].join('\n'))),
    );
  const files = [
    await month('sales 2026-02', '2026-02-01,Alder,2', '2026-02-03,Birch,4.5'),
    await month('sales 2026-01', '2026-01-05,Alder,1', '2026-01-06,Cedar,3'),
    await month('shops', '2026-01-05,Alder,9'),
  ];
  const { groups, made } = together(files);
  expect(groups.map(({ joined: { entry, table } }) => [entry.id, entry.source, table.rows])).toEqual([
    ['sales', { file: 'sales 2026-01.csv and 1 more file', files: ['sales 2026-01.csv', 'sales 2026-02.csv'] }, 4],
    ['shops', { file: 'shops.csv' }, 1],
  ]);
  expect(made.size).toBe(0);
  const apart = together(files, new Set(['sales']));
  expect(apart.groups.map(({ joined }) => joined.entry.id)).toEqual(['sales 2026-01', 'shops']);
  const both = await month('sales 2026-03', '2026-02-03,Alder,2');
  expect(together([...files, both]).groups.map(({ joined }) => joined.entry.id)).toEqual([
    'sales',
    'shops',
    'sales 2026-03',
  ]);
});
