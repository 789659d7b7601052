import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { PLAIN_CALENDAR } from '../calendar';
import { readCsv } from '../reading';
import {
  arrange,
  cellText,
  columnOf,
  differenceOf,
  distribution,
  lineOf,
  makeTable,
  matchTables,
  rowAtLine,
  rowsPerMonth,
  type TableWish,
} from '.';
import { distinctNumbers } from './distinct';
import { tries } from '../proof/tries.fixture';

const table = async (lines: readonly string[], wish: Partial<TableWish> = {}) =>
  makeTable(await readCsv('t.csv', lines.join('\n')), { id: 't', ...wish });

describe('rows in another order', () => {
  const cell = fc.oneof(fc.constantFrom('', '1', '2.5', '-3', '10', '007x', 'Nord', 'süd', '2025-01-02', 'Jan', 'Feb'));
  const rows = fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 30 });

  test('sorting keeps every row, puts blanks last and leaves equal rows as they stood', async () => {
    await fc.assert(
      fc.asyncProperty(rows, fc.boolean(), async (data, down) => {
        const of = await table(['a,b', ...data.map((row) => row.join(','))]);
        const column = of.columns[0]!;
        const order = [...arrange(of, { sort: { column: column.name, down } }, PLAIN_CALENDAR)!];
        expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: of.rows }, (_, row) => row));
        const texts = order.map((row) => cellText(column, row));
        const blanks = texts.findIndex((text) => text === '');
        if (blanks >= 0) expect(texts.slice(blanks).every((text) => text === '')).toBe(true);
        if (column.kind === 'number') {
          const values = texts.filter((text) => text !== '').map(Number);
          expect(values).toEqual([...values].sort((a, b) => (down ? b - a : a - b)));
        }
        order.forEach((row, i) => {
          if (i > 0 && texts[i] === texts[i - 1]) expect(row).toBeGreaterThan(order[i - 1]!);
        });
      }),
      { numRuns: tries(200) },
    );
  });
  test('a declared order and the order by another column hold', async () => {
    const lines = ['size,weight', 'Full,9', 'Small,1', 'Half,4', 'Small,3', ',2'];
    const sorted = async (wish: Partial<TableWish>) => {
      const of = await table(lines, wish);
      return [...arrange(of, { sort: { column: 'size', down: false } }, PLAIN_CALENDAR)!].map((row) =>
        cellText(of.columns[0]!, row),
      );
    };
    expect(await sorted({ columns: [{ name: 'size', order: ['Half', 'Small'] }] })).toEqual([
      'Half',
      'Small',
      'Small',
      'Full',
      '',
    ]);
    expect(await sorted({ columns: [{ name: 'size', orderBy: 'weight' }] })).toEqual([
      'Small',
      'Small',
      'Half',
      'Full',
      '',
    ]);
    await expect(table(lines, { columns: [{ name: 'size', orderBy: 'wieght' }] })).rejects.toThrow(
      /did you mean “weight”/,
    );
  });
  test('searching looks at words, numbers and days, in any case', async () => {
    const of = await table(['day,shop,net', '2025-01-02,Nord,1.50', '2025-02-03,Süd,20.25', '2025-02-04,NORDEN,3']);
    const found = (search: string) => [...arrange(of, { search }, PLAIN_CALENDAR)!];
    expect([found('nord'), found('20.25'), found('2025-02'), found('none')]).toEqual([[0, 2], [1], [1, 2], []]);
  });
});

test('a row and its line lead to one another, whatever was skipped', () =>
  fc.assert(
    fc.property(fc.uniqueArray(fc.integer({ min: 2, max: 60 })), fc.integer({ min: 1, max: 30 }), (gaps, rows) => {
      const skipped = gaps.sort((a, b) => a - b);
      const lines = { firstLine: 2, skipped, lines: null };
      const free = Array.from({ length: 200 }, (_, i) => i + 2).filter((line) => !skipped.includes(line));
      for (let row = 0; row < rows; row++) {
        expect(lineOf(row, lines)).toBe(free[row]);
        expect(rowAtLine(free[row]!, { ...lines, rows })).toBe(row);
      }
    }),
  ));

test('what is different in a newer file: rows, days, members, sums, columns and their kinds', async () => {
  const before = await table(['day,shop,net,old', '2025-01-01,Nord,1.50,x', '2025-01-02,Süd,2,y']);
  const after = await table(['day,shop,net,new', '2025-01-01,Nord,1.50,1', '2025-01-03,Ost,3,2', '2025-01-04,West,,3']);
  expect(differenceOf(before, before).columns).toEqual([]);
  const { rows, from, to, columns } = differenceOf(before, after);
  expect([rows, from, to]).toEqual([
    [2, 3],
    ['2025-01-01', '2025-01-01'],
    ['2025-01-02', '2025-01-04'],
  ]);
  expect(columns.map(({ name, before: was, after: is }) => [name, was?.kind, is?.kind, was?.sum, is?.sum])).toEqual([
    ['new', undefined, 'number', undefined, 6],
    ['shop', 'text', 'text', null, null],
    ['net', 'number', 'number', 3.5, 4.5],
    ['old', 'text', undefined, null, undefined],
  ]);
  expect(columns[1]).toMatchObject({
    gained: { count: 2, first: ['Ost', 'West'] },
    lost: { count: 1, first: ['Süd'] },
  });
});

test('targets are matched on fields of the same name or as told, and on time; strangers, duplicates and sums are told', async () => {
  const sales = await table(['day,shop,kind,net', '2025-01-01,Nord,a,1', '2025-03-02,Süd,b,2']);
  const plan = await table(['month,store,rep,target', '2025-01,Nord,x,10', '2025-01,Nord,x,5.5', '2025-02,West,y,7']);
  const match = matchTables(sales, plan, { shop: 'store' });
  expect(match.fields).toEqual([
    { field: 'shop', other: 'store', both: 1, onlyHere: ['Süd'], onlyThere: ['West'] },
    { field: 'kind', other: null, both: 0, onlyHere: [], onlyThere: [] },
  ]);
  expect(match.addedUp).toEqual(['rep']);
  expect([match.time.here?.grain, match.time.there?.grain, match.time.there?.to]).toEqual([
    'day',
    'month',
    '2025-02-28',
  ]);
  expect(match.duplicates).toEqual({ keys: 1, first: [{ key: '2025-01 · Nord · x', rows: 2 }] });
  expect(match.sums).toEqual([{ column: 'target', all: 22.5, unmatched: 7 }]);
});

test('distributions count every filled row once', async () => {
  const of = await table(['day,shop,net', '2025-01-31,Nord,-1.5', '2025-03-01,Süd,0', '2025-03-02,Nord,100', ',,']);
  const counted = of.columns.map((column) => distribution(column).bars.reduce((sum, { rows }) => sum + rows, 0));
  expect(counted).toEqual([3, 3, 3]);
  expect(distribution(columnOf(of, 'shop')!).bars).toEqual([
    { label: 'Nord', rows: 2 },
    { label: 'Süd', rows: 1 },
  ]);
  expect(rowsPerMonth(of).map(({ rows }) => rows)).toEqual([1, 0, 2]);
});

test('different numbers are counted as a set counts them', () =>
  fc.assert(
    fc.property(
      fc.array(fc.oneof(fc.double(), fc.integer({ min: -5, max: 5 }), fc.constant(-0)), { maxLength: 3000 }),
      (list) => {
        const set = new Set(list.filter((value) => !Number.isNaN(value)).map((value) => value + 0));
        expect(distinctNumbers(Float64Array.from(list))).toBe(set.size);
      },
    ),
    { numRuns: tries(100) },
  ));
