import { expect, test } from 'vitest';
import { open } from '../workspace/opened.fixture';
import { edited, type Edit } from '.';

// What a conversion names follows what is called otherwise, and cannot lose what it rests on unnoticed.

const CURRENCY = { column: 'currency', rates: 'rates', to: 'EUR', at: 'own', amounts: ['net'] };
const desk = await open(
  {
    sales: ['day,shop,currency,net,pieces', '2025-01-10,Alder,USD,2,1', '2025-01-11,Birch,EUR,3,1'],
    rates: ['month,code,worth', '2025-01,USD,0.5'],
  },
  [
    { id: 'sales', date: 'day' },
    { id: 'rates', date: 'month', grain: 'month', rates: { currency: 'code', rate: 'worth' } },
  ],
  { measures: [{ name: 'net', table: 'sales', expression: 'sum(net * pieces)', currency: CURRENCY }] },
);
const after = (edit: Edit) =>
  edited(desk.report, edit, { vocabulary: desk.vocabulary, facts: desk.source.facts }).report;
const rename = (table: string, column: string, to: string) => after({ edit: 'rename-column', table, column, to });

test('the column of currencies, the amounts, the rates and their table are followed', () => {
  expect(rename('sales', 'currency', 'money').measures[0]!.currency).toEqual({ ...CURRENCY, column: 'money' });
  expect(rename('sales', 'net', 'constructor').measures[0]!.currency).toEqual({
    ...CURRENCY,
    amounts: ['constructor'],
  });
  expect(rename('rates', 'worth', 'rate').tables[1]!.rates).toEqual({ currency: 'code', rate: 'rate' });
  const { tables, measures } = after({ edit: 'rename-table', table: 'rates', name: 'fx' });
  expect([tables[1]!.id, measures[0]!.currency]).toEqual(['fx', { ...CURRENCY, rates: 'fx' }]);
});

test('what a conversion reads cannot be left out; with its table of rates it goes', () => {
  for (const [table, column] of [
    ['sales', 'currency'],
    ['rates', 'worth'],
    ['rates', 'code'],
  ] as const)
    expect(() => after({ edit: 'remove-column', table, column })).toThrow('is used by');
  expect(after({ edit: 'remove-table', table: 'rates' }).measures[0]).not.toHaveProperty('currency');
});
