import { beforeAll, describe, expect, test } from 'vitest';
import { received } from '../problem';
import { readCsv } from '../reading';
import { checkReport, type Report } from '../report';
import { makeTable } from '../table';
import { openDesk, type Desk } from '.';

// Questions about how tables hang together, asked of files as companies have them.

const ORDERS = [
  'day,code,rep,net',
  '2026-01-02,P1,Nils Ohara,10',
  '2026-01-03,P2,Ines Vale,20.5',
  '2026-01-04,P1,ines vale,1',
  '2026-01-05,P9,Nils Ohara,4',
];
const FILES = {
  orders: ORDERS,
  products: ['code,family', 'P1,Keys', 'P2,Brass'],
  quotas: ['month,Rep,quota', '2026-01,N. Ohara,30', '2026-01,"Vale, Ines",25', '2026-01,Nobody,5'],
};
const report: Report = checkReport({
  boldRuler: 1,
  name: 'r',
  tables: Object.keys(FILES).map((id) => ({ id, source: { file: `${id}.csv` } })),
  measures: [{ name: 'net', table: 'orders', expression: 'sum(net)' }],
  benchmarks: [{ name: 'quota', kind: 'table', table: 'quotas', expression: 'sum(quota)' }],
  figures: [{ id: 'f', brief: 'net by rep as bars' }],
});
let desk: Desk;
beforeAll(async () => {
  const read = await Promise.all(
    Object.entries(FILES).map(
      async ([id, lines]) => [id, makeTable(await readCsv(id, lines.join('\n')), { id })] as const,
    ),
  );
  desk = openDesk(new Map(read));
});
const asked = <K extends keyof Desk['asked']>(name: K) => desk.asked[name];

describe('what a table is for', () => {
  test('and what it could be looked up by', async () => {
    expect(received(await asked('use')(report, 'orders'))).toMatchObject({ use: 'rows', main: null });
    expect(received(await asked('use')(report, 'quotas'))).toMatchObject({ use: 'targets', main: 'orders' });
    const { use, proposed } = received(await asked('use')(report, 'products'));
    expect([use, proposed.use]).toEqual(['other', 'other']);
    const { joined, offers, tables } = received(await asked('lookups')(report, 'orders'));
    expect(joined).toEqual([]);
    expect(offers).toEqual([
      { columns: ['code'], to: 'products', on: ['code'], found: 0.75, lost: 1, brings: ['family'] },
    ]);
    expect(tables.map(({ id, columns, dates }) => [id, columns.length, dates])).toEqual([
      ['products', 2, []],
      ['quotas', 3, ['month']],
    ]);
  });

  test('a lookup that is taken is told with what it brings and does not find, and is offered no more', async () => {
    const join = { columns: ['code'], to: 'products', on: ['code'] };
    const done = received(await asked('edited')(report, { edit: 'add-lookup', table: 'orders', join }));
    const { joined, offers } = received(await asked('lookups')(done.report, 'orders'));
    expect(offers).toEqual([]);
    expect(joined).toEqual([
      {
        ...join,
        brings: ['family'],
        twice: [],
        undated: false,
        amountOf: 'net',
        notFound: { rows: 1, keys: 1, sums: { net: 4 }, first: [{ key: 'P9', rows: 1, sums: { net: 4 } }] },
      },
    ]);
    expect(JSON.parse(JSON.stringify(joined))).toEqual(joined);
    // Whoever looks something up here is no lookup of it.
    expect(received(await asked('lookups')(done.report, 'products')).tables.map(({ id }) => id)).toEqual(['quotas']);
  });

  test('fields of targets are found under nearly the same name', async () => {
    expect(received(await asked('fieldsAlike')(report, 'orders', 'quotas'))).toEqual({ rep: 'Rep' });
  });
});

describe('names', () => {
  test('that the rows do not have are shown with amounts and whom they may mean', async () => {
    const found = received(await asked('names')(report, 'quotas', 'Rep', { table: 'orders', column: 'rep' }));
    expect(found.names).toEqual([
      { name: 'N. Ohara', rows: 1, amount: 30, proposed: { meant: 'Nils Ohara', why: 'initials' } },
      { name: 'Vale, Ines', rows: 1, amount: 25, proposed: { meant: 'Ines Vale', why: 'spelling' } },
      { name: 'Nobody', rows: 1, amount: 5, proposed: null },
    ]);
    expect(found.known.map(({ name, amount }) => [name, amount])).toEqual([
      ['Ines Vale', 20.5],
      ['Nils Ohara', 14],
      ['ines vale', 1],
    ]);
    expect([found.amountOf, found.knownAmountOf]).toEqual(['quota', 'net']);
  });

  test('of one column that may be one are shown, and told apart again once they are one', async () => {
    const one = received(await asked('names')(report, 'orders', 'rep', null));
    expect(one.names).toEqual([
      { name: 'ines vale', rows: 1, amount: 1, proposed: { meant: 'Ines Vale', why: 'spelling' } },
    ]);
    const edit = { edit: 'read-as', table: 'orders', column: 'rep', same: { 'ines vale': 'Ines Vale' } } as const;
    const done = received(await asked('edited')(report, edit));
    const then = received(await asked('names')(done.report, 'orders', 'rep', null));
    expect([then.names, then.same]).toEqual([[], [{ name: 'ines vale', meant: 'Ines Vale' }]]);
  });
});

test('whether an expression can be read is told without keeping it', async () => {
  expect(received(await asked('readable')(report, 'orders', 'sum(net) / count(*)'))).toBe(true);
  expect(await asked('readable')(report, 'orders', 'sum(nett)')).toMatchObject({
    ok: false,
    problem: { code: 'unknown-column' },
  });
});

test('a report whose tables do not fit what it says of them can still be changed, so that they do', async () => {
  const derived = [{ name: 'twice', expression: 'nett * 2' }];
  const broken: Report = { ...report, tables: report.tables.map((one, i) => (i === 0 ? { ...one, derived } : one)) };
  expect((await asked('profile')(broken, 'orders')).ok).toBe(false);
  const done = received(await asked('edited')(broken, { edit: 'remove-column', table: 'orders', column: 'twice' }));
  expect((await asked('profile')(done.report, 'orders')).ok).toBe(true);
});
