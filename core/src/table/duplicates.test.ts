import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fileOf, readCsv } from '../reading';
import { checkReport } from '../report';
import { tries } from '../proof/tries.fixture';
import { readTable } from '../workspace';
import { duplicateRows, profileTable, type Table } from '.';

const cell = fc.constantFrom('', 'a', 'b', 'A');
const row = fc.record({
  shop: cell,
  net: fc.constantFrom('', '0', '-0', '1.5', '1.50', '2'),
  day: fc.constantFrom('', '2025-01-01', '2025-01-02'),
  paid: fc.constantFrom('yes', 'no', ''),
});
const HEADER = 'shop,net,day,paid';
const TYPES = [
  { name: 'shop', type: 'text' },
  { name: 'net', type: 'number' },
  { name: 'day', type: 'date', read: 'yyyy-MM-dd' },
  { name: 'paid', type: 'yesno' },
] as const;

describe('rows that stand there already', () => {
  test('are those whose cells are equal, by all columns or by a key, all of a kind but the first', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(row, { minLength: 1, maxLength: 60 }),
        fc.subarray(['shop', 'net', 'day', 'paid'] as const),
        async (rows, key) => {
          const lines = rows.map(({ shop, net, day, paid }) => `${shop},${net},${day},${paid}`);
          // A last row that is unlike any other, so that no line is passed over as empty at the end.
          const raw = await readCsv('t', [HEADER, ...lines, 'end,9,2025-02-01,no'].join('\n'), [...TYPES]);
          const end = { shop: 'end', net: '9', day: '2025-02-01', paid: 'no' };
          const kept = [...rows.filter(({ shop, net, day, paid }) => shop + net + day + paid !== ''), end];
          const seen = new Set<string>();
          const expected: number[] = [];
          kept.forEach((one, at) => {
            const cells = (key.length > 0 ? key : (['shop', 'net', 'day', 'paid'] as const)).map((name) =>
              name === 'net' && one.net !== '' ? String(Number(one.net) + 0) : one[name],
            );
            const said = JSON.stringify(cells);
            if (seen.has(said) && cells.some((text) => text !== '')) expected.push(at);
            seen.add(said);
          });
          expect(duplicateRows(raw, key)).toEqual(expected);
        },
      ),
      { numRuns: tries(120) },
    ));

  test('a key that is no column is told with what there is', async () => {
    const raw = await readCsv('t', 'shop,net\na,1');
    expect(() => duplicateRows(raw, ['order'])).toThrow(/order.*shop/s);
  });

  const FILE = [
    'order,day,net',
    '1,2025-01-02,10',
    '2,2025-01-03,5.5',
    '2,2025-01-03,5.5',
    '1,2025-02-02,4',
    '3,2025-02-03,5.5',
  ];
  async function read(more: object): Promise<Table> {
    const report = checkReport({
      boldRuler: 1,
      name: 'r',
      tables: [{ id: 'orders', source: { file: 'o.csv' }, ...more }],
    });
    return readTable(report.tables[0]!, fileOf('o.csv', new TextEncoder().encode(FILE.join('\n'))));
  }

  test('are counted with their lines and amounts, and stay until they are left out', async () => {
    const table = await read({});
    expect(table.rows).toBe(5);
    expect(profileTable(table, 'o.csv').duplicates).toEqual({
      count: 1,
      lines: [4],
      sums: { order: 2, net: 5.5 },
      key: null,
    });
    const byOrder = profileTable(await read({ repeats: { by: ['order'], keep: 'all' } }), 'o.csv').duplicates;
    expect(byOrder).toEqual({ count: 2, lines: [4, 5], sums: { order: 3, net: 9.5 }, key: ['order'] });
  });

  test('are left out but for the first, listed with their line, and never in silence', async () => {
    const table = await read({ repeats: { by: 'row', keep: 'first' } });
    expect(table.rows).toBe(4);
    expect(table.leftOut).toEqual([
      { row: 4, column: null, raw: '2 · 2025-01-03 · 5.5', reason: 'a row that stands there already' },
    ]);
    expect(profileTable(table, 'o.csv').duplicates).toBeUndefined();
    const byOrder = await read({ repeats: { by: ['order'] } });
    expect([byOrder.rows, byOrder.leftOutCounts]).toEqual([
      3,
      [{ column: null, reason: 'a row that stands there already', count: 2 }],
    ]);
  });

  test('a key that the file does not have is a mistake in words', async () => {
    await expect(read({ repeats: { by: ['nummer'] } })).rejects.toThrow(/nummer/);
  });
});
