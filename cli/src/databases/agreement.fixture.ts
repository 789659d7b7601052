import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import fc from 'fast-check';
import { isoDay } from '@bold-ruler/core/calendar';
import { drawFigure, numbersOf, type Drawn } from '@bold-ruler/core/figure';
import { checkExpression, readExpression, type Aggregate } from '@bold-ruler/core/measure';
import { isProblem } from '@bold-ruler/core/problem';
import { readBrief, type Condition } from '@bold-ruler/core/brief';
import { answerBrief, type Groups, type Query, type Source } from '@bold-ruler/core/query';
import { fileOf, readCsv } from '@bold-ruler/core/reading';
import { reckon } from '@bold-ruler/core/reckoning';
import { checkReport, readReport, type TableEntry } from '@bold-ruler/core/report';
import { columnarSource, columnTypes, sqlSource, tableInSql, withDerived } from '@bold-ruler/core/source';
import { makeTable, type NumberColumn, type Table } from '@bold-ruler/core/table';
import { elsewhereIn, openReportWith, workspaceFor, workspaceOver, type OpenReport } from '@bold-ruler/core/workspace';
import { beforeAll, describe, expect, test } from 'vitest';
import { briefOf, described, question, world } from '../../../core/src/proof/world.fixture';
import { tries } from '../../../core/src/proof/tries.fixture';
import { agreesSlowly } from '../../../core/src/query/slowly.fixture';
import { contractOf, CSV, ROWS, type Row } from '../../../core/src/source/contract.fixture';
import type { Connected } from './reach';

// What every engine has to agree on with rows in memory, to the last digit: the contract of sources, expressions,
// the demo’s figures, and figures of any world.

/** A kind of column as an engine declares it; numbers are exact, with two decimals where nothing else is said. */
export type Declared = 'text' | 'number' | 'integer' | 'date' | 'yesno';

/** An engine that tests have filled. */
export interface Engine {
  readonly database: Connected;
  /** A table of its own, with these rows. */
  fill(
    table: string,
    columns: readonly (readonly [name: string, kind: Declared, decimals?: number])[],
    rows: readonly (readonly (string | null)[])[],
  ): Promise<void>;
}

const YEARS = { fiscalYearStart: 1, fiscalYearNamed: 'end', weekStart: 'monday' } as const;

const blankAsNothing = (lines: readonly (readonly string[])[]): (string | null)[][] =>
  lines.map((line) => line.map((cell) => (cell === '' ? null : cell)));

const numberAt = ({ columns }: Table, name: string): NumberColumn =>
  columns.find((column): column is NumberColumn => column.kind === 'number' && column.name === name)!;

/** Fills the rows of the contract of sources. */
const fillSales = (engine: Engine) =>
  engine.fill(
    'sales',
    [
      ['day', 'date'],
      ['shop', 'text'],
      ['line', 'text'],
      ['net', 'number'],
      ['pieces', 'integer'],
    ],
    ROWS.map(({ day, shop, line, net, pieces }) => [
      day === null ? null : isoDay(day),
      shop,
      line,
      net === null ? null : net.toFixed(2),
      String(pieces),
    ]),
  );

/** A table of the engine as a source, under the name `sales`. */
export async function sourceIn({ database }: Engine, more: object = {}, table = 'sales'): Promise<Source> {
  const source = { file: table, database: 'here', table };
  const known = await tableInSql({ id: 'sales', source, date: 'day', ...more }, database, YEARS);
  return sqlSource(new Map([['sales', known]]), YEARS);
}

/** Groups by their names: what an answer says, in whatever order its members are. */
export const said = ({ count, fields, steps, rows, values }: Groups) =>
  new Map(
    Array.from({ length: count }, (_, i) => [
      JSON.stringify([...fields.map(({ members, codes }) => members[codes[i]!]), steps?.[i] ?? null]),
      [rows[i]!, ...values.map(({ of, decimals }) => (decimals === null ? of[i]! : of[i]! / 10 ** decimals))],
    ]),
  );
const expectSame = (got: Groups, wanted: Groups) => {
  const [one, other] = [said(got), said(wanted)];
  expect([...one.keys()].sort()).toEqual([...other.keys()].sort());
  for (const [key, values] of other)
    values.forEach((value, v) => {
      const found = one.get(key)![v]!;
      if (Number.isNaN(value)) expect(found, key).toBeNaN();
      // Exact ones are equal to the last digit; what is divided is so nearly.
      else if (wanted.values[v - 1]?.decimals === null)
        expect(Math.abs(found - value), key).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(value)));
      else expect(found, key).toBe(value);
    });
};

const EXPRESSIONS = [
  'net * pieces',
  'net / pieces',
  'net + 1.25 - pieces * 2',
  '-net',
  'round(net / pieces, 2)',
  'round(net)',
  'round(net, -1)',
  'abs(net) + sign(net)',
  'coalesce(net, pieces, 0)',
  'nullif(pieces, 3)',
  'greatest(net, pieces)',
  'least(net, pieces, 4.5)',
  "case when shop = 'Alder' then net when line like 'k%' then pieces else 0 end",
  "case shop when 'Birch' then 2 end",
  'extract(year from day) * 100 + extract(month from day)',
  'extract(quarter from day) + extract(week from day) + extract(dow from day) + extract(day from day)',
  'cast(net as integer)',
  'cast(pieces as text) = cast(7 as text)',
  "cast('12.5' as number) * pieces",
  "cast('1.2.3' as number)",
  "cast('2025-02-30' as date) is null",
  "cast('2025-02-28 and more' as date) > day",
  "day between date '2025-02-01' and date '2025-03-03'",
  "shop in ('Alder', 'Cedar') and not (pieces in (1, 2))",
  "shop < 'B' or shop is null",
  "line not like '%, bow_d'",
  'net between pieces and pieces * 5',
  'pieces not between 2 and 7',
  "shop like '%' and net > 1 or pieces = 0",
  'net is null',
  'shop is not null',
  "case when pieces > 5 then shop else line end = 'keys'",
  "coalesce(shop, line) = 'brass'",
  'pieces / 0',
  'pieces * 3000000000 * 3',
  'net <> 0',
  "nullif(shop, 'Alder') is null",
  "coalesce(nullif(shop, 'Alder'), 'none') = 'none'",
  "not (shop = 'Alder' or line = 'keys')",
  "not (shop = 'Alder' and net > 5)",
  '(net > 5 or pieces > 3) is null',
  '(net > 5 and pieces > 3) is null',
  'net in (1, 2, null)',
  'round(net / pieces, pieces - 3)',
  'round(-net * 0.005, 2)',
  'cast(day as text)',
  'cast(net as text) < cast(pieces as text)',
  "greatest(shop, line) = least('brass', shop)",
  'greatest(net / pieces, 2.5)',
  "line like 'Strings\\%' or line like '%\\%'",
];
const AGGREGATES = [
  ...['sum', 'avg', 'min', 'max', 'count', 'stddev_samp', 'percentile'],
  ...['count(distinct', 'sum(distinct', 'avg(distinct', 'min(distinct', 'stddev_samp(distinct'],
];

/**
 * @param start gives the engine, once it runs
 * @param order how it puts rows in order that have none of their own
 */
export function agreesWithMemory(start: () => Promise<Engine>, order?: (a: Row, b: Row) => number): void {
  let engine: Engine;
  beforeAll(async () => {
    engine = await start();
    await fillSales(engine);
  });

  contractOf('its rows', () => sourceIn(engine), order);

  test('every expression says what it says over columns, in a derived column, an aggregate, a filter and a field', async () => {
    const memory = makeTable(await readCsv('sales', CSV), { id: 'sales', date: 'day' });
    const derived = EXPRESSIONS.map((expression, i) => ({ name: `d${i}`, expression }));
    const columns = withDerived(memory, derived);
    const here = columnarSource(new Map([['sales', columns]]), YEARS);
    const there = await sourceIn(engine, { derived });
    const types = columnTypes(columns);
    const of = (text: string) => checkExpression(readExpression(text), text, types, 'groups').expression as Aggregate;
    expect([...(await there.facts()).get('sales')!.columns]).toEqual([...here.factsAt('sales')!.columns]);
    const aggregates = derived.flatMap(({ name, expression }) => {
      if (types.get(name) === 'yesno') return [of(`count(*) filter (where ${expression})`)];
      if (types.get(name) === 'text') return [of(`count(distinct ${expression})`), of(`count(${name})`)];
      return AGGREGATES.map((fn) => {
        if (fn === 'percentile') return of(`percentile_cont(0.3) within group (order by ${name})`);
        return of(fn.includes('(') ? `${fn} ${expression})` : `${fn}(${expression})`);
      });
    });
    const plain = { table: 'sales', span: null, where: [] };
    const queries: Query[] = [
      { ...plain, aggregates, by: ['shop'], grain: null },
      { ...plain, aggregates: aggregates.slice(0, 20), by: ['line'], grain: 'quarter' },
      // Whatever has names is a field, too.
      ...derived.map(({ name }) => ({ ...plain, aggregates: [], by: [name], grain: null })),
    ];
    const [wanted, got] = [await here.groups(queries), await there.groups(queries)];
    queries.forEach((_, q) => expectSame(got[q]!, wanted[q]!));
    // And what has names can be chosen by them.
    for (const [d, { name }] of derived.entries()) {
      const { fields } = wanted[d + 2]!;
      const members = fields[0]!.members.slice(0, 2).map((member) => (member === '' ? null : member));
      const chosen = (['is', 'is not'] as const).map((kind): Query => {
        const where: Condition[] = [{ kind, field: name, members }];
        return { ...plain, where, aggregates: aggregates.slice(0, 1), by: [], grain: null };
      });
      const [one, other] = [await there.groups(chosen), await here.groups(chosen)];
      chosen.forEach((_, q) => expectSame(one[q]!, other[q]!));
    }
  });

  test('queries over the same rows at once say what each says alone, and what memory says', async () => {
    const types = new Map([
      ['net', 'number'],
      ['pieces', 'number'],
      ['line', 'text'],
    ] as const);
    const of = (text: string) => checkExpression(readExpression(text), text, types, 'groups').expression as Aggregate;
    const aggregates = ['sum(net)', 'avg(pieces)', 'count(*)'].map(of);
    const span = { from: 20_120, to: 20_160 };
    const where = [{ kind: 'is not', field: 'line', members: ['keys'] }] as const;
    const queries = [[], ['shop'], ['line', 'shop'], ['shop', 'line'], ['net']].flatMap((by) =>
      ([null, 'day', 'week', 'month', 'year'] as const).flatMap((grain) =>
        [null, span].map((within): Query => ({ table: 'sales', aggregates, by, grain, span: within, where })),
      ),
    );
    const together = await (await sourceIn(engine)).groups(queries);
    const alone = await sourceIn(engine);
    for (const [q, query] of queries.entries()) expectSame(together[q]!, (await alone.groups([query]))[0]!);
    const memory = makeTable(await readCsv('sales', CSV), { id: 'sales', date: 'day' });
    const wanted = await columnarSource(new Map([['sales', memory]]), YEARS).groups(queries);
    queries.forEach((_, q) => expectSame(together[q]!, wanted[q]!));
  });

  describe('the demo, its orders in the database and its plan in a file', () => {
    const folder = fileURLToPath(new URL('../../../demo/files/', import.meta.url));
    const fileAt = ({ source }: TableEntry) => fileOf(source.file, readFileSync(join(folder, source.file)));
    let files: OpenReport;
    let mixed: OpenReport;

    beforeAll(async () => {
      const demo = readReport(readFileSync(join(folder, 'pellwether.ruler.json'), 'utf8'));
      const [orders, ...others] = demo.tables;
      const { joins: _, ...alone } = orders!;
      const bare = { ...demo, tables: [alone, ...others], hierarchies: [], pages: [] };
      files = await openReportWith(bare, fileAt);
      const { columns } = files.tables.get('orders')!;
      const { lines } = await files.source.rows(
        { table: 'orders', span: null, where: [] },
        { from: 0, count: Infinity },
      );
      await engine.fill(
        'orders',
        columns.map(({ name, kind }) => [name, kind]),
        blankAsNothing(lines),
      );
      const source = { file: 'orders.csv', database: 'here', table: 'orders' };
      mixed = await openReportWith(
        { ...bare, tables: [{ ...alone, source }, ...others] },
        fileAt,
        () => engine.database,
      );
    });

    test('every figure has the same numbers and the same words', async () => {
      let compared = 0;
      for (const figure of files.report.figures) if (await expectSameFigure(files, mixed, figure)) compared++;
      expect(compared).toBeGreaterThan(20);
    });

    test('how a number came about is told in the same words, and its rows are those', async () => {
      const figure = files.report.figures[0]!;
      const told = async (desk: OpenReport) => {
        const { sentences } = await reckon(desk, await drawFigure(desk, figure), 0);
        return sentences.map(({ text }) => text);
      };
      expect(await told(mixed)).toEqual(await told(files));
    });
  });

  test('a second, slow calculation agrees with it: exact sums to the last digit, all else to 1e-9', async () => {
    let filled: object | null = null;
    await agreesSlowly(tries(25), async (report, tables, world) => {
      if (filled !== world)
        await engine.fill(
          'slow',
          [
            ['day', 'date'],
            ['shop', 'text'],
            ['net', 'number'],
          ],
          world.rows.map(({ day, shop, cents }) => [day, shop, cents === null ? null : (cents / 100).toFixed(2)]),
        );
      filled = world;
      const entry: TableEntry = {
        id: 'sales',
        source: { file: 'sales.csv', database: 'here', table: 'slow' },
        date: 'day',
        grain: tables.get('sales')!.grain ?? 'day',
      };
      return workspaceOver(
        { ...report, tables: [entry, report.tables[1]!] },
        new Map([['goals', tables.get('goals')!]]),
        await elsewhereIn([entry], report.calendar, () => engine.database),
      );
    });
  });

  test('amounts are converted there as here, by rates in a file and by rates in a database', async () => {
    const sales = ['day,shop,currency,net', '2025-01-10,Alder,EUR,100.50', '2025-01-31,Alder,USD,200.00'];
    sales.push('2025-02-01,Birch,USD,30.25', '2025-02-14,Birch,GBP,10.00', '2025-02-16,Cedar,CHF,80.00');
    const rates = ['month,currency,rate', '2025-01-01,USD,0.9123', '2025-02-01,USD,0.95', '2025-02-01,GBP,1.25'];
    const cells = (lines: readonly string[]) => lines.slice(1).map((line) => line.split(','));
    await engine.fill(
      'abroad',
      [
        ['day', 'date'],
        ['shop', 'text'],
        ['currency', 'text'],
        ['net', 'number'],
      ],
      cells(sales),
    );
    await engine.fill(
      'fx',
      [
        ['month', 'date'],
        ['currency', 'text'],
        ['rate', 'number', 4],
      ],
      cells(rates),
    );
    const rateColumns = { date: 'month', grain: 'month', rates: { currency: 'currency', rate: 'rate' } } as const;
    const report = checkReport({
      boldRuler: 1,
      name: 'r',
      tables: [
        { id: 'abroad', source: { file: 'abroad.csv' }, date: 'day' },
        { id: 'fx', source: { file: 'fx.csv' }, ...rateColumns },
      ],
      measures: [
        {
          name: 'net',
          table: 'abroad',
          expression: 'sum(net)',
          currency: { column: 'currency', rates: 'fx', to: 'EUR', at: 'own' },
        },
        { name: 'plain', table: 'abroad', expression: 'sum(net)' },
      ],
    });
    const read = new Map<string, Table>();
    for (const [entry, lines] of [
      [report.tables[0]!, sales],
      [report.tables[1]!, rates],
    ] as const)
      read.set(entry.id, makeTable(await readCsv(entry.id, lines.join('\n')), entry));
    const files = workspaceFor(report, read);
    const elsewhere = (id: string): TableEntry => ({
      ...report.tables.find((one) => one.id === id)!,
      source: { file: `${id}.csv`, database: 'here', table: id },
    });
    const here = numbersOf(
      await answerBrief(files, readBrief('net by shop during all time', files.vocabulary)),
    ).rows.map(({ key, actual }) => [key['shop'], actual]);
    expect(here).toEqual([
      ['Alder', 282.96],
      ['Birch', 41.2375],
      ['Cedar', null],
    ]);
    for (const ids of [['abroad'], ['abroad', 'fx']]) {
      const there = workspaceOver(
        { ...report, tables: report.tables.map((one) => (ids.includes(one.id) ? elsewhere(one.id) : one)) },
        new Map([...read].filter(([id]) => !ids.includes(id))),
        await elsewhereIn(ids.map(elsewhere), report.calendar, () => engine.database),
      );
      for (const brief of [
        'net by shop during all time',
        'net each month during fiscal 2025',
        'plain by shop during all time',
      ])
        await expectSameFigure(files, there, { id: 'f', brief, look: {} });
    }
  });

  test('figures of any world have the same numbers and the same words', async () => {
    let compared = 0;
    const asked = fc.record({ q: question, more: fc.constantFrom(null, null, null, ...MORE.map(({ name }) => name)) });
    await fc.assert(
      fc.asyncProperty(world, fc.array(asked, { minLength: 42, maxLength: 42 }), async (w, questions) => {
        const known = await described(w, true);
        const sales = known.tables.get('sales')!;
        const report = checkReport({
          ...known.report,
          tables: [{ id: 'sales', source: { file: 'sales.csv' }, date: 'day' }, known.report.tables[1]!],
          measures: [...known.report.measures, ...MORE],
        });
        const files = workspaceFor(report, known.tables);
        await engine.fill(
          'world',
          [
            ['day', 'date'],
            ['shop', 'text'],
            ['line', 'text'],
            // What has no cents there has none here.
            ['net', 'number', numberAt(sales, 'net').decimals ?? 2],
            ['pieces', 'integer'],
          ],
          blankAsNothing(known.sales.map((line) => line.split(','))),
        );
        const entry: TableEntry = {
          id: 'sales',
          source: { file: 'sales.csv', database: 'here', table: 'world' },
          date: 'day',
          grain: sales.grain ?? 'day',
        };
        const there = workspaceOver(
          { ...report, tables: [entry, report.tables[1]!] },
          new Map([['goals', known.tables.get('goals')!]]),
          await elsewhereIn([entry], report.calendar, () => engine.database),
        );
        for (const { q, more } of questions) {
          const brief = briefOf(more ? { ...q, view: more } : q);
          if (await expectSameFigure(files, there, { id: 'f', brief, look: q.trend ? { trend: true } : {} }))
            compared++;
        }
      }),
      { numRuns: tries(12) },
    );
    expect(compared).toBeGreaterThan(tries(250));
  });
}

/** Measures that databases and memory add up in ways of their own. */
const MORE = [
  { name: 'typical', table: 'sales', expression: 'percentile_cont(0.3) within group (order by net)' },
  { name: 'spread', table: 'sales', expression: 'stddev_samp(net)' },
  { name: 'middle', table: 'sales', expression: 'avg(pieces)' },
  { name: 'kinds', table: 'sales', expression: 'count(distinct line)' },
  { name: 'best', table: 'sales', expression: "max(net) filter (where line <> 'keys')" },
];

const textsOf = ({ scene }: Drawn) => scene.marks.flatMap((mark) => (mark.shape === 'text' ? [mark.text] : [])).sort();

/** Draws a figure over both; false where neither can be drawn, for the same reason. */
async function expectSameFigure(
  files: OpenReport,
  there: OpenReport,
  figure: Parameters<typeof drawFigure>[1],
): Promise<boolean> {
  const [wanted, got] = await Promise.allSettled([files, there].map((desk) => drawFigure(desk, figure)));
  const { brief } = figure;
  if (wanted!.status === 'rejected') {
    if (!isProblem(wanted!.reason)) throw wanted!.reason;
    expect(String((got as PromiseRejectedResult).reason), brief).toBe(String(wanted!.reason));
    return false;
  }
  if (got!.status === 'rejected') throw got!.reason;
  expect(textsOf(got!.value), brief).toEqual(textsOf(wanted!.value));
  const rowsOf = ({ rows }: Drawn) =>
    new Map(numbersOf(rows).rows.map((row) => [JSON.stringify([row.key, row.step]), row]));
  const [own, other] = [rowsOf(got!.value), rowsOf(wanted!.value)];
  expect([...own.keys()].sort()).toEqual([...other.keys()].sort());
  for (const [key, row] of other)
    for (const part of ['actual', 'benchmark', 'gap'] as const) {
      const [a, b] = [own.get(key)![part] ?? null, row[part] ?? null];
      const what = `${brief} ${key} ${part}`;
      if (b === null) expect(a, what).toBeNull();
      else expect(Math.abs(a! - b), what).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(b)));
    }
  return true;
}
