import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { isoDay, readIsoDay } from '@bold-ruler/core/calendar';
import { drawFigure, numbersOf, type Drawn } from '@bold-ruler/core/figure';
import { checkExpression, readExpression, type Aggregate } from '@bold-ruler/core/measure';
import { type Groups, type Query } from '@bold-ruler/core/query';
import { fileOf, readCsv } from '@bold-ruler/core/reading';
import { reckon } from '@bold-ruler/core/reckoning';
import { readReport, type TableEntry } from '@bold-ruler/core/report';
import { columnarSource, columnTypes, sqlSource, tableInSql, withDerived } from '@bold-ruler/core/source';
import { makeTable } from '@bold-ruler/core/table';
import { openReportWith, type OpenReport } from '@bold-ruler/core/workspace';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { contractOf, CSV, ROWS } from '../../../core/src/source/contract.fixture';
import { postgres, type Connected } from './postgres';
import { PROGRAMS, startServer, type Server } from './server.fixture';

const YEARS = { fiscalYearStart: 1, fiscalYearNamed: 'end', weekStart: 'monday' } as const;

describe.skipIf(PROGRAMS === null)('PostgreSQL (Debian’s package postgresql)', () => {
  let server: Server;
  let database: Connected;
  beforeAll(async () => {
    server = await startServer();
    await server.owner('create table sales (day date, shop text, line text, net numeric(12,2), pieces int)');
    await server.owner(
      'insert into sales select * from unnest($1::date[], $2::text[], $3::text[], $4::numeric[], $5::int[])',
      [
        ROWS.map(({ day }) => (day === null ? null : isoDay(day))),
        ROWS.map(({ shop }) => shop),
        ROWS.map(({ line }) => line),
        ROWS.map(({ net }) => net),
        ROWS.map(({ pieces }) => pieces),
      ],
    );
    database = postgres('here', { url: server.url() });
  });
  afterAll(async () => {
    await database?.end();
    await server?.end();
  });

  const inSql = async (more: object = {}, named = 'sales') => {
    const source = { file: named, database: 'here', table: named };
    const table = await tableInSql({ id: 'sales', source, date: 'day', ...more }, database, YEARS);
    return sqlSource(new Map([['sales', table]]), YEARS);
  };

  contractOf('rows in PostgreSQL', async () => {
    return inSql();
  });

  /** Groups by their names: what an answer says, in whatever order its members are. */
  const said = ({ count, fields, steps, rows, values }: Groups) =>
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
  ];
  const AGGREGATES = ['sum', 'avg', 'min', 'max', 'count', 'stddev_samp', 'percentile'];

  test('every expression says what it says over columns, in a derived column, an aggregate, a filter and a field', async () => {
    const memory = makeTable(await readCsv('sales', CSV), { id: 'sales', date: 'day' });
    const derived = EXPRESSIONS.map((expression, i) => ({ name: `d${i}`, expression }));
    const columns = withDerived(memory, derived);
    const here = columnarSource(new Map([['sales', columns]]), YEARS);
    const there = await inSql({ derived });
    const types = columnTypes(columns);
    const of = (text: string) => checkExpression(readExpression(text), text, types, 'groups').expression as Aggregate;
    expect([...(await there.facts()).get('sales')!.columns]).toEqual([...here.factsAt('sales')!.columns]);
    const aggregates = derived.flatMap(({ name, expression }) => {
      if (types.get(name) === 'yesno') return [of(`count(*) filter (where ${expression})`)];
      return AGGREGATES.map((fn) =>
        of(fn === 'percentile' ? `percentile_cont(0.3) within group (order by ${name})` : `${fn}(${expression})`),
      );
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
  });

  test('queries over the same rows are one statement, and say what each says alone', async () => {
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
    const before = server.log().match(/execute [^:]*: select/g)?.length ?? 0;
    const together = await (await inSql()).groups(queries);
    const statements = (server.log().match(/execute [^:]*: select/g)?.length ?? 0) - before;
    expect(statements).toBeLessThan(queries.length / 3);
    const alone = await inSql();
    for (const [q, query] of queries.entries()) expectSame(together[q]!, (await alone.groups([query]))[0]!);
    const memory = makeTable(await readCsv('sales', CSV), { id: 'sales', date: 'day' });
    const wanted = await columnarSource(new Map([['sales', memory]]), YEARS).groups(queries);
    queries.forEach((_, q) => expectSame(together[q]!, wanted[q]!));
  });

  test('rows that come after it was looked at lie in their own steps, or wait until it is looked at again', async () => {
    await server.owner('create table growing (day date, net numeric(12,2))');
    await server.owner(`insert into growing values ('2025-01-10', 1), ('2025-04-10', 2)`);
    const source = await inSql({}, 'growing');
    await source.facts();
    await server.owner(`insert into growing values ('2025-02-10', 4), ('2025-06-10', 8)`);
    const sum = checkExpression(
      readExpression('sum(net)'),
      'sum(net)',
      new Map([['net', 'number']] as const),
      'groups',
    );
    const months: Query = {
      table: 'sales',
      aggregates: [sum.expression as Aggregate],
      by: [],
      grain: 'month',
      span: null,
      where: [],
    };
    const found = async (from: typeof source) =>
      [...said((await from.groups([months]))[0]!).values()].map(([, net]) => net);
    expect(await found(source)).toEqual([1, 4, 2]);
    expect(await found(await inSql({}, 'growing'))).toEqual([1, 4, 2, 8]);
  });

  test('numbers of a type without decimals are sums to the last digit, a computed day places them, finer rows that come are told', async () => {
    await server.owner('create table plain (text text, net numeric, wide numeric)');
    await server.owner(
      `insert into plain select '2025-0' || (1 + i % 3) || '-15', 0.1, 0.1234567891 from generate_series(1, 30) as i`,
    );
    const derived = [
      { name: 'day', expression: "case when text like '2025%' then cast(text as date) else date '2025-01-01' end" },
    ];
    const source = await inSql({ derived }, 'plain');
    const facts = (await source.facts()).get('sales')!;
    expect([facts.decimals.get('net'), facts.decimals.get('wide'), facts.rows]).toEqual([1, null, 30]);
    expect(facts.span!.to).toBe(readIsoDay('2025-03-15'));
    const sum = checkExpression(
      readExpression('sum(net)'),
      'sum(net)',
      new Map([['net', 'number']] as const),
      'groups',
    );
    const query: Query = {
      table: 'sales',
      aggregates: [sum.expression as Aggregate],
      by: [],
      grain: 'month',
      span: null,
      where: [],
    };
    const asked = async () => (await source.groups([query]))[0]!.values[0]!;
    expect(await asked()).toEqual({ of: Float64Array.of(10, 10, 10), decimals: 1 });
    await server.owner(`insert into plain values ('2025-03-15', 0.25, 0)`);
    expect(await asked()).toEqual({ of: Float64Array.of(1, 1, 1.25), decimals: null });
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
      await server.owner(
        `create table orders (${columns
          .map(
            ({ name, kind }) =>
              `"${name}" ${{ text: 'text', number: 'numeric(12,2)', date: 'date', yesno: 'boolean' }[kind]}`,
          )
          .join(', ')})`,
      );
      const { lines } = await files.source.rows(
        { table: 'orders', span: null, where: [] },
        { from: 0, count: Infinity },
      );
      const types = columns.map(
        ({ kind }) => ({ text: 'text', number: 'numeric', date: 'date', yesno: 'boolean' })[kind],
      );
      await server.owner(
        `insert into orders select * from unnest(${types.map((type, i) => `$${i + 1}::${type}[]`).join(', ')})`,
        types.map((_, c) => lines.map((line) => (line[c] === '' ? null : line[c]))),
      );
      const source = { file: 'orders', database: 'here', table: 'public.orders' };
      mixed = await openReportWith({ ...bare, tables: [{ ...alone, source }, ...others] }, fileAt, () => database);
    });

    test('every figure has the same numbers and the same words', async () => {
      let compared = 0;
      for (const figure of files.report.figures) {
        const [wanted, got] = await Promise.allSettled([files, mixed].map((desk) => drawFigure(desk, figure)));
        if (wanted!.status === 'rejected') {
          expect(String((got as PromiseRejectedResult).reason)).toBe(String(wanted!.reason));
          continue;
        }
        if (got!.status === 'rejected') throw got!.reason;
        const texts = ({ scene }: Drawn) =>
          scene.marks
            .flatMap((mark) => (mark.shape === 'text' ? [mark.text.replaceAll('orders.csv', 'orders')] : []))
            .sort();
        expect(texts(got!.value), figure.brief).toEqual(texts(wanted!.value));
        const rows = ({ rows: cells }: Drawn) =>
          new Map(numbersOf(cells).rows.map((row) => [JSON.stringify([row.key, row.step]), row]));
        const [own, other] = [rows(got!.value), rows(wanted!.value)];
        expect([...own.keys()].sort()).toEqual([...other.keys()].sort());
        for (const [key, row] of other) {
          const found = own.get(key)!;
          for (const part of ['actual', 'benchmark', 'gap'] as const) {
            const [a, b] = [found[part] ?? null, row[part] ?? null];
            if (b === null) expect(a, `${figure.brief} ${key} ${part}`).toBeNull();
            else
              expect(Math.abs(a! - b), `${figure.brief} ${key} ${part}`).toBeLessThanOrEqual(
                1e-9 * Math.max(1, Math.abs(b)),
              );
          }
        }
        compared++;
      }
      expect(compared).toBeGreaterThan(20);
    });

    test('how a number came about is told in the same words, and its rows are those', async () => {
      const figure = files.report.figures[0]!;
      const told = async (desk: OpenReport) => {
        const { sentences } = await reckon(desk, await drawFigure(desk, figure), 0);
        return sentences.map(({ text }) => text.replaceAll('orders.csv', 'orders'));
      };
      expect(await told(mixed)).toEqual(await told(files));
    });
  });
});
