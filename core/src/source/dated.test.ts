import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { tries } from '../proof/tries.fixture';
import { cells, open, rowsOf } from '../workspace/opened.fixture';

const ORDERS = ['day,account,net', '2025-01-10,a,1', '2025-02-10,a,2', '2025-03-10,a,4', '2025-03-10,b,8'];
const TERRITORIES = ['rep,from,territory', 'Ann,2025-01-01,North', 'Ann,2025-02-01,South', 'Bob,2025-01-01,West'];
const REPS = { columns: ['rep'], to: 'territories', on: ['rep'], since: 'from' };
const ACCOUNTS = { columns: ['account'], to: 'accounts', on: ['account'] };

describe('lookups one behind the other, valid from a day on', () => {
  test('go by the day of the sale, also over a table that has no day', async () => {
    const accounts = ['account,rep', 'a,Ann', 'b,Bob'];
    const desk = await open({ orders: ORDERS, accounts, territories: TERRITORIES }, [
      { id: 'orders', date: 'day', joins: [ACCOUNTS] },
      { id: 'accounts', joins: [REPS], derived: [{ name: 'area', expression: 'coalesce(territory, rep)' }] },
      { id: 'territories' },
    ]);
    expect(cells(desk, 'orders', 'territory')).toEqual(['North', 'South', 'South', 'West']);
    expect(cells(desk, 'orders', 'area')).toEqual(['North', 'South', 'South', 'West']);
    expect(cells(desk, 'orders', 'rep')).toEqual(['Ann', 'Ann', 'Ann', 'Bob']);
    expect(await rowsOf(desk, 'net by territory as bars, sorted by name')).toEqual([
      ['North', 1],
      ['South', 6],
      ['West', 8],
    ]);
    // By itself an account has no day, and no territory.
    expect(() => cells(desk, 'accounts', 'territory')).toThrow(/rows of “accounts” have no date/);
  });

  test('over rows without a day say so where they are read', async () => {
    const desk = await open({ orders: ORDERS, accounts: ['account,rep', 'a,Ann', 'b,Bob'], territories: TERRITORIES }, [
      { id: 'orders', joins: [ACCOUNTS], columns: [{ name: 'day', type: 'text' }], date: null },
      { id: 'accounts', joins: [REPS] },
      { id: 'territories' },
    ]);
    expect(await rowsOf(desk, 'net by rep as bars, sorted by name')).toEqual([
      ['Ann', 7],
      ['Bob', 8],
    ]);
    expect(() => cells(desk, 'orders', 'territory')).toThrow(/rows of “orders” have no date/);
  });

  const word = fc.constantFrom('a', 'b', 'constructor', '__proto__');
  const nth = fc.nat(8);
  const dayOf = (n: number) => `2025-01-0${n + 1}`;
  const valid = (value: string) =>
    fc.uniqueArray(fc.record({ key: word, from: nth, [value]: word }), {
      selector: ({ key, from }) => `${key} ${from}`,
      minLength: 1,
      maxLength: 8,
    }) as fc.Arbitrary<{ key: string; from: number; [value: string]: string | number }[]>;

  test('law: each row finds what was valid on its own day in every table, as a search through all rows does', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(fc.record({ day: nth, account: word }), { minLength: 1, maxLength: 12 }),
        valid('rep'),
        valid('territory'),
        valid('region'),
        fc.boolean(),
        async (orders, accounts, territories, regions, hasDays) => {
          const lines = (names: string, rows: readonly { key: string; from: number }[], value: string) => [
            names,
            ...rows.map((one) => `${one.key},${dayOf(one.from)},${(one as unknown as Record<string, string>)[value]}`),
          ];
          const text = (...names: string[]) => names.map((name) => ({ name, type: 'text' }));
          const desk = await open(
            {
              orders: ['day,account,net', ...orders.map(({ day, account }) => `${dayOf(day)},${account},1`)],
              accounts: lines('account,since,rep', accounts, 'rep'),
              territories: lines('rep,from,territory', territories, 'territory'),
              regions: lines('territory,valid,region', regions, 'region'),
            },
            [
              {
                id: 'orders',
                date: 'day',
                columns: text('account'),
                joins: [{ columns: ['account'], to: 'accounts', on: ['account'], since: 'since' }],
              },
              // Days of its own do not matter to whoever looks in it.
              {
                id: 'accounts',
                ...(hasDays ? { date: 'since' } : {}),
                columns: text('account', 'rep'),
                joins: [REPS],
                derived: [{ name: 'where', expression: 'coalesce(region, rep)' }],
              },
              {
                id: 'territories',
                ...(hasDays ? { date: 'from' } : {}),
                columns: text('rep', 'territory'),
                joins: [{ columns: ['territory'], to: 'regions', on: ['territory'], since: 'valid' }],
              },
              { id: 'regions', columns: text('territory', 'region') },
            ],
          );
          const at = (rows: readonly { key: string; from: number }[], key: string, day: number, value: string) => {
            const found = rows.filter((one) => one.key === key && one.from <= day).sort((a, b) => b.from - a.from)[0];
            return found ? String((found as unknown as Record<string, string>)[value]) : '';
          };
          const expected = orders.map(({ day, account }) => {
            const rep = at(accounts, account, day, 'rep');
            const territory = at(territories, rep, day, 'territory');
            const region = at(regions, territory, day, 'region');
            return { rep, territory, region };
          });
          for (const name of ['rep', 'territory', 'region'] as const)
            expect(cells(desk, 'orders', name)).toEqual(expected.map((one) => one[name]));
          expect(cells(desk, 'orders', 'where')).toEqual(expected.map(({ rep, region }) => region || rep));
        },
      ),
      { numRuns: tries(60) },
    ));
});
