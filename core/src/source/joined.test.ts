import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { levelChecks } from '../level';
import { readCsv } from '../reading';
import { makeTable, profileTable } from '../table';
import { tries } from '../proof/tries.fixture';
import { workspaceFor } from '../workspace';
import { cells, open, rowsOf } from '../workspace/opened.fixture';

const ORDERS = ['day,product,net', '2025-01-02,P1,5', '2025-01-03,P2,7.5', '2025-02-01,P1,1', '2025-02-02,P9,2'];
const PRODUCTS = ['code,family,price', 'P1,Keys,2.50', 'P2,Brass,3', 'P3,Drums,4'];
const JOIN = { columns: ['product'], to: 'products', on: ['code'] };
const LOOKED_UP = [{ id: 'orders', joins: [JOIN] }, { id: 'products' }];

describe('a lookup', () => {
  test('gives each row the columns of the one row it finds, as they are typed, and blank where it finds none', async () => {
    const desk = await open({ orders: ORDERS, products: PRODUCTS }, LOOKED_UP);
    expect(desk.tables.get('orders')!.columns.map(({ name, kind }) => `${name} ${kind}`)).toEqual([
      'day date',
      'product text',
      'net number',
      'family text',
      'price number',
    ]);
    expect(cells(desk, 'orders', 'family')).toEqual(['Keys', 'Brass', 'Keys', '']);
    expect(cells(desk, 'orders', 'price')).toEqual(['2.50', '3.00', '2.50', '']);
    expect(await rowsOf(desk, 'net by family as bars, sorted by name')).toEqual([
      ['Brass', 7.5],
      ['Keys', 6],
      [null, 2],
    ]);
  });

  test('is used in measures, conditions and highlights, under its own name and behind its table’s', async () => {
    const measures = [
      { name: 'net', table: 'orders', expression: 'sum(net)' },
      { name: 'keys', table: 'orders', expression: "sum(net) filter (where products.family = 'Keys')" },
      { name: 'listed', table: 'orders', expression: 'sum("products".price)' },
    ];
    const desk = await open({ orders: ORDERS, products: PRODUCTS }, LOOKED_UP, { measures });
    expect(await rowsOf(desk, 'keys as headline')).toEqual([[6]]);
    expect(await rowsOf(desk, 'listed as headline')).toEqual([[8]]);
    for (const field of ['family', 'products.family', '"products.family"'])
      expect(await rowsOf(desk, `net by product as bars, only ${field} is Keys`)).toEqual([['P1', 6]]);
    expect(await rowsOf(desk, 'net by "products.family" as bars, only price at least 3')).toEqual([['Brass', 7.5]]);
    expect(readBrief('net by products.family, product as bars', desk.vocabulary).by).toEqual(['family', 'product']);
  });

  test('tells the keys it does not find with rows and amounts', async () => {
    const desk = await open({ orders: [...ORDERS, '2025-02-03,,4'], products: PRODUCTS }, LOOKED_UP);
    expect(desk.tables.get('orders')!.joined![0]!.notFound()).toEqual({
      rows: 2,
      sums: { net: 6 },
      keys: 2,
      first: [
        { key: 'P9', rows: 1, sums: { net: 2 } },
        { key: 'blank', rows: 1, sums: { net: 4 } },
      ],
    });
    const found = await levelChecks(desk);
    expect(found.filter(({ code }) => code === 'keys-not-found').map(({ text }) => text)).toEqual([
      '2 rows, with 6 in net do not find product in “products”: P9 and blank',
    ]);
  });

  test('multiplies nothing: a key that stands twice is an error of whoever reads a column, and the table stays to be mended', async () => {
    const desk = await open({ orders: ORDERS, products: [...PRODUCTS, 'P1,Keyboards,9'] }, LOOKED_UP);
    await expect(rowsOf(desk, 'net by family as bars')).rejects.toThrow(
      /“products” has more than one row for a key: “P1” in 2 rows/,
    );
    expect(await rowsOf(desk, 'net by product as bars, keep 1 highest')).toEqual([['P2', 7.5]]);
    expect(profileTable(desk.tables.get('orders')!, 'orders.csv').rows).toBe(4);
    expect((await levelChecks(desk)).find(({ code }) => code === 'keys-twice')).toMatchObject({
      severity: 'error',
      about: { kind: 'table', id: 'orders' },
    });
    const once = await open({ orders: ORDERS, products: [...PRODUCTS, 'P1,Keys,2.50'] }, [
      LOOKED_UP[0]!,
      { id: 'products', repeats: { by: 'row' } },
    ]);
    expect(once.tables.get('products')!.rows).toBe(4);
  });

  test('goes on over several tables, orders members as the last one does, and refuses to go in a ring', async () => {
    const files = {
      orders: ['account,net', 'a,1', 'b,2', 'c,4'],
      accounts: ['account,country', 'a,AT', 'b,DE', 'c,FI'],
      countries: ['country,region,place', 'AT,South,3', 'DE,Middle,2', 'FI,North,1'],
    };
    const joined = [
      { id: 'orders', joins: [{ columns: ['account'], to: 'accounts', on: ['account'] }] },
      { id: 'accounts', joins: [{ columns: ['country'], to: 'countries', on: ['country'] }] },
      { id: 'countries', columns: [{ name: 'region', orderBy: 'place' }] },
    ];
    const desk = await open(files, joined);
    expect(cells(desk, 'orders', 'region')).toEqual(['South', 'Middle', 'North']);
    expect((await rowsOf(desk, 'net by region as bars, sorted by given order')).map(([name]) => name)).toEqual([
      'North',
      'Middle',
      'South',
    ]);
    expect((await rowsOf(desk, 'net by "countries.region" as bars')).length).toBe(3);
    const own = [
      { ...joined[0], columns: [{ name: 'region', order: ['South', 'North', 'Middle'] }] },
      ...joined.slice(1),
    ];
    expect(
      (await rowsOf(await open(files, own), 'net by region as bars, sorted by given order')).map(([name]) => name),
    ).toEqual(['South', 'North', 'Middle']);
    const ring = [
      joined[0]!,
      joined[1]!,
      { id: 'countries', joins: [{ columns: ['country'], to: 'accounts', on: ['country'] }] },
    ];
    await expect(open(files, ring)).rejects.toThrow(
      /“accounts” looks itself up: “accounts” → “countries” → “accounts”/,
    );
    await expect(open(files, [{ id: 'orders', joins: [JOIN] }])).rejects.toThrow(/no table “products”/);
    await expect(
      open(files, [
        { id: 'orders', joins: [{ columns: ['acount'], to: 'accounts', on: ['account'] }] },
        joined[1]!,
        joined[2]!,
      ]),
    ).rejects.toThrow(/no column “acount”/);
  });

  test('names apart what several tables call the same, also one table that is looked up in twice', async () => {
    const files = {
      orders: ['billed,shipped,name,net', 'a,b,x,1', 'b,b,y,2'],
      accounts: ['account,city,name', 'a,Linz,A', 'b,Bonn,B'],
    };
    const desk = await open(files, [
      {
        id: 'orders',
        joins: [
          { columns: ['billed'], to: 'accounts', on: ['account'] },
          { columns: ['shipped'], to: 'accounts', on: ['account'] },
        ],
      },
      { id: 'accounts' },
    ]);
    expect(desk.tables.get('orders')!.columns.map(({ name }) => name)).toEqual([
      'billed',
      'shipped',
      'name',
      'net',
      'billed.city',
      'billed.name',
      'shipped.city',
      'shipped.name',
    ]);
    expect(cells(desk, 'orders', 'billed.city')).toEqual(['Linz', 'Bonn']);
    expect(cells(desk, 'orders', 'shipped.city')).toEqual(['Bonn', 'Bonn']);
  });

  test('keys are the same whether a file writes them as numbers or, with zeros before, as text', async () => {
    const desk = await open(
      { orders: ['account,net', '12,1', '7,2'], accounts: ['no,segment', '0012,Schools', '0007,Web', 'X1,Web'] },
      [{ id: 'orders', joins: [{ columns: ['account'], to: 'accounts', on: ['no'] }] }, { id: 'accounts' }],
    );
    expect(cells(desk, 'orders', 'segment')).toEqual(['Schools', 'Web']);
  });

  const word = fc.constantFrom('a', 'b', 'c', 'constructor', '__proto__', '7', '');
  const dayOf = (n: number) => new Date(Date.UTC(2024, 0, 1 + n)).toISOString().slice(0, 10);

  test('law: no sum and no number of rows changes, and each row finds what a search through all rows finds, with days and without', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(fc.record({ shop: word, line: word, day: fc.nat(60), net: fc.integer({ min: -999, max: 9999 }) }), {
          minLength: 1,
          maxLength: 30,
        }),
        fc.uniqueArray(fc.record({ shop: word, line: word, from: fc.nat(60), team: word }), {
          selector: ({ shop, line, from }) => JSON.stringify([shop, line, from]),
          maxLength: 30,
        }),
        fc.boolean(),
        fc.boolean(),
        async (orders, teams, isDated, isByBoth) => {
          const seen = new Set<string>();
          const rows = teams.filter(({ shop, line, from }) => {
            const key = JSON.stringify([shop, isByBoth ? line : '', isDated ? from : '']);
            return !seen.has(key) && seen.add(key);
          });
          const on = isByBoth ? ['shop', 'line'] : ['shop'];
          const desk = await open(
            {
              orders: [
                'day,shop,line,net',
                ...orders.map(({ day, shop, line, net }) => `${dayOf(day)},${shop},${line},${net / 100}`),
              ],
              teams: [
                'shop,line,from,team',
                '–,–,2020-01-01,nobody',
                ...rows.map(({ shop, line, from, team }) => `${shop},${line},${dayOf(from)},${team}`),
              ],
            },
            [
              {
                id: 'orders',
                date: 'day',
                columns: ['shop', 'line'].map((name) => ({ name, type: 'text' })),
                joins: [{ columns: on, to: 'teams', on, ...(isDated ? { since: 'from' } : {}) }],
              },
              { id: 'teams', columns: ['shop', 'line', 'team'].map((name) => ({ name, type: 'text' })) },
            ],
          );
          const expected = orders.map(({ day, shop, line }) => {
            if (shop === '' || (isByBoth && line === '')) return '';
            const found = rows
              .filter((one) => one.shop === shop && (!isByBoth || one.line === line) && (!isDated || one.from <= day))
              .sort((a, b) => b.from - a.from)[0];
            return found?.team ?? '';
          });
          expect(cells(desk, 'orders', 'team')).toEqual(expected);
          const total = orders.reduce((sum, { net }) => sum + net, 0) / 100;
          expect(await rowsOf(desk, 'net as headline')).toEqual([[total]]);
          const byTeam = new Map<string, number>();
          orders.forEach(({ net }, i) => byTeam.set(expected[i]!, (byTeam.get(expected[i]!) ?? 0) + net));
          const told = await rowsOf(desk, 'net by team as bars');
          expect(new Map(told.map(([team, net]) => [team ?? '', net]))).toEqual(
            new Map([...byTeam].map(([team, net]) => [team, net / 100])),
          );
          const missing = desk.tables.get('orders')!.joined![0]!.notFound();
          const lost = orders.filter(({ shop, line, day }) => {
            if (shop === '' || (isByBoth && line === '')) return true;
            return !rows.some(
              (one) => one.shop === shop && (!isByBoth || one.line === line) && (!isDated || one.from <= day),
            );
          });
          expect(missing?.rows ?? 0).toBe(lost.length);
          expect(missing?.first.reduce((sum, { rows: some }) => sum + some, 0) ?? 0).toBe(lost.length);
        },
      ),
      { numRuns: tries(40) },
    ));
});

test('a lookup whose rows are not kept any more brings nothing, and everything else goes on', async () => {
  const desk = await open({ orders: ORDERS, products: PRODUCTS }, LOOKED_UP);
  const read = makeTable(await readCsv('orders', ORDERS.join('\n')), { id: 'orders' });
  const without = workspaceFor(desk.report, new Map([['orders', read]]));
  expect(without.tables.get('orders')!.columns.map(({ name }) => name)).toEqual(['day', 'product', 'net']);
  const again = workspaceFor(
    desk.report,
    new Map([
      ['orders', read],
      ['products', makeTable(await readCsv('products', PRODUCTS.join('\n')), { id: 'products' })],
    ]),
  );
  expect(again.tables.get('orders')!.columns.map(({ name }) => name)).toContain('family');
});
