import { describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { numbersOf } from '../figure';
import { answerBrief } from '../query';
import { fileOf, readCsv } from '../reading';
import { checkReport, useOf, writeReport, type Report } from '../report';
import { makeTable, type Table } from '../table';
import { readTable, workspaceFor } from '../workspace';
import { edited, type Edit } from '.';

const FILES: Readonly<Record<string, string>> = {
  orders: [
    'day,shop,rep,code,pieces,net',
    '2025-01-02,Alder,Nils Ohara,P1,1,5',
    '2025-01-05,Birch,N. Ohara,P2,2,7',
    '2025-02-03,Alder,Ines Vale,P1,1,9',
    '2025-02-04,Birch,Nils Ohara,P3,4,2.5',
  ].join('\n'),
  goals: 'month,place,shop,goal\n2025-01,Alder,x,4\n2025-02,Birch,y,9',
  products: 'code,family,maker\nP1,Keys,Ashdown\nP2,Brass,Corvane\nP3,Keys,Corvane',
  makers: 'maker,country\nAshdown,Norland\nCorvane,Sudland',
};

const BASE: Report = checkReport({
  boldRuler: 1,
  name: 'Pellwether',
  tables: [
    {
      id: 'orders',
      source: { file: 'orders.csv' },
      date: 'day',
      columns: [
        { name: 'shop', order: ['Birch', 'Alder'] },
        { name: 'rep', orderBy: 'pieces' },
      ],
      derived: [
        { name: 'price', expression: 'net / pieces' },
        { name: 'line', expression: "case when products.family = 'Keys' then family else code end" },
      ],
      joins: [{ columns: ['code'], to: 'products', on: ['code'] }],
      repeats: { by: ['day', 'rep'] },
    },
    { id: 'goals', source: { file: 'goals.csv' }, date: 'month' },
    { id: 'products', source: { file: 'products.csv' }, joins: [{ columns: ['maker'], to: 'makers', on: ['maker'] }] },
    { id: 'makers', source: { file: 'makers.csv' } },
  ],
  measures: [
    { name: 'net', table: 'orders', expression: 'sum(net)' },
    { name: 'keys', table: 'orders', expression: "sum(net) filter (where family = 'Keys' and shop <> 'x')" },
    { name: 'dearest', table: 'orders', expression: 'max("price")' },
    {
      name: 'apart',
      table: 'orders',
      expression:
        "sum(case shop when 'Alder' then net when 'Birch' then -net end) + count(*) filter (where rep in ('N. Ohara', 'x') or 'Brass' = products.family)",
    },
  ],
  benchmarks: [
    { name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)', match: { shop: 'place' } },
    { name: 'pieces', kind: 'expression', expression: 'sum(pieces)' },
    { name: 'each', kind: 'fixed', value: 3, per: ['shop'] },
  ],
  highlights: [{ name: 'many', on: 'expression', expression: 'sum(pieces)', rules: [] }],
  figures: [
    { id: 'a', brief: 'net by shop against goal as bullet, sorted by given order' },
    { id: 'b', brief: 'keys by family, shop against pieces as table, lit by many' },
    {
      id: 'c',
      brief: 'net by country each month as trend, only family is Keys and pieces at least 1',
      look: { panels: 'country' },
    },
    { id: 'd', brief: 'dearest by line as bars, only "products.maker" is Corvane' },
    { id: 'f', brief: 'apart by shop as bars', look: { title: 'Apart: {gap of Alder} and {actual of Birch}' } },
    { id: 'e', brief: 'net by rep against each as bullet, only rep is "N. Ohara" or "Ines Vale"' },
  ],
  pages: [{ id: 'p', title: 'P', filters: [{ field: 'shop' }, { field: 'country' }], rows: [] }],
});

const read = async (report: Report): Promise<Map<string, Table>> => {
  const tables = new Map<string, Table>();
  for (const entry of report.tables)
    tables.set(entry.id, await readTable(entry, fileOf('x.csv', new TextEncoder().encode(FILES[entry.id]!))));
  return tables;
};
const STORED = await read(BASE);
const opened = (report: Report, tables: ReadonlyMap<string, Table> = STORED) => workspaceFor(report, tables);
const after = (edit: Edit, report = BASE) => {
  const { vocabulary, source } = opened(report);
  return edited(report, edit, { vocabulary, facts: source.facts }).report;
};
/** The numbers of all figures, without the names of fields. */
async function numbersIn(report: Report, tables?: ReadonlyMap<string, Table>) {
  const desk = opened(report, tables);
  return Promise.all(
    report.figures.map(async ({ brief, look }) => {
      const { rows, total } = numbersOf(
        await answerBrief(desk, readBrief(brief, desk.vocabulary), look.order ? { order: look.order } : {}),
      );
      return { total, rows: rows.map(({ key, ...row }) => [Object.values(key), row]) };
    }),
  );
}

describe('a column of another name', () => {
  const COLUMNS = [
    ['orders', ['day', 'shop', 'rep', 'code', 'pieces', 'net', 'price', 'line']],
    ['goals', ['month', 'place', 'goal']],
    ['products', ['code', 'family', 'maker']],
    ['makers', ['maker', 'country']],
  ] as const;
  const CASES = COLUMNS.flatMap(([table, columns]) => columns.map((column) => [table, column] as const));

  test.each(CASES)(
    '%s: %s is followed to every place, and no number changes, now or when the file is read again',
    async (table, column) => {
      const before = await numbersIn(BASE);
      for (const to of ['Sales office', 'as bars', 'constructor', 'v1.2 new']) {
        const renamed = after({ edit: 'rename-column', table, column, to });
        expect(renamed).not.toBe(BASE);
        expect(await numbersIn(renamed)).toEqual(before);
        expect(await numbersIn(renamed, await read(renamed))).toEqual(before);
        const written = checkReport(JSON.parse(writeReport(renamed)));
        expect(await numbersIn(written)).toEqual(before);
        // Another time, and back again.
        const twice = after({ edit: 'rename-column', table, column: to, to: 'a third' }, renamed);
        expect(await numbersIn(twice)).toEqual(before);
        const back = after({ edit: 'rename-column', table, column: 'a third', to: column }, twice);
        const briefs = (report: Report) =>
          report.figures.map(({ brief }) => readBrief(brief, opened(report).vocabulary));
        expect(briefs(back)).toEqual(briefs(BASE));
        expect(back.pages).toEqual(BASE.pages);
      }
    },
  );

  test('that is taken, or is looked up elsewhere, is refused in words', () => {
    expect(() => after({ edit: 'rename-column', table: 'orders', column: 'shop', to: 'Rep' })).toThrow(/Rep/);
    expect(() => after({ edit: 'rename-column', table: 'orders', column: 'family', to: 'kin' })).toThrow(
      /rename it there/,
    );
  });
});

describe('a table of another name', () => {
  test.each(BASE.tables.map(({ id }) => id))('%s: is followed to every place, and no number changes', async (table) => {
    const before = await numbersIn(BASE);
    const texts = (report: Report) => ({ ...report, tables: report.tables.map(({ id: _, ...entry }) => entry) });
    for (const name of ['all we sell', 'constructor', 'a "b" c', 'v1']) {
      const renamed = after({ edit: 'rename-table', table, name });
      expect(renamed.tables.map(({ id }) => id)).toContain(name);
      const rows = new Map([...STORED].map(([id, of]) => (id === table ? [name, { ...of, id: name }] : [id, of])));
      expect(await numbersIn(renamed, rows)).toEqual(before);
      const { vocabulary, source } = opened(renamed, rows);
      const known = { vocabulary, facts: source.facts };
      const back = edited(renamed, { edit: 'rename-table', table: name, name: table }, known).report;
      expect(texts(checkReport(JSON.parse(writeReport(back))))).toEqual(texts(BASE));
    }
  });

  test('that another one has, in any case, is refused; its own in another case is not', () => {
    expect(() => after({ edit: 'rename-table', table: 'goals', name: 'Orders' })).toThrow(/Orders/);
    const report = after({ edit: 'rename-table', table: 'goals', name: 'Goals' });
    expect(report.benchmarks[0]).toMatchObject({ table: 'Goals' });
  });
});

describe('lookups', () => {
  test('that are used are not taken away, and say by what; others are', () => {
    const join = { columns: ['code'], to: 'products' };
    expect(() => after({ edit: 'remove-lookup', table: 'orders', join })).toThrow(
      /“family” is used by the column line/,
    );
    expect(() => after({ edit: 'remove-table', table: 'makers' })).toThrow(/“country” is used by/);
    const unused = {
      ...BASE,
      figures: [],
      pages: [],
      measures: BASE.measures.slice(0, 1),
      tables: BASE.tables.map((one) => ({ ...one, derived: [] })),
    };
    const bare = after({ edit: 'remove-lookup', table: 'orders', join }, unused);
    expect(bare.tables[0]!.joins).toBeUndefined();
    expect(
      after({ edit: 'remove-table', table: 'makers' }, unused).tables.map(({ id, joins }) => [id, joins?.length]),
    ).toEqual([
      ['orders', 1],
      ['goals', undefined],
      ['products', undefined],
    ]);
    const again = after({ edit: 'add-lookup', table: 'orders', join: { ...join, on: ['code'] } }, bare);
    expect(again.tables[0]!.joins).toEqual([{ ...join, on: ['code'] }]);
    expect(after({ edit: 'add-lookup', table: 'orders', join: { ...join, on: ['code'] } }, again)).toBe(again);
  });

  test('a table is used for something else where nothing rests on what it was for', () => {
    expect(() => after({ edit: 'use-table', table: 'goals', use: 'other' })).toThrow(/“goal” is used by the figure/);
    const bare = { ...BASE, figures: [] };
    const other = after({ edit: 'use-table', table: 'goals', use: 'other' }, bare);
    expect([useOf(other, 'goals'), other.benchmarks.map(({ name }) => name)]).toEqual(['other', ['pieces', 'each']]);
    const rows = after({ edit: 'use-table', table: 'goals', use: 'rows' }, other);
    expect(rows.measures.at(-1)).toMatchObject({ name: 'goal', table: 'goals', expression: 'sum("goal")' });
    const targets = after({ edit: 'use-table', table: 'goals', use: 'targets' }, rows);
    expect([useOf(targets, 'goals'), targets.measures.length]).toEqual(['targets', BASE.measures.length]);
    const join = { table: 'orders', join: { columns: ['shop'], to: 'goals', on: ['place'] } };
    expect(useOf(after({ edit: 'use-table', table: 'goals', use: 'lookup', join }, targets), 'goals')).toBe('lookup');
  });
});

describe('members read as others', () => {
  const MEMBERS = [
    ['orders', 'shop', 'Alder'],
    ['orders', 'shop', 'Birch'],
    ['orders', 'rep', 'N. Ohara'],
    ['orders', 'code', 'P1'],
    ['products', 'family', 'Keys'],
    ['products', 'family', 'Brass'],
    ['products', 'maker', 'Corvane'],
    ['makers', 'country', 'Norland'],
  ] as const;
  test.each(MEMBERS)('%s: %s: %s called otherwise changes no number', async (table, column, member) => {
    // A key's other spelling has to be that of the lookup, too; targets are matched by what is called the same.
    const alone = { ...BASE, tables: BASE.tables.map((one) => ({ ...one, same: {} })) };
    const sorted = async (report: Report) =>
      (await numbersIn(report)).map(({ total, rows }) => [
        total,
        rows.map(([, row]) => JSON.stringify({ ...(row as object), rank: 0 })).sort(),
      ]);
    for (const name of ["O'Hara’s", 'constructor', 'Nils, the other']) {
      const once = { edit: 'read-as' as const, table, column, same: { [member]: name } };
      let report = after(once, alone);
      if (column === 'code') report = after({ ...once, table: 'products' }, report);
      if (column === 'maker') report = after({ ...once, table: 'makers' }, report);
      if (column === 'shop') report = after({ ...once, table: 'goals', column: 'place' }, report);
      expect(await sorted(report)).toEqual(await sorted(BASE));
    }
  });

  test('titles, captions and findings follow, in their own words', () => {
    const claim = {
      kind: 'hidden offset' as const,
      member: 'Birch',
      by: 'Alder',
      text: 'Birch lacks {gap of Birch}; Alder makes up for it',
    };
    const report = checkReport({
      ...BASE,
      pages: [
        {
          id: 'p',
          title: 'P',
          filters: [],
          rows: [
            {
              blocks: [
                {
                  text: `- ${claim.text}\n\nBirch is a tree: {actual of Birch}.`,
                  about: 'a',
                  claims: [claim],
                  share: 6,
                },
                { text: '{actual of Birch}', about: 'b', share: 6 },
              ],
            },
          ],
        },
      ],
    });
    const renamed = after({ edit: 'read-as', table: 'orders', column: 'shop', same: { Birch: 'Larch' } }, report);
    expect(renamed.figures.find(({ id }) => id === 'f')!.look.title).toBe(
      'Apart: {gap of Alder} and {actual of Larch}',
    );
    const [row] = renamed.pages[0]!.rows;
    const text = 'Larch lacks {gap of Larch}; Alder makes up for it';
    expect(row).toMatchObject({
      blocks: [
        // What somebody wrote besides stays; the values in it follow.
        { text: `- ${text}\n\nBirch is a tree: {actual of Larch}.`, claims: [{ member: 'Larch', by: 'Alder', text }] },
        { text: '{actual of Larch}' },
      ],
    });
  });

  test('what somebody wrote beside a finding stays, whatever the name is a part of', () => {
    const sentence = 'An lacks {gap of An}; Anna makes up for it';
    const prose = 'An aim of Anna, $& {actual of An}.';
    const claims = [{ kind: 'hidden offset' as const, member: 'An', by: 'Anna', text: sentence }];
    const text = `${sentence}\n\n${prose}`;
    const report = checkReport({
      ...BASE,
      pages: [{ id: 'p', title: 'P', filters: [], rows: [{ blocks: [{ text, about: 'a', claims, share: 12 }] }] }],
    });
    const renamed = after({ edit: 'read-as', table: 'orders', column: 'shop', same: { An: 'Zed $&' } }, report);
    const wanted = 'Zed $& lacks {gap of Zed $&}; Anna makes up for it';
    expect(renamed.pages[0]!.rows[0]).toMatchObject({
      blocks: [{ text: `${wanted}\n\nAn aim of Anna, $& {actual of Zed $&}.`, claims: [{ text: wanted }] }],
    });
  });

  test('are one row, conditions follow, the whole stays, and they can be told apart again', async () => {
    const merged = after({ edit: 'read-as', table: 'orders', column: 'rep', same: { 'N. Ohara': 'Nils Ohara' } });
    expect(merged.figures.at(-1)!.brief).toBe('net by rep against each as bullet, only rep is Nils Ohara or Ines Vale');
    const all = 'net by rep as bars, sorted by name';
    const rows = async (report: Report) => {
      const desk = opened(report);
      return numbersOf(await answerBrief(desk, readBrief(all, desk.vocabulary))).rows.map(({ key, actual }) => [
        key['rep'],
        actual,
      ]);
    };
    expect(await rows(merged)).toEqual([
      ['Ines Vale', 9],
      ['Nils Ohara', 14.5],
    ]);
    const apart = after({ edit: 'read-as', table: 'orders', column: 'rep', same: { 'N. Ohara': null } }, merged);
    expect(apart.tables[0]!.same).toBeUndefined();
    expect(await rows(apart)).toEqual(await rows(BASE));
  });
});

test('members of a lookup that are read as others are followed where they are looked up', async () => {
  const done = after({ edit: 'read-as', table: 'products', column: 'family', same: { Keys: 'Keyboards' } });
  expect(done.figures[2]!.brief).toContain('only family is Keyboards');
  const desk = opened(done);
  expect(desk.vocabulary.members('family')).toEqual(['Brass', 'Keyboards']);
  const { total } = numbersOf(await answerBrief(desk, readBrief(done.figures[2]!.brief, desk.vocabulary)));
  expect(total.actual).toBe(16.5);
});

test('rows are read as they stand in the file, whatever the report calls their columns', async () => {
  const entry = {
    id: 't',
    source: { file: 't.csv' },
    columns: [{ name: 'net', header: 'Sales EUR', type: 'number' as const }],
  };
  const table = makeTable(await readCsv('t', 'Sales EUR\n5'), { id: 't' });
  const report = checkReport({ boldRuler: 1, name: 'r', tables: [entry] });
  expect(
    workspaceFor(report, new Map([['t', table]]))
      .tables.get('t')!
      .columns.map(({ name }) => name),
  ).toEqual(['net']);
});

describe('a column of the file that is left out', () => {
  const spare = { ...BASE, tables: BASE.tables.map((one) => (one.id === 'orders' ? { ...one, columns: [] } : one)) };
  const known = (report: Report, id: string) => [...opened(report).source.facts(id)!.columns.keys()];

  test('is known to nobody, changes no number, and is put back as it was', async () => {
    // Only the order and the repeats knew of it.
    const out = after(
      { edit: 'remove-column', table: 'makers', column: 'maker' },
      after(
        { edit: 'remove-lookup', table: 'products', join: { columns: ['maker'], to: 'makers' } },
        checkReport({ ...spare, figures: [], pages: [] }),
      ),
    );
    expect(known(out, 'makers')).toEqual(['country']);
    expect(out.tables.find(({ id }) => id === 'makers')!.columns).toEqual([{ name: 'maker', out: true }]);
    expect(checkReport(JSON.parse(writeReport(out)))).toEqual(out);
    const back = after({ edit: 'put-column-back', table: 'makers', column: 'maker' }, out);
    expect(known(back, 'makers')).toEqual(['maker', 'country']);
    expect(back.tables.find(({ id }) => id === 'makers')).toEqual({ id: 'makers', source: { file: 'makers.csv' } });
  });

  test('is refused while something uses it, and its name stays taken', () => {
    const users: readonly (readonly [table: string, column: string, user: RegExp])[] = [
      ['orders', 'net', /the column price, the measure net/],
      ['orders', 'day', /the rows’ date/],
      ['goals', 'month', /the rows’ date/],
      ['orders', 'code', /the column line, the lookup in products/],
      ['products', 'family', /the column line/],
      ['makers', 'maker', /the lookup of products/],
    ];
    for (const [table, column, user] of users)
      expect(() => after({ edit: 'remove-column', table, column })).toThrow(user);
    // What is looked up is left out where it stands.
    expect(after({ edit: 'remove-column', table: 'orders', column: 'family' })).toBe(BASE);
    const bare = checkReport({ ...BASE, benchmarks: [], figures: [], pages: [] });
    const out = after({ edit: 'remove-column', table: 'goals', column: 'place' }, bare);
    expect(() => after({ edit: 'rename-column', table: 'goals', column: 'goal', to: 'Place' }, out)).toThrow('Place');
  });

  test('still tells rows apart, may be missing in a file, and is no date', async () => {
    const lines = [
      'day,booked,note,net',
      '2025-01-01,2025-02-01,a,1',
      '2025-01-01,2025-02-01,b,1',
      '2025-01-01,2025-02-01,b,1',
    ];
    const entry = {
      id: 't',
      source: { file: 't.csv' },
      columns: [
        { name: 'note', out: true as const },
        { name: 'day', out: true as const },
      ],
    };
    const open = async (text: readonly string[]) => {
      const report = checkReport({ boldRuler: 1, name: 'r', tables: [entry] });
      const table = await readTable(report.tables[0]!, fileOf('t.csv', new TextEncoder().encode(text.join('\n'))));
      return workspaceFor(report, new Map([['t', table]])).source.facts('t')!;
    };
    const facts = await open(lines);
    expect([[...facts.columns.keys()], facts.date, facts.duplicates?.count]).toEqual([['booked', 'net'], 'booked', 1]);
    expect([...(await open(['net', '1', '2'])).columns.keys()]).toEqual(['net']);
  });
});
