import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { grammarModule, widthsModule } from '../../scripts/generate';
import { Problem } from '../problem';
import { checkExpression, compile, isAdditive, readExpression, rescale, type Compiled } from '.';

const row: Record<string, Compiled> = {
  net: { type: 'number', decimals: 2, at: () => 1050 },
  cost: { type: 'number', decimals: 2, at: () => 730 },
  nothing: { type: 'number', decimals: 0, at: () => NaN },
  shop: { type: 'text', at: () => 'Nord' },
  'sold on': { type: 'date', decimals: 0, at: () => 20_530 },
  paid: { type: 'yesno', decimals: 0, at: () => 1 },
};
const columns = new Map(Object.entries(row).map(([name, { type }]) => [name, type]));

function value(text: string): number | string | null {
  const { expression } = checkExpression(readExpression(text), text, columns, 'rows');
  const compiled = compile(expression, { column: (name) => row[name]!, aggregate: () => row.net! });
  if (compiled.type === 'text') return compiled.at(0);
  const plain = rescale(compiled, null).at(0);
  return Number.isNaN(plain) ? null : plain;
}

test.each<[string, number | string | null]>([
  ['net - cost', 3.2],
  ['0.1 + 0.2', 0.3],
  ['2 + 3 * 4 - -1', 15],
  ['(2 + 3) * 4', 20],
  ['net / 0', null],
  ['nothing + 1', null],
  ['coalesce(nothing, 7)', 7],
  ['nullif(net, 10.5)', null],
  ['abs(-3) + sign(-2) + round(2.345, 2)', 4.35],
  ['greatest(1, 5, 3) + least(4, 2)', 7],
  ['greatest(1, nothing, 3)', null],
  ['least(nothing, 3)', null],
  ["case shop when 'Nord' then 1 when 'x' then 2 else 0 end", 1],
  ["case when shop = 'Nord' then 1 when net > 3 then 2 else 0 end", 1],
  ['case shop_ when 1 then 2 end', 'error'],
  ["case when nothing > 1 then 'a' end", null],
  ["shop like 'N%d'", 1],
  ["shop not in ('Süd', 'West')", 1],
  ['net not between 10 and 11', 0],
  ['nothing is null and paid', 1],
  ['nothing = 1 or true', 1],
  ['not (nothing = 1)', null],
  ['extract(year from "sold on") * 100 + extract(month from "sold on")', 202_603],
  ["cast('12.5' as number) + 1", 13.5],
  ['"sold on" >= date \'2026-01-01\'', 1],
  ['cast(net as text)', '10.5'],
])('%s', (text, expected) => {
  if (expected === 'error') expect(() => value(text)).toThrow(Problem);
  else expect(value(text)).toBe(expected);
});

function problem(text: string): Problem {
  try {
    checkExpression(readExpression(text), text, columns, 'groups');
  } catch (error) {
    return error as Problem;
  }
  throw new Error(`“${text}” was accepted`);
}

test.each([
  ['sum(net) / sum(quant', /ends too early.*close the bracket/],
  ['sum(net) +', /follows “\+”/],
  ["sum(net) filter (where shop = 'No", /another single quote/],
  ['case when net > 1 then 2', /with “end”/],
  ['sum net', /sum\(…\)/],
  ['sum(net)) + 1', /no bracket is open/],
  ['sum(net) sum(net)', /before it/],
])('what is unfinished says how to go on: %s', (text, way) => expect(() => readExpression(text)).toThrow(way));

describe('a mistake is named with its place', () => {
  test.each<[string, string, [number, number], RegExp]>([
    ['sum(nte)', 'unknown-column', [4, 7], /“net”/],
    ['sum(net) - cost', 'bare-column', [11, 15], /sum\(cost\)/],
    ['summ(net)', 'unknown-function', [0, 9], /“sum”/],
    ['sum(shop)', 'wrong-type', [4, 8], /count/],
    ['sum(net', 'expression-syntax', [7, 8], /./],
    ['sum(net) +* 2', 'expression-syntax', [10, 11], /./],
    ['sum(sum(net))', 'aggregate-of-rows', [4, 12], /measures/],
    ['avg(net, cost)', 'wrong-arguments', [0, 14], /avg\(column\)/],
    ['sum(net) > shop', 'bare-column', [11, 15], /./],
    ['', 'empty-expression', [0, 0], /sum/],
  ])('%s', (text, code, span, remedy) => {
    const found = problem(text);
    expect(found.code).toBe(code);
    if (text !== '') expect(found.place?.span).toEqual(span);
    expect(found.remedy).toMatch(remedy);
  });
});

test.each([
  ['if(net > 1, 2, 3)', 'case when net > 1 then 2 else 3 end'],
  [
    "1 + IF(shop = 'a, (b', net, coalesce(cost, 0))",
    "1 + case when shop = 'a, (b' then net else coalesce(cost, 0) end",
  ],
  ['iif(net > 1, 2)', 'case when net > 1 then 2 end'],
  ['if(net > 1, if(cost > 1, 2, 3), 4)', 'if(net > 1, case when cost > 1 then 2 else 3 end, 4)'],
])('a choice as spreadsheets write it is offered as it is written here: %s', (text, mended) => {
  const { fixes, remedy } = problem(text);
  const [{ from, to, text: fix }] = fixes as [(typeof fixes)[number]];
  expect(text.slice(0, from) + fix + text.slice(to)).toBe(mended);
  expect(remedy).toContain(fix);
});

test('additivity follows from the expression', () => {
  const additive = (text: string) => isAdditive(readExpression(text));
  expect(
    ['sum(a)', 'sum(a) - sum(b)', '-count(*)', '2 * sum(a) / 3', 'sum(a) filter (where b > 1)'].every(additive),
  ).toBe(true);
  expect(
    ['avg(a)', 'sum(a) / sum(b)', 'count(distinct a)', 'max(a)', 'sum(a) + 1', 'sum(a) * sum(b)'].some(additive),
  ).toBe(false);
});

test('the generated parser and width table are what their sources make', () => {
  const file = (path: string) => readFileSync(new URL(path, import.meta.url), 'utf8');
  expect(file('./grammar.js')).toBe(grammarModule());
  expect(file('../scene/widths.ts')).toBe(widthsModule());
});
