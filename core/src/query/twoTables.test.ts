import { describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { numbersOf } from '../figure';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { answerBrief } from '.';

describe('measures of two tables', () => {
  const open = async () => {
    const report = checkReport({
      boldRuler: 1,
      name: 'x',
      tables: [
        { id: 'sales', source: { file: 'sales.csv' }, date: 'day' },
        { id: 'visits', source: { file: 'visits.csv' }, date: 'day' },
      ],
      measures: [
        { name: 'net', table: 'sales', expression: 'sum(net)' },
        { name: 'visitors', table: 'visits', expression: 'sum(visitors)' },
      ],
    });
    const tableOf = async (id: string, lines: readonly string[]) =>
      [id, makeTable(await readCsv(id, lines.join('\n')), { id, date: 'day' })] as const;
    const desk = workspaceFor(
      report,
      new Map([
        await tableOf('sales', ['day,shop,channel,net', '2025-01-05,Alder,Web,9', '2025-01-05,Birch,Web,4']),
        await tableOf('visits', ['day,shop,visitors', '2025-01-05,Birch,70', '2025-01-05,Cedar,30']),
      ]),
    );
    return async (brief: string) => numbersOf(await answerBrief(desk, readBrief(brief, desk.vocabulary)));
  };
  test('rows that only one of them has are rows, whichever is named first', async () => {
    const ask = await open();
    const rowsOf = async (brief: string) =>
      (await ask(brief)).rows.map(({ key, values }) => [key.shop, values?.net ?? null, values?.visitors ?? null]);
    const wanted = [
      ['Alder', 9, null],
      ['Birch', 4, 70],
      ['Cedar', null, 30],
    ];
    expect(await rowsOf('net, visitors by shop')).toEqual(wanted);
    expect(await rowsOf('visitors, net by shop')).toEqual(wanted);
  });
  test('a form that draws one measure has the rows of that alone', async () => {
    const ask = await open();
    const { rows } = await ask('net, visitors by shop as bars');
    expect(rows.map(({ key }) => key.shop)).toEqual(['Alder', 'Birch']);
  });
  test('a condition that one of them lacks leaves its column blank and says so, not the figure', async () => {
    const ask = await open();
    const { rows, checks } = await ask('net, visitors by shop, only channel is Web');
    expect(rows.map(({ values }) => [values?.net, values?.visitors])).toEqual([
      [9, null],
      [4, null],
    ]);
    expect(checks).toMatchObject([
      { code: 'left-blank', text: '“visitors” is left blank, as table “visits” has no “channel”' },
    ]);
  });
});

test('who lacks targets in part is told once, named alike whatever the order of fields', async () => {
  const goals = ['month,region,rep,goal', '2025-01,East,Bob,10', '2025-01,East,Ann,10', '2025-02,East,Ann,10'];
  const rows = [
    'day,region,rep,net',
    ...['2025-01-05', '2025-02-05'].flatMap((day) => [`${day},East,Bob,9`, `${day},East,Ann,9`]),
  ];
  const report = checkReport({
    boldRuler: 1,
    name: 'x',
    tables: [
      { id: 'sales', source: { file: 'sales.csv' }, date: 'day' },
      { id: 'goals', source: { file: 'goals.csv' }, date: 'month', grain: 'month' },
    ],
    measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
    benchmarks: [{ name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)' }],
  });
  const desk = workspaceFor(
    report,
    new Map([
      ['sales', makeTable(await readCsv('sales', rows.join('\n')), { id: 'sales', date: 'day' })],
      ['goals', makeTable(await readCsv('goals', goals.join('\n')), { id: 'goals', date: 'month', grain: 'month' })],
    ]),
  );
  const told = async (by: string) => {
    const brief = readBrief(`net by ${by} each month during 2025-01 to 2025-02 against goal`, desk.vocabulary);
    const { checks } = numbersOf(await answerBrief(desk, brief));
    return checks.filter(({ code }) => code === 'partly-covered').map(({ text }) => text);
  };
  const texts = await told('region, rep');
  expect(texts).toHaveLength(1);
  expect(texts[0]).toContain('has no target for Feb 2025 of East · Bob:');
  expect(await told('rep, region')).toEqual(texts);
  expect(await told('rep')).toEqual(texts);
});
