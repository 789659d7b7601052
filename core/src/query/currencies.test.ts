import { describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { drawFigure, numbersOf } from '../figure';
import { readCsv } from '../reading';
import { appendRows } from '../table';
import { open } from '../workspace/opened.fixture';
import { answerBrief, waterfallFor } from '.';

// Amounts in several currencies: added up only where they were converted, told where they were not. What is expected is worked out by hand.

const SALES = [
  'day,shop,currency,net,pieces',
  '2025-01-10,Alder,EUR,100.50,2',
  '2025-01-31,Alder,USD,200,3',
  '2025-02-01,Alder,USD,200,5',
  '2025-02-14,Birch,£,10,1',
  '2025-02-15,Birch,eur,50,4',
  '2025-02-16,Cedar,CHF,80,6',
];
const RATES = [
  'month,currency,rate',
  '2025-01,USD,0.9',
  '2025-02,USD,0.95',
  '2025-01,GBP,1.2',
  '2025-02,GBP,1.25',
  '2024-01,USD,0.8',
];
const TO_EURO = { column: 'currency', rates: 'rates', to: 'EUR', at: 'own' };
const RATE_TABLE = { id: 'rates', date: 'month', grain: 'month', rates: { currency: 'currency', rate: 'rate' } };

const opened = (
  measure: object,
  {
    rates = RATES,
    sales = SALES,
    more = {},
  }: { rates?: readonly string[]; sales?: readonly string[]; more?: object } = {},
) =>
  open({ sales, rates }, [{ id: 'sales', date: 'day' }, RATE_TABLE], {
    measures: [{ name: 'net', table: 'sales', expression: 'sum(net)', ...measure }],
    ...more,
  });
async function asked(desk: Awaited<ReturnType<typeof opened>>, brief: string) {
  const { rows, total, checks } = numbersOf(await answerBrief(desk, readBrief(brief, desk.vocabulary)));
  return {
    rows: rows.map(({ key, step, actual }) => [step ?? Object.values(key)[0] ?? '', actual]),
    total: total.actual,
    told: checks.filter(({ code }) => code === 'rate-missing' || code === 'currencies-added'),
  };
}

describe('amounts of several currencies', () => {
  test('are not added up without a word', async () => {
    const desk = await opened({});
    const { told } = await asked(desk, 'net by shop');
    expect(told).toEqual([
      {
        code: 'currencies-added',
        severity: 'error',
        text: '“net” adds up amounts of several currencies, by “currency” of “sales”: EUR (2 rows), USD (2 rows), CHF (1 row) and 1 more',
      },
    ]);
    // By currency, of one of them, and of what has no currency there is nothing to be told.
    expect((await asked(desk, 'net by currency')).told).toEqual([]);
    expect((await asked(desk, 'net by shop, only currency is USD')).told).toEqual([]);
    expect((await asked(await opened({ expression: 'count(*)' }), 'net by shop')).told).toEqual([]);
    expect((await asked(await opened({ expression: 'sum(pieces)' }), 'net by shop')).told).toEqual([]);
  });

  test('are converted by the rate of each row’s own month before they are added up', async () => {
    const desk = await opened({ currency: TO_EURO });
    const { rows, told, total } = await asked(desk, 'net by shop during 2025-02');
    expect(rows).toEqual([
      ['Alder', 190],
      ['Birch', 62.5],
      ['Cedar', null],
    ]);
    expect(total).toBeNull();
    expect(told).toEqual([
      {
        code: 'rate-missing',
        severity: 'error',
        text: '“rates” has no rate to EUR for CHF in Feb 2025 (1 row with 80): “net” is blank wherever it counts them',
      },
    ]);
    const steps = await asked(desk, 'net each month during fiscal 2025, only shop is Alder');
    expect(steps.rows.slice(0, 2)).toEqual([
      ['2025-01', 280.5],
      ['2025-02', 190],
    ]);
    expect(steps.told).toEqual([]);
  });

  test('or all by the rate of one period', async () => {
    const desk = await opened({ currency: { ...TO_EURO, at: '2025-01' } });
    expect((await asked(desk, 'net by shop, only shop is Alder or Birch')).rows).toEqual([
      ['Alder', 460.5],
      ['Birch', 62],
    ]);
    // The last rate of a year.
    const year = await opened({ currency: { ...TO_EURO, at: '2024' } });
    expect((await asked(year, 'net by shop, only shop is Alder')).rows).toEqual([['Alder', 420.5]]);
    const none = await opened({ currency: { ...TO_EURO, at: '2023' } });
    expect((await asked(none, 'net by shop, only shop is Alder')).rows).toEqual([['Alder', null]]);
    await expect(opened({ currency: { ...TO_EURO, at: 'soon' } })).rejects.toThrow('must be “own”');
  });

  test('what a missing rate leaves blank is blank in every sum that counts it, and its rank too', async () => {
    const desk = await opened({ currency: TO_EURO });
    const { rows } = numbersOf(
      await answerBrief(desk, readBrief('rank of net by shop during 2025-02', desk.vocabulary)),
    );
    expect(rows.map(({ key, rank }) => [key['shop'], rank ?? null])).toEqual([
      ['Alder', 1],
      ['Birch', 2],
      ['Cedar', null],
    ]);
    const running = await asked(desk, 'cumulative net each month during fiscal 2025');
    expect(running.rows.slice(0, 2)).toEqual([
      ['2025-01', 280.5],
      ['2025-02', null],
    ]);
  });

  test('who lacks a rate is neither level nor gone, counted nowhere, and in no waterfall', async () => {
    const sales = [...SALES, '2024-02-10,Alder,EUR,1,1', '2024-02-10,Birch,USD,1,1', '2024-02-10,Cedar,EUR,4,1'];
    const desk = await opened({ currency: TO_EURO }, { sales });
    // Cedar lacks this year's rate, Birch last year's.
    const brief = 'net by shop during 2025-02 against last year';
    const figure = { id: 'f', brief: `${brief} as bullet`, look: {} };
    const drawn = await drawFigure({ ...desk, report: { ...desk.report, figures: [figure] } }, figure);
    const rows = numbersOf(drawn.cells).rows.map(({ key, actual, benchmark, gap, standing }) => [
      key['shop'],
      actual,
      benchmark,
      gap ?? null,
      standing ?? null,
    ]);
    expect(rows).toEqual([
      ['Alder', 190, 1, 189, 'ahead'],
      ['Birch', 62.5, null, null, null],
      ['Cedar', null, 4, null, null],
    ]);
    const words = [
      drawn.scene.description,
      ...drawn.scene.marks.flatMap((mark) => ('text' in mark ? [mark.text] : [])),
    ].join(' ');
    expect(words).not.toMatch(/gone|new\b|level|of 3 behind/);
    const told = drawn.cells.checks.filter(({ code }) => code === 'rate-missing').map(({ text }) => text);
    expect(told).toEqual([
      '“rates” has no rate to EUR for CHF in Feb 2025 (1 row with 80): “net” is blank wherever it counts them',
      '“rates” has no rate to EUR for USD in Feb 2024 (1 row with 1): “last year” is blank wherever it counts them',
    ]);
    const cells = await answerBrief(desk, readBrief(`${brief} as waterfall`, desk.vocabulary));
    expect(() => waterfallFor(cells)).toThrow('exchange rates are missing for Birch and Cedar');
    const known = await answerBrief(desk, readBrief(`${brief} as waterfall, only shop is Alder`, desk.vocabulary));
    expect(waterfallFor(known).steps.map(({ value }) => value)).toEqual([1, 189, 190]);
  });

  test('averages and extremes are of converted amounts; what counts pieces stays as it is', async () => {
    const average = await opened({ expression: 'avg(net)', currency: TO_EURO });
    expect((await asked(average, 'net by shop, only shop is Birch')).rows).toEqual([['Birch', 31.25]]);
    const most = await opened({ expression: 'max(net)', currency: TO_EURO });
    expect((await asked(most, 'net by shop, only shop is Alder')).rows).toEqual([['Alder', 190]]);
    const price = await opened({
      expression: 'sum(net) / sum(pieces)',
      currency: { ...TO_EURO, amounts: ['net'] },
    });
    expect((await asked(price, 'net by shop, only shop is Alder')).rows).toEqual([['Alder', 47.05]]);
    const product = await opened({ expression: 'sum(net * pieces)', currency: { ...TO_EURO, amounts: ['net'] } });
    expect((await asked(product, 'net by shop, only shop is Birch')).rows).toEqual([['Birch', 212.5]]);
    const unsaid = await opened({ expression: 'sum(net * pieces)', currency: TO_EURO });
    await expect(asked(unsaid, 'net by shop')).rejects.toThrow('it is not said which of them are amounts');
  });

  test('written beside the numbers are told, in one file and in files put together', async () => {
    const tell = async (lines: readonly string[], brief = 'net by shop') => {
      const desk = await open({ sales: lines }, [{ id: 'sales', date: 'day' }], {
        measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
      });
      return (await asked(desk, brief)).told.map(({ text }) => text);
    };
    const said =
      '“net” adds up amounts of several currencies: the cells of “net” of “sales” have EUR and USD beside them';
    expect(await tell(['day,shop,net', '2025-01-01,A,€ 12', '2025-01-02,B,$ 15', '2025-01-03,A,8'])).toEqual([said]);
    expect(await tell(['day,shop,net', '2025-01-01,A,€ 12', '2025-01-02,B,15 EUR', '2025-01-03,A,8'])).toEqual([]);
    expect(await tell(['day,shop,net', '2025-01-01,A,12%', '2025-01-02,B,$ 15'])).toEqual([]);
    const read = async (lines: readonly string[]) => readCsv('sales', lines.join('\n'));
    const [march, april] = [await read(['day,net', '2025-03-01,€ 1']), await read(['day,net', '2025-04-01,$ 2'])];
    const [, net] = appendRows(march, april, ['march.csv', 'april.csv']).columns;
    expect(net).toMatchObject({ units: ['EUR', 'USD'] });
    expect(net).not.toHaveProperty('unit');
  });

  test('a month that has no rate is named as the rates’ calendar has it, not as the report’s', async () => {
    const desk = await open(
      {
        sales: ['day,currency,net', '2025-01-30,USD,5', '2025-02-03,USD,7'],
        rates: ['month,currency,rate', '2025-03,USD,1'],
      },
      [
        { id: 'sales', date: 'day' },
        { ...RATE_TABLE, columns: [{ name: 'month', type: 'date', read: 'calendar yyyy-MM' }] },
      ],
      {
        measures: [{ name: 'net', table: 'sales', expression: 'sum(net)', currency: TO_EURO }],
        calendar: { weeks: { pattern: '4-4-5', ends: 'saturday', on: 'last', of: 1 } },
      },
    );
    expect((await asked(desk, 'net during all time')).told[0]!.text).toContain(
      'USD in Feb 2025 (1 row with 7) and USD in Jan 2025 (1 row with 5)',
    );
  });

  test('a column called order_count is no amount', async () => {
    const sales = ['day,shop,currency,order_count', '2025-01-10,Alder,EUR,1', '2025-01-10,Alder,USD,2'];
    const desk = await opened({ expression: 'sum(order_count)' }, { sales });
    expect((await asked(desk, 'net by shop')).told).toEqual([]);
  });

  test('two rates for one month are none', async () => {
    const desk = await opened({ currency: TO_EURO }, { rates: [...RATES, '2025-02,GBP,1.3'] });
    const { rows, told } = await asked(desk, 'net by shop, only shop is Birch');
    expect(rows).toEqual([['Birch', null]]);
    expect(told[0]!.text).toContain('GBP in Feb 2025 (1 row with 10; there are several rates)'.replace('GBP', '£'));
  });

  test('a rate of a day holds until the next one, at most a week', async () => {
    const sales = ['day,currency,net', '2025-01-03,USD,1', '2025-01-05,USD,1', '2025-01-10,USD,1'];
    const day = { ...RATE_TABLE, date: 'day', grain: 'day' };
    const desk = await open(
      { sales, rates: ['day,currency,rate', '2025-01-03,USD,0.9', '2025-01-02,USD,0.8'] },
      [{ id: 'sales', date: 'day' }, day],
      { measures: [{ name: 'net', table: 'sales', expression: 'sum(net)', currency: TO_EURO }] },
    );
    const { rows } = await asked(desk, 'net each day during 2025-01');
    expect(rows.filter(([, actual]) => actual !== null)).toEqual([
      ['2025-01-03', 0.9],
      ['2025-01-05', 0.9],
    ]);
  });

  test('targets are converted as their benchmark says', async () => {
    const goals = ['month,currency,goal', '2025-01,USD,300', '2025-01,EUR,100'];
    const benchmark = { name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)' };
    const with_ = (more: object) =>
      open(
        { sales: SALES, rates: RATES, goals },
        [{ id: 'sales', date: 'day' }, RATE_TABLE, { id: 'goals', date: 'month', grain: 'month' }],
        {
          measures: [{ name: 'net', table: 'sales', expression: 'sum(net)', currency: TO_EURO }],
          benchmarks: [{ ...benchmark, ...more }],
        },
      );
    const brief = 'net during 2025-01 against goal';
    const heldIn = async (desk: Awaited<ReturnType<typeof with_>>) =>
      numbersOf(await answerBrief(desk, readBrief(brief, desk.vocabulary)));
    const converted = await heldIn(await with_({ currency: TO_EURO }));
    expect([converted.total.actual, converted.total.benchmark]).toEqual([280.5, 370]);
    const plain = await heldIn(await with_({}));
    expect(plain.checks.map(({ code }) => code)).toContain('currencies-added');
  });

  test('names nobody thinks of: columns and members like constructor', async () => {
    const sales = ['day,shop,constructor,net', '2025-01-10,__proto__,USD,10', '2025-01-11,toString,EUR,5'];
    const rates = ['month,constructor,valueOf', '2025-01,USD,0.5'];
    const desk = await open(
      { sales, rates },
      [
        { id: 'sales', date: 'day' },
        { id: 'rates', date: 'month', grain: 'month', rates: { currency: 'constructor', rate: 'valueOf' } },
      ],
      {
        measures: [
          { name: 'net', table: 'sales', expression: 'sum(net)', currency: { ...TO_EURO, column: 'constructor' } },
        ],
      },
    );
    expect((await asked(desk, 'net by shop')).rows).toEqual([
      ['__proto__', 5],
      ['toString', 5],
    ]);
  });

  test.each([
    [{ ...TO_EURO, column: 'money' }, 'there is no column “money” in “sales”'],
    [{ ...TO_EURO, column: 'net' }, '“net” holds no currencies'],
    [{ ...TO_EURO, rates: 'prices' }, 'there is no table “prices” of rates'],
    [{ ...TO_EURO, rates: 'sales' }, '“sales” is not said to hold rates'],
  ])('%o is told where it does not fit', async (currency, said) => {
    await expect(asked(await opened({ currency }), 'net by shop')).rejects.toThrow(said);
  });
});
