import fc from 'fast-check';
import { deflateSync } from 'fflate';
import { expect, test } from 'vitest';
import { tries } from '../proof/tries.fixture';
import { readCsv } from '../reading';
import { cellText, columnOf, makeTable, type Table } from '../table';
import { packTables, unpackTables } from './packed';

// Rows leave in another order within their day, and columns that follow from others without codes of their own: what comes out
// are the same rows.

const LINES = ['Brass', 'Strings', 'Keys', 'Percussion', 'Woodwind'];
const FAMILY: Readonly<Record<string, string>> = { Brass: 'Wind', Woodwind: 'Wind', Strings: 'Strings', Keys: 'Keys' };

const row = fc.record({
  day: fc.integer({ min: 10, max: 28 }),
  line: fc.constantFrom(...LINES, ''),
  shop: fc.constantFrom('Alder', 'Eastfold', ''),
  net: fc.option(fc.integer({ min: -50_000, max: 900_000 })),
  /** Makes the family of a line sometimes another. */
  strange: fc.boolean(),
});

const rowsOf = (table: Table, names: readonly string[]) =>
  Array.from({ length: table.rows }, (_, r) => names.map((name) => cellText(columnOf(table, name)!, r)).join('|'));

test('what is packed comes out again: the same rows, day after day, and the same blanks', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(row, { minLength: 1, maxLength: 60 }),
      fc.boolean(),
      fc.boolean(),
      async (rows, follows, sorted) => {
        const made = sorted ? [...rows].sort((a, b) => a.day - b.day) : rows;
        const text = [
          'day,line,family,shop,net',
          ...made.map(({ day, line, shop, net, strange }) =>
            [
              `2026-03-${day}`,
              line,
              !follows && strange ? 'Other' : (FAMILY[line] ?? ''),
              shop,
              net === null ? '' : (net / 100).toFixed(2),
            ].join(','),
          ),
        ].join('\n');
        const kinds = ['line', 'family', 'shop'].map((name) => ({ name, type: 'text' as const }));
        const columns = [...kinds, { name: 'net', type: 'number' as const }, { name: 'day', read: 'yyyy-MM-dd' }];
        const table = makeTable(await readCsv('orders.csv', text, columns), {
          id: 'orders',
          date: 'day',
        });
        const names = table.columns.map(({ name }) => name);
        const out = unpackTables(packTables([[table, { columns: names, span: null }]])).get('orders')!;
        expect(out.rows).toBe(table.rows);
        expect(rowsOf(out, names).sort()).toEqual(rowsOf(table, names).sort());
        for (const { name, blank } of table.columns) expect([name, columnOf(out, name)!.blank]).toEqual([name, blank]);
        const days = rowsOf(out, ['day']);
        if (columnOf(out, 'net')!.kind === 'number') expect(days).toEqual([...days].sort());
      },
    ),
    { numRuns: tries(60) },
  );
});

test('a column that follows from another costs next to nothing, however many rows there are', async () => {
  const lines = Array.from({ length: 4000 }, (_, i) => {
    const rep = (i * 7919) % 97;
    return `2026-03-${10 + (i % 20)},rep ${rep},family ${rep % 5},${(Math.imul(i + 1, 2_654_435_761) >>> 13) % 5}`;
  });
  const table = makeTable(await readCsv('orders.csv', ['day,rep,family,other', ...lines].join('\n')), {
    id: 'orders',
    date: 'day',
  });
  const sizeOf = (columns: readonly string[]) =>
    packTables([[table, { columns, span: null }]]).reduce((sum, stream) => sum + deflateSync(stream).length, 0);
  const plain = sizeOf(['day', 'rep']);
  expect(sizeOf(['day', 'rep', 'family']) - plain).toBeLessThan(150);
  expect(sizeOf(['day', 'rep', 'other']) - plain).toBeGreaterThan(300);
});
