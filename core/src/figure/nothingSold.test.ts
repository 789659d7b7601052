import { describe, expect, test } from 'vitest';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { drawFigure, numbersOf } from '.';

// Nothing sold is zero where something stands beside it: four shops and one whose amount is blank, in the first quarter of 2025.

const SALES = [
  'day,shop,net',
  '2024-01-10,Alder,180',
  '2024-02-29,Birch,130',
  '2024-03-10,Cedar,40',
  '2025-01-15,Alder,240',
  '2025-02-14,Birch,180',
  '2025-03-18,Dune,30',
  '2025-03-25,Elm,',
  '2025-03-31,Dune,1',
];
const GOALS = ['month,shop,goal', '2025-03,Alder,31', '2025-03,Birch,62', '2025-03,Elm,20', '2025-05,Alder,5'];

async function drawn(brief: string) {
  const report = checkReport({
    boldRuler: 1,
    name: 'shops',
    tables: [
      { id: 'sales', source: { file: 'sales.csv' }, date: 'day' },
      { id: 'goals', source: { file: 'goals.csv' }, date: 'month', grain: 'month' },
    ],
    measures: [
      { name: 'net', table: 'sales', expression: 'sum(net)' },
      { name: 'mean', table: 'sales', expression: 'avg(net)' },
    ],
    benchmarks: [{ name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)' }],
    figures: [{ id: 'f', brief }],
  });
  const open = async (id: string, date: string, lines: readonly string[]) =>
    [id, makeTable(await readCsv(id, lines.join('\n')), { id, date })] as const;
  const tables = [await open('sales', 'day', SALES), await open('goals', 'month', GOALS)] as const;
  const { rows, scene } = await drawFigure(workspaceFor(report, new Map(tables)), report.figures[0]!);
  return {
    rows: numbersOf(rows).rows.map(({ key, step, actual, benchmark, gap, standing }) => [
      step ?? key.shop,
      actual,
      benchmark,
      gap,
      standing,
    ]),
    texts: scene.marks.flatMap((mark) => (mark.shape === 'text' ? [mark.text] : [])),
    badged: scene.marks.flatMap(({ role, key }) => (role === 'badge' && key?.['shop'] ? [key['shop']] : [])),
  };
}

describe('nothing sold', () => {
  test('against a target is behind it, and is counted so; a blank amount and what has no target are not', async () => {
    const { rows, texts } = await drawn('net by shop during 2025-03 against goal as bullet');
    expect(rows).toEqual([
      ['Alder', 0, 31, -31, 'behind'],
      ['Birch', 0, 62, -62, 'behind'],
      ['Dune', 31, null, null, null],
      ['Elm', null, 20, null, null],
    ]);
    expect(texts.join(' ')).toContain('2 of 2 behind, 1 without it, 1 without actuals');
    const { rows: worst } = await drawn('net by shop during 2025-03 against goal, keep 1 furthest behind');
    expect(worst).toEqual([['Birch', 0, 62, -62, 'behind']]);
  });
  test.each(['bars', 'table', 'dial', 'pairs'])(
    'against another period is new or gone, and named so: as %s',
    async (form) => {
      const brief = `net by shop during 2025-01-01 to 2025-03-31 against last year as ${form}`;
      const { rows, texts, badged } = await drawn(brief);
      expect(badged).toEqual(['Alder', 'Birch', 'Cedar', 'Dune']);
      expect(rows).toEqual([
        ['Alder', 240, 180, 60, 'ahead'],
        ['Birch', 180, 130, 50, 'ahead'],
        ['Cedar', 0, 40, -40, 'behind'],
        ['Dune', 31, 0, 31, 'ahead'],
        ['Elm', null, null, null, null],
      ]);
      expect(texts.filter((text) => /\b(?:new|gone)\b/.test(text)).map((text) => /new|gone/.exec(text)![0])).toEqual([
        'gone',
        'new',
      ]);
    },
  );
  test('in steps that are over is 0, in steps to come, before the data and of averages blank', async () => {
    const steps = async (view: string) =>
      (await drawn(`${view} each month during 2025-03 to 2025-05, only shop is Alder against goal as bars`)).rows;
    expect((await steps('net')).map((row) => row.slice(0, 4))).toEqual([
      ['2025-03', 0, 31, -31],
      ['2025-04', null, null, null],
      ['2025-05', null, 5, null],
    ]);
    expect((await steps('mean'))[0]!.slice(0, 4)).toEqual(['2025-03', null, 31, null]);
    expect(
      (await drawn('net by shop during 2024-01-01 to 2024-03-31 against last year')).rows.map((row) => row[2]),
    ).toEqual([null, null, null]);
  });
});
