import { expect, test } from 'vitest';
import { editedPlain } from '../edit';
import { received } from '../problem';
import { readCsv } from '../reading';
import { checkReport, readReport, writeReport, type Report } from '../report';
import { makeTable } from '../table';
import { openDesk } from '.';

// What the Data and Numbers steps ask about amounts in several currencies, and what one press makes of them.

const FILES: Readonly<Record<string, readonly string[]>> = {
  sales: [
    'day,shop,currency,net,pieces',
    '2026-01-02,Alder,EUR,10,1',
    '2026-01-03,Birch,USD,20,2',
    '2026-02-04,Birch,USD,30,3',
  ],
  goals: ['month,money,goal', '2026-01,EUR,100', '2026-01,USD,200'],
  rates: ['month,currency,rate', '2026-01,USD,0.9', '2026-02,USD,0.8'],
};

async function opened(ids: readonly string[], files = FILES) {
  const report: Report = checkReport({
    boldRuler: 1,
    name: 'r',
    tables: ids.map((id) => ({ id, source: { file: `${id}.csv` } })),
    measures: [
      { name: 'net', table: 'sales', expression: 'sum(net)' },
      { name: 'price', table: 'sales', expression: 'sum(net) / sum(pieces)' },
      { name: 'pieces', table: 'sales', expression: 'sum(pieces)' },
    ],
    benchmarks: [{ name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)' }],
  });
  const read = await Promise.all(
    ids.map(async (id) => [id, makeTable(await readCsv(id, files[id]!.join('\n')), { id })] as const),
  );
  const desk = openDesk(new Map(read));
  return { report, asked: <K extends keyof typeof desk.asked>(name: K) => desk.asked[name] };
}

test('one press converts every amount of a table by the rates there are', async () => {
  const { report, asked } = await opened(['sales', 'goals', 'rates']);
  const several = received(await asked('severalCurrencies')(report, 'sales'))!;
  expect([several.by, several.codes]).toEqual([{ column: 'currency', isBeside: false }, ['EUR', 'USD']]);
  const to = { column: 'currency', rates: 'rates', to: 'EUR', at: 'own' };
  expect(several.amounts).toEqual([
    { kind: 'measure', name: 'net', currency: to, rates: { currency: 'currency', rate: 'rate' }, isGuess: false },
    {
      kind: 'measure',
      name: 'price',
      currency: { ...to, amounts: ['net'] },
      rates: { currency: 'currency', rate: 'rate' },
      isGuess: false,
    },
  ]);
  const goals = received(await asked('severalCurrencies')(report, 'goals'))!;
  expect(goals.amounts.map(({ kind, name }) => [kind, name])).toEqual([['benchmark', 'goal']]);
  const amounts = [...several.amounts, ...goals.amounts].map(({ kind, name, currency }) => ({ kind, name, currency }));
  const { report: converted } = editedPlain(report, {
    edit: 'convert-amounts',
    amounts,
    rates: several.amounts[0]!.rates!,
  });
  expect(received(await asked('severalCurrencies')(converted, 'sales'))).toBeNull();
  expect(received(await asked('severalCurrencies')(converted, 'goals'))).toBeNull();
  const valueOf = async (measure: string, field: string | null = null) =>
    received(await asked('value')(converted, { measure, against: null, field }));
  expect((await valueOf('net')).exact).toBe('€52.0');
  expect((await valueOf('price', 'shop')).rows.map(({ name }) => name)).toEqual(['Alder', 'Birch']);
  // As a file and back.
  expect(readReport(writeReport(converted))).toEqual(converted);
});

test('without rates it is told, and nothing is offered', async () => {
  const { report, asked } = await opened(['sales']);
  const several = received(await asked('severalCurrencies')(report, 'sales'))!;
  expect(several.amounts.map(({ currency }) => currency)).toEqual([null, null]);
  const offers = received(await asked('conversionOffers')(report, { table: 'sales', expression: 'sum(net)' }));
  expect(offers).toEqual({ columns: ['currency'], numbers: ['net'], tables: [], latest: null, offer: null });
});

test('what is offered where an expression is converted already', async () => {
  const { report, asked } = await opened(['sales', 'goals', 'rates']);
  const offers = received(
    await asked('conversionOffers')(report, {
      table: 'sales',
      expression: 'sum(net * pieces)',
      currency: { column: 'currency', rates: 'rates', to: 'EUR', at: 'own' },
    }),
  );
  expect([offers.numbers, offers.latest, offers.tables.map(({ id }) => id)]).toEqual([
    ['net', 'pieces'],
    '2026-02',
    ['rates'],
  ]);
});

test.each([
  ['the only currency of the rows that has no rate', FILES['rates']!, 'EUR', false],
  ['the one whose rate is 1', ['month,currency,rate', '2026-01,USD,1', '2026-01,EUR,1.1'], 'USD', false],
  ['the one the column names', ['month,currency,rate to CHF', '2026-01,USD,0.9', '2026-01,EUR,0.95'], 'CHF', false],
  [
    'none that is known: rates of all currencies of the rows',
    ['month,currency,rate', '2026-01,USD,0.9', '2026-01,EUR,0.95'],
    'EUR',
    true,
  ],
  [
    'none that is known: rates of none of them',
    ['month,currency,rate', '2026-01,GBP,1.2', '2026-01,CHF,1.1'],
    'EUR',
    true,
  ],
])('rates are to %s', async (_, rates, to, isGuess) => {
  const ids = ['sales', 'goals', 'rates'];
  const { report, asked } = await opened(ids, { ...FILES, rates });
  const marked = {
    ...report,
    tables: report.tables.map((one) =>
      one.id === 'rates' ? { ...one, rates: { currency: 'currency', rate: rates[0]!.split(',')[2]! } } : one,
    ),
  };
  const { offer } = received(await asked('conversionOffers')(marked, { table: 'sales', expression: 'sum(net)' }));
  expect([offer!.currency.to, offer!.isGuess]).toEqual([to, isGuess]);
});

test('cells with currencies beside their numbers are asked about, though they cannot be converted', async () => {
  const sales = ['day,shop,net,pieces', '2026-01-02,Alder,€ 10,1', '2026-01-03,Birch,$ 20,2'];
  const { report, asked } = await opened(['sales'], { sales });
  expect(received(await asked('severalCurrencies')(report, 'sales'))).toMatchObject({
    codes: ['EUR', 'USD'],
    by: { column: 'net', isBeside: true },
    amounts: [
      { name: 'net', currency: null },
      { name: 'price', currency: null },
    ],
  });
});
