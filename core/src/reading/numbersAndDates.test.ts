import { describe, expect, test } from 'vitest';
import { cellText } from '../table';
import { left, lines, table, typed } from './read.fixture';

// Numbers and dates as people write them, whatever else stands in their column.

describe('numbers', () => {
  test.each<[string, string[], string[]]>([
    ['1,234.56', ['1,234.56', '12', '-0.5'], ['1234.56', '12.00', '-0.50']],
    ['1.234,56', ['1.234,56', '12', '-0,5'], ['1234.56', '12.00', '-0.50']],
    ['spaces that group', ['1 234,56', '1\u00a0234,5', '1\u202f234'], ['1234.56', '1234.50', '1234.00']],
    ['apostrophes that group', ["1'234.56", '1’000', '7'], ['1234.56', '1000.00', '7.00']],
    ['minus in parentheses, behind, and as a sign of its own', ['(1,234)', '1,234-', '−5'], ['-1234', '-1234', '-5']],
    ['money before and behind', ['€ 12', '12 EUR', '12,50 €'], ['12.00', '12.00', '12.50']],
    ['percent', ['12 %', '7.5%', '-3%'], ['0.120', '0.075', '-0.030']],
    ['exponents', ['1.2e6', '5E-1', '3'], ['1200000', '0.5', '3']],
    ['nothing in several words', ['1', 'n/a', '–', '-', 'NULL', '#N/A', '.', ''], ['1', '', '', '', '', '', '', '']],
  ])('%s', async (_, cells, values) => {
    const text = lines('x\ty', ...cells.map((cell) => `${cell}\t1`));
    expect((await typed('x.tsv', text))['x']).toEqual(['number', ...values]);
  });
  test('what stood beside them is remembered', async () => {
    const read = await table('x.csv', lines('a;b;c;d', '€ 1;5%;1 USD;€ 1', '€ 2;6%;2 USD;£ 2'));
    expect(read.columns.map((column) => (column.kind === 'number' ? column.unit : 'none'))).toEqual([
      'EUR',
      '%',
      'USD',
      undefined,
    ]);
  });
  test('postcodes and other codes with a zero in front are text, also when it comes late', async () => {
    const text = lines('zip', ...Array.from({ length: 30_000 }, (_, i) => String(10_000 + i)), '00501');
    expect((await table('x.csv', text)).columns[0]).toMatchObject({ kind: 'text', blank: 0 });
  });
  test('1.234 could be two numbers: it is asked, unless a column beside it or the delimiter tells', async () => {
    const doubtful = await table('x.csv', lines('net;n', '1.234;a', '5.678;b'));
    expect(doubtful.doubts).toEqual([
      {
        column: 'net',
        kind: 'number',
        readings: [
          { read: '1,234.5', raw: '1.234', as: '1.234' },
          { read: '1.234,5', raw: '1.234', as: '1234' },
        ],
      },
    ]);
    expect(
      (
        await typed('x.csv', lines('net;n', '1.234;a', '5.678;b'), {
          columns: [{ name: 'net', type: 'number', read: '1.234,5' }],
        })
      )['net'],
    ).toEqual(['number', '1234', '5678']);
    const beside = await table('x.csv', lines('net;cost', '1.234;1,5', '5.678;2,5'));
    expect([beside.doubts, cellText(beside.columns[0]!, 0)]).toEqual([[], '1234']);
    expect((await table('x.csv', lines('net,n', '1.234,a', '5.678,b'))).doubts).toEqual([]);
  });
  test('what does not fit is kept with its place', async () =>
    expect(await left('x.csv', lines('net', '1', '2', 'much', '4', '5', '6'))).toEqual([
      [4, 'net', 'much', 'not a number'],
    ]));
});

describe('dates', () => {
  test.each<[string, string[], string[]]>([
    [
      'ISO, also with time and zone',
      ['2025-03-01', '2025-3-2 10:15', '2025-03-03T23:59:59.5Z'],
      ['2025-03-01', '2025-03-02', '2025-03-03'],
    ],
    ['day first, told by one', ['03/04/2025', '25/12/2025'], ['2025-04-03', '2025-12-25']],
    ['month first, told by one', ['03/04/2025', '12/25/2025'], ['2025-03-04', '2025-12-25']],
    ['with full stops', ['3.4.2025', '03. 12. 2025'], ['2025-04-03', '2025-12-03']],
    ['two digits of the year', ['31/12/69', '31/12/70'], ['2069-12-31', '1970-12-31']],
    ['names of months', ['3 Mar 2025', '14-Apr-25', 'Tue, 1st July 2025'], ['2025-03-03', '2025-04-14', '2025-07-01']],
    ['names of months first', ['March 3, 2025', 'Dec 31 2025'], ['2025-03-03', '2025-12-31']],
    [
      'names of months in other languages',
      ['3 März 2025', '14 août 2025', '5. Dezember 2025'],
      ['2025-03-03', '2025-08-14', '2025-12-05'],
    ],
    ['ISO among others', ['13/04/2025', '2025-05-01'], ['2025-04-13', '2025-05-01']],
    ['months as numbers', ['2025-09', '2025-10'], ['2025-09', '2025-10']],
    ['months first', ['09/2025', '10/2025'], ['2025-09', '2025-10']],
    ['months by name', ['Sep 2025', 'October 2025', 'Nov-25'], ['2025-09', '2025-10', '']],
    ['months by name and short year', ['Sep-25', "Oct '25"], ['2025-09', '2025-10']],
    ['quarters', ['Q1 2026', 'q4 2025'], ['2026-Q1', '2025-Q4']],
    ['quarters behind the year', ['2026-Q1', '2026Q2'], ['2026-Q1', '2026-Q2']],
    ['eight digits', ['20250301', '20250302', '20251231'], ['2025-03-01', '2025-03-02', '2025-12-31']],
    ['spreadsheet serials under a name that says so', ['45717', '45718.5'], ['2025-03-01', '2025-03-02']],
    ['seconds and milliseconds of computers', ['1740787200', '1740873600'], ['2025-03-01', '2025-03-02']],
  ])('%s', async (_, cells, values) => {
    const text = lines('order date\ty', ...cells.map((cell) => `${cell}\t1`));
    const read = (await typed('x.tsv', text))['order date'];
    if (values.includes('')) expect(read![0]).toBe('text');
    else expect(read).toEqual(['date', ...values]);
  });
  test('serials, years and digits under any other name are numbers', async () =>
    expect(
      await typed('x.csv', lines('amount,year,month', '45717,2024,1', '45718,2025,2', '45719,2026,3')),
    ).toMatchObject({
      amount: ['number', '45717', '45718', '45719'],
      year: ['number', '2024', '2025', '2026'],
    }));
  test('months, quarters and years set the grain of the table', async () => {
    const grains = ['2025-09|2025-10', 'Q1 2026|Q2 2026', '2024|2025', '2025-01-01|2025-02-01'].map(async (cells) => {
      const [a, b] = cells.split('|');
      return (await table('x.csv', lines('year;net', `${a};1`, `${b};2`))).grain;
    });
    expect(await Promise.all(grains)).toEqual(['month', 'quarter', 'year', 'month']);
  });
  test('an order that no row settles is asked, with both readings, and settled by an answer or a column beside it', async () => {
    const text = lines('day;net', '03/04/2025;1', '05/06/2025;2');
    expect((await table('x.csv', text)).doubts).toEqual([
      {
        column: 'day',
        kind: 'date',
        readings: [
          { read: 'dd/MM/yyyy', raw: '03/04/2025', as: '3 April 2025' },
          { read: 'MM/dd/yyyy', raw: '03/04/2025', as: '4 March 2025' },
        ],
      },
    ]);
    const answered = { columns: [{ name: 'day', type: 'date' as const, read: 'MM/dd/yyyy' }] };
    expect((await table('x.csv', text, answered)).doubts).toEqual([]);
    const beside = await table('x.csv', lines('day;sent', '03/04/2025;03/14/2025', '05/06/2025;05/07/2025'));
    expect([beside.doubts, cellText(beside.columns[0]!, 0)]).toEqual([[], '2025-03-04']);
  });
});
