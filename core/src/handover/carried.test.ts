import fc from 'fast-check';
import { expect, test } from 'vitest';
import { readBrief } from '../brief';
import { drawPage, NOTHING_CHOSEN, writePage, type Reader } from '../page';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import { columnOf, makeTable } from '../table';
import { carriedWorkspace, workspaceFor } from '../workspace';
import { carriedBy, unpackTables } from '.';
import { tries } from '../proof/tries.fixture';

const FIGURES = [
  { id: 'bars', brief: 'net by shop during fiscal 2026 to date against last year as bullet' },
  { id: 'plan', brief: 'net by shop during fiscal 2026 to date against plan as bullet' },
  { id: 'change', brief: 'net by line during latest quarter against previous period as waterfall' },
  { id: 'pace', brief: 'cumulative net each month during fiscal 2026 against last year as pace' },
  { id: 'ranks', brief: 'rank of net by shop each month during last 6 months as bump' },
  { id: 'mean', brief: 'size by shop during fiscal 2026 to date as bars' },
  { id: 'table', brief: 'share of net by line during latest month as table' },
  { id: 'elsewhere', brief: 'secret by shop as bars' },
];

const report = (figures: readonly string[]) =>
  checkReport({
    boldRuler: 1,
    name: 'r',
    calendar: { fiscalYearStart: 9 },
    tables: [
      {
        id: 'orders',
        source: { file: 'in/orders.csv' },
        date: 'day',
        columns: [{ name: 'shop', order: ['North', 'East'] }],
      },
      { id: 'plan', source: { file: 'plan.csv' }, date: 'month', grain: 'month' },
    ],
    measures: [
      { name: 'net', table: 'orders', expression: 'sum(net)' },
      { name: 'size', table: 'orders', expression: 'avg(pieces)' },
      { name: 'secret', table: 'orders', expression: 'sum(secret)' },
    ],
    benchmarks: [{ name: 'plan', kind: 'table', table: 'plan', expression: 'sum(target)' }],
    figures: FIGURES,
    hierarchies: [['shop', 'line']],
    pages: [
      {
        id: 'p',
        title: 'P',
        period: true,
        filters: [{ field: 'shop' }, { field: 'channel' }],
        rows: figures.map((figure) => ({
          blocks: [
            { figure, share: 8 },
            { text: '{actual}', about: figure, share: 4 },
          ],
        })),
      },
    ],
  });

const line = fc.record({
  day: fc.integer({ min: 0, max: 1100 }),
  shop: fc.constantFrom('North', 'South', 'East', ''),
  line: fc.constantFrom('Keys', 'Brass'),
  channel: fc.constantFrom('Web', 'Schools'),
  net: fc.option(fc.integer({ min: -9000, max: 90_000 }), { freq: 9 }),
  pieces: fc.double({ min: 0, max: 9, noNaN: true }),
});

test('drawn from what a file carries, a page is the same, whatever its reader chooses; nothing else is carried', () =>
  fc.assert(
    fc.asyncProperty(
      fc.array(line, { minLength: 20, maxLength: 60 }),
      fc.subarray(
        FIGURES.slice(0, -1).map(({ id }) => id),
        { minLength: 1, maxLength: 4 },
      ),
      fc.constantFrom<Reader['only']>({}, { shop: ['North'] }, { shop: ['South', null], channel: ['Web'] }),
      fc.nat(),
      async (lines, figures, only, pick) => {
        const date = (days: number) => new Date(Date.UTC(2023, 2, 1 + days)).toISOString().slice(0, 10);
        const csv = [
          'day,shop,line,channel,net,pieces,secret',
          '2024-05-05,North,Keys,Web,1.5,2,1',
          ...lines.map(
            (one) =>
              `${date(one.day)},${one.shop},${one.line},${one.channel},${one.net === null ? '' : one.net / 100},${one.pieces},1`,
          ),
        ].join('\n');
        const plan = [
          'month,shop,target',
          ...Array.from({ length: 40 }, (_, i) => `${date(i * 30.5).slice(0, 7)},North,${i}`),
        ];
        const whole = report(figures);
        const read = new Map([
          ['orders', makeTable(await readCsv('orders', csv), whole.tables[0]!)],
          ['plan', makeTable(await readCsv('plan', plan.join('\n')), whole.tables[1]!)],
        ]);
        const desk = workspaceFor(whole, read);
        const page = whole.pages[0]!;
        const carried = (await carriedBy({ source: desk.source, report: whole, vocabulary: desk.vocabulary }, page))!;
        const tables = unpackTables(carried.tables);
        const other = carriedWorkspace(carried.report, tables, carried.names);
        const offered = [null, ...carried.periods.map(({ text }) => text)];
        const text = offered[pick % offered.length]!;
        const period = text === null ? null : readBrief(`net during ${text}`, desk.vocabulary).period;
        // A row is gone into, where the figure has shops.
        const picked = pick % 2 === 0 ? { figure: figures[0]!, field: 'shop', member: 'North' } : null;
        const reader: Reader = { ...NOTHING_CHOSEN, only, period, picked };
        const here = await drawPage({ source: desk.source, report: whole, vocabulary: desk.vocabulary }, page, {
          reader,
        });
        const there = await drawPage(
          { source: other.source, report: carried.report, vocabulary: other.vocabulary },
          carried.report.pages[0]!,
          {
            reader,
          },
        );
        expect(writePage(there)).toBe(writePage(here));
        for (const table of tables.values()) expect(columnOf(table, 'secret')).toBeUndefined();
        expect(carried.rows).toBe([...tables.values()].reduce((sum, { rows }) => sum + rows, 0));
        expect(carried.report.figures.some(({ id }) => id === 'elsewhere')).toBe(false);
      },
    ),
    { numRuns: tries(12) },
  ));

test('only the days a page shows or compares with are carried, and periods that need others are not offered', async () => {
  const csv = [
    'day,shop,line,channel,net,pieces,secret',
    ...[2020, 2021, 2022, 2023, 2024, 2025].flatMap((year) => [
      `${year}-10-05,North,Keys,Web,5,1,1`,
      `${year}-11-05,East,Keys,Web,5,1,1`,
    ]),
  ];
  const whole = report(['bars']);
  const read = new Map([['orders', makeTable(await readCsv('orders', csv.join('\n')), whole.tables[0]!)]]);
  const desk = workspaceFor({ ...whole, benchmarks: [] }, read);
  const carried = (await carriedBy(
    { source: desk.source, report: whole, vocabulary: desk.vocabulary },
    whole.pages[0]!,
  ))!;
  expect(carried.rows).toBe(4);
  expect(carried.fields.map(({ field, members }) => [field, members])).toEqual([
    ['shop', ['North', 'East']],
    ['channel', ['Web']],
  ]);
  expect(carried.periods.map(({ text }) => text)).toContain('2026-Q1');
  expect(carried.periods.map(({ text }) => text)).not.toContain('fiscal 2024');
});

test('a field that is looked up is carried as a column, and the page draws the same from its file', async () => {
  const whole = checkReport({
    boldRuler: 1,
    name: 'r',
    tables: [
      { id: 'orders', source: { file: 'o.csv' }, joins: [{ columns: ['line'], to: 'lines', on: ['line'] }] },
      { id: 'lines', source: { file: 'l.csv' }, columns: [{ name: 'family', order: ['Rhythm', 'Melody'] }] },
    ],
    measures: [{ name: 'net', table: 'orders', expression: "sum(net) filter (where lines.family <> 'None')" }],
    figures: [{ id: 'f', brief: 'net by family as bars, sorted by given order' }],
    pages: [{ id: 'p', title: 'P', filters: [{ field: 'family' }], rows: [{ blocks: [{ figure: 'f', share: 12 }] }] }],
  });
  const read = async (id: string, text: string) => makeTable(await readCsv(id, text), { id });
  const desk = workspaceFor(
    whole,
    new Map([
      ['orders', await read('orders', 'line,net\nKeys,5\nBrass,7\nDrums,1')],
      [
        'lines',
        makeTable(await readCsv('lines', 'line,family\nKeys,Rhythm\nBrass,Melody\nDrums,Rhythm'), whole.tables[1]!),
      ],
    ]),
  );
  const carried = (await carriedBy(desk, whole.pages[0]!))!;
  const there = carriedWorkspace(carried.report, unpackTables(carried.tables), carried.names);
  for (const only of [{}, { family: ['Melody'] }]) {
    const reader: Reader = { ...NOTHING_CHOSEN, only };
    const here = writePage(await drawPage(desk, whole.pages[0]!, { reader }));
    expect(writePage(await drawPage(there, carried.report.pages[0]!, { reader }))).toBe(here);
    expect(here).toContain('Melody');
  }
});
