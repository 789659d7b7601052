import { expect, test } from 'vitest';
import { completeExpression } from '.';

test('an expression is completed with functions and columns, quoted where they must be, and not inside a text', () => {
  const columns = new Map([
    ['net', 'number'],
    ['product line', 'text'],
    ['sum', 'number'],
  ] as const);
  const at = (text: string) => completeExpression(text, text.length, columns).map((one) => one.text);
  expect(at('su')).toEqual(['sum(', 'sum']);
  expect(at('sum(ne')).toEqual(['net', '"product line"']);
  expect(at('sum(net) / count(distinct pro')).toEqual(['"product line"']);
  expect(at('sum(net) * 1')).toEqual([]);
  expect(at('"prod')).toEqual(['"product line"']);
  expect(at("sum(net) filter (where x = 'pro")).toEqual([]);
  expect(completeExpression('sum(ne) + 1', 6, columns)[0]).toMatchObject({ from: 4, to: 6 });
  const aliases = new Map([['products.product line', 'product line']]);
  expect(completeExpression('sum(products.pro', 16, columns, aliases)).toMatchObject([
    { text: 'products."product line"', from: 4, to: 16 },
  ]);
});
