import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { tries } from '../proof/tries.fixture';
import { readCsv } from '../reading';
import { appendRows, cellText, columnOf, makeTable, overlapOf, withRowsAdded, type RawTable, type Table } from '.';

const table = async (lines: readonly string[]): Promise<Table> =>
  makeTable(await readCsv('t', lines.join('\n'), [{ name: 'shop', type: 'text' }]), { id: 't' });
const cells = ({ columns, rows }: RawTable) =>
  Array.from({ length: rows }, (_, row) => columns.map((column) => cellText(column, row)));
const FILES = ['old.csv', 'new.csv'] as const;
const dayOf = (n: number) => new Date(Date.UTC(2026, 0, 1 + n)).toISOString().slice(0, 10);

const row = fc.record({
  day: fc.integer({ min: 0, max: 9 }),
  shop: fc.constantFrom('Alder', 'Birch', '', 'constructor'),
  net: fc.option(fc.integer({ min: -500, max: 5000 }), { freq: 6 }),
});
type Row = { readonly day: number; readonly shop: string; readonly net: number | null };
const lines = (rows: readonly Row[]) => [
  'day,shop,net',
  '2025-12-31,Alder,0.25',
  ...rows.map(({ day, shop, net }) => `${dayOf(day)},${shop},${net === null ? '' : net / 100}`),
];

describe('rows below one another', () => {
  test('law: three files in two steps are the same as in one, and no row or cent is lost', () =>
    fc.assert(
      fc.asyncProperty(fc.array(row), fc.array(row), fc.array(row), async (a, b, c) => {
        const [one, two, three] = await Promise.all([a, b, c].map((rows) => table(lines(rows))));
        const whole = await table([...lines(a), ...lines(b).slice(1), ...lines(c).slice(1)]);
        const left = appendRows(appendRows(one!, two!, FILES), three!, FILES);
        const right = appendRows(one!, appendRows(two!, three!, FILES), FILES);
        expect(cells(left)).toEqual(cells(right));
        expect(left.rows).toBe(one!.rows + two!.rows + three!.rows);
        const sum = ({ columns }: RawTable) => {
          const column = columns.find(({ name }) => name === 'net')!;
          if (column.kind !== 'number') throw new Error('no number');
          return (
            column.values.reduce((all, value) => (Number.isNaN(value) ? all : all + value), 0) / 10 ** column.decimals!
          );
        };
        expect(sum(left)).toBe(sum(whole));
      }),
      { numRuns: tries(40) },
    ));

  test('law: of days that are in both the old rows stay, or the new ones come, or both do; all others are there once', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(row),
        fc.array(row),
        fc.constantFrom('old' as const, 'new' as const, 'both' as const),
        async (a, b, keep) => {
          const [old, now] = [await table(lines(a)), await table(lines(b))];
          const days = (rows: readonly Row[]) => new Set([...rows.map(({ day }) => dayOf(day)), '2025-12-31']);
          const [there, here] = [days(a), days(b)];
          const both = [...there].filter((day) => here.has(day)).sort();
          const overlap = overlapOf(old, now)!;
          expect(overlap.days).toBe(both.length);
          const expected = [
            ...cells(old).filter(([day]) => keep !== 'new' || !here.has(day!)),
            ...cells(now).filter(([day]) => keep !== 'old' || !there.has(day!)),
          ];
          const shown = (all: readonly (readonly string[])[]) =>
            all.map(([day, shop, net]) => [day, shop, net === '' ? '' : Number(net)]);
          expect(shown(cells(withRowsAdded(old, now, keep, FILES)))).toEqual(shown(expected));
          expect(overlap.rows).toEqual([
            cells(old).filter(([day]) => here.has(day!)).length,
            cells(now).filter(([day]) => there.has(day!)).length,
          ]);
        },
      ),
      { numRuns: tries(40) },
    ));

  test('a column that one lacks is blank there, one that is empty takes the other’s kind, and other kinds are a mistake', async () => {
    const old = await table(['day,shop,net,note', '2026-01-01,Alder,1.5,']);
    const now = await table(['day,shop,net,note,pieces', '2026-02-01,Birch,2,7,3']);
    const both = appendRows(old, now, FILES);
    expect(both.columns.map(({ name, kind }) => [name, kind])).toEqual([
      ['day', 'date'],
      ['shop', 'text'],
      ['net', 'number'],
      ['note', 'number'],
      ['pieces', 'number'],
    ]);
    expect(cells(both)).toEqual([
      ['2026-01-01', 'Alder', '1.5', '', ''],
      ['2026-02-01', 'Birch', '2.0', '7', '3'],
    ]);
    expect(columnOf(makeTable(both, { id: 't' }), 'pieces')!.blank).toBe(1);
    const words = await table(['day,shop,net', '2026-02-01,Birch,much']);
    expect(() => appendRows(old, words, FILES)).toThrow(/new\.csv: column “net” holds numbers elsewhere and text here/);
    expect(() => appendRows(old, makeTable({ ...words, columns: [] }, { id: 't' }), FILES)).toThrow(
      /none of the columns/,
    );
  });
});
