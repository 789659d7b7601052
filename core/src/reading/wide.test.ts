import { describe, expect, test } from 'vitest';
import { lineOf } from '../table';
import { lines, table, typed } from './read.fixture';

describe('wide tables', () => {
  test('a column a month is recognised, and becomes rows when that is wanted', async () => {
    const text = lines('shop,Jan 2025,Feb 2025,Mar 2025,note', 'Nord,1.5,2,,x', 'Süd,,4,5,y');
    expect((await table('x.csv', text)).wide).toEqual({
      name: 'month',
      grain: 'month',
      dated: true,
      values: [{ name: 'value', columns: ['Jan 2025', 'Feb 2025', 'Mar 2025'] }],
    });
    const long = await table('x.csv', text, { long: { name: 'month', value: 'net' } });
    expect([long.date, long.grain, Array.from(long.lines!)]).toEqual(['month', 'month', [2, 2, 3, 3]]);
    expect(await typed('x.csv', text, { long: { name: 'month', value: 'net' } })).toEqual({
      shop: ['text', 'Nord', 'Nord', 'Süd', 'Süd'],
      month: ['date', '2025-01', '2025-02', '2025-02', '2025-03'],
      net: ['number', '1.5', '2.0', '4.0', '5.0'],
      note: ['text', 'x', 'x', 'y', 'y'],
    });
  });
  test('actual and target a quarter give two columns', async () => {
    const text = lines(
      'shop;Q1 2025 actual;Q1 2025 target;Q2 2025 actual;Q2 2025 target;Q3 2025 actual;Q3 2025 target',
      'Nord;1;2;3;4;;6',
    );
    expect(await typed('x.csv', text, { long: { name: 'quarter' } })).toEqual({
      shop: ['text', 'Nord', 'Nord', 'Nord'],
      quarter: ['date', '2025-Q1', '2025-Q2', '2025-Q3'],
      actual: ['number', '1', '3', ''],
      target: ['number', '2', '4', '6'],
    });
  });
  test('a column a year, and months without a year', async () => {
    expect(
      await typed('x.csv', lines('shop,2023,2024,2025', 'Nord,1,2,3'), { long: { name: 'year', value: 'net' } }),
    ).toMatchObject({ year: ['date', '2023', '2024', '2025'] });
    expect(
      await typed('x.csv', lines('shop,Jan,Feb,Mar', 'Nord,1,2,3'), { long: { name: 'month', value: 'net' } }),
    ).toMatchObject({ month: ['text', 'January', 'February', 'March'] });
  });
  test('a column that is the sum of the others is no number of each month, and is told', async () => {
    const text = lines(
      'rep,Jan 2026,Feb 2026,Mar 2026,Q1 2026,Total 2026,bonus',
      'Nils,1.10,2,3,6.1,6.1,3',
      'Ines,2,2,,4,4,6.1',
    );
    const long = await table('x.csv', text, { long: { name: 'month', value: 'quota' } });
    expect(long.columns.map(({ name }) => name)).toEqual(['rep', 'month', 'quota', 'bonus']);
    expect(long.leftOutCounts).toEqual([
      { column: 'Q1 2026', reason: 'a column that is the sum of others', count: 2 },
      { column: 'Total 2026', reason: 'a column that is the sum of others', count: 2 },
    ]);
    const not = await table('x.csv', text.replace('6.1,6.1,3', '6.1,6.9,3'), { long: { name: 'month' } });
    expect(not.columns.map(({ name }) => name)).toContain('Total 2026');
  });
  test.each([
    [
      'years over months',
      ['Quotas', '', ',2025,,2026,,', 'rep,Nov,Dec,Jan,Feb,Mar', 'Nils,1,2,3,4,5'],
      ['rep', 'Nov 2025', 'Dec 2025', 'Jan 2026', 'Feb 2026', 'Mar 2026'],
      [5],
    ],
    [
      'months over measures',
      [
        'rep,Jan 2026,,Feb 2026,,Mar 2026,',
        ',sales,target,sales,target,sales,target',
        'Nils,1,2,3,4,5,6',
        'Ines,1,2,3,4,5,6',
      ],
      ['rep', ...['Jan', 'Feb', 'Mar'].flatMap((month) => [`${month} 2026 sales`, `${month} 2026 target`])],
      [3, 4],
    ],
    [
      'measures over quarters',
      [',,sales,,,target,,', 'rep,team,Q1 2026,Q2 2026,Q3 2026,Q1 2026,Q2 2026,Q3 2026', 'Nils,A,1,2,3,4,5,6'],
      ['rep', 'team', ...['sales', 'target'].flatMap((of) => [1, 2, 3].map((n) => `${of} Q${n} 2026`))],
      [3],
    ],
    [
      'a year over each month',
      [',2025,2025,2026', 'rep,Nov,Dec,Jan', 'Nils,1,2,3'],
      ['rep', 'Nov 2025', 'Dec 2025', 'Jan 2026'],
      [3],
    ],
  ])('two rows of names are read as one: %s', async (_, text, names, rowLines) => {
    const read = await table('x.csv', lines(...text));
    expect(read.columns.map(({ name }) => name)).toEqual(names);
    expect(Array.from({ length: read.rows }, (_row, row) => lineOf(row, read))).toEqual(rowLines);
    expect(read.wide?.dated).toBe(true);
  });
  test.each([
    [['day,shop,net', '2025-01-01,Alder,5', '2025-01-02,Birch,6']],
    [['year,shop,net', '2025,Alder,5', '2026,Birch,6']],
    [['a,b,c', 'Jan,Feb,Mar', '1,2,3']],
  ])('one row of names stays one: %j', async (text) =>
    expect((await table('x.csv', lines(...text))).columns.map(({ name }) => name)).toEqual(text[0]!.split(',')),
  );
  test('actual and target side by side are no wide table', async () =>
    expect((await table('x.csv', lines('month,actual,target', '2025-01,1,2'))).wide).toBeNull());
  test('a table that is not wide cannot become long', async () =>
    expect(table('x.csv', 'a,b\n1,2\n', { long: { name: 'month' } })).rejects.toThrow(/cannot become rows/));
});
