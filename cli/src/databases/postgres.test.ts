import { readIsoDay } from '@bold-ruler/core/calendar';
import { checkExpression, readExpression, type Aggregate } from '@bold-ruler/core/measure';
import type { Query } from '@bold-ruler/core/query';
import { afterAll, describe, expect, test } from 'vitest';
import { agreesWithMemory, said, sourceIn, type Engine } from './agreement.fixture';
import { fillerOf } from './postgres.fixture';
import { postgres } from './postgres';
import { PROGRAMS, startServer, type Server } from './server.fixture';

const { expression } = checkExpression(
  readExpression('sum(net)'),
  'sum(net)',
  new Map([['net', 'number']] as const),
  'groups',
);
const MONTHS: Query = {
  table: 'sales',
  aggregates: [expression as Aggregate],
  by: [],
  grain: 'month',
  span: null,
  where: [],
};

describe.skipIf(PROGRAMS === null)('PostgreSQL (Debian’s package postgresql)', () => {
  let server: Server;
  let engine: Engine;
  const started = async (): Promise<Engine> => {
    server = await startServer();
    const database = postgres('here', { keep: 0, url: server.url() });
    engine = {
      database,
      ...fillerOf(server),
    };
    return engine;
  };
  afterAll(async () => {
    await engine?.database.end();
    await server?.end();
  });

  agreesWithMemory(started);

  test('several groupings of the same rows are one statement', async () => {
    const span = { from: 20_120, to: 20_160 };
    const queries = [[], ['shop'], ['line', 'shop'], ['shop', 'line']].flatMap((by) =>
      (['day', 'week', 'month', 'year'] as const).map((grain): Query => ({ ...MONTHS, by, grain, span })),
    );
    const source = await sourceIn(engine);
    await source.facts();
    const counted = () => server.log().match(/execute [^:]*: select/g)?.length ?? 0;
    const before = counted();
    await source.groups(queries);
    expect(counted() - before).toBeLessThan(queries.length / 3);
  });

  test('rows that come after it was looked at lie in their own steps, or wait until it is looked at again', async () => {
    await server.owner('create table growing (day date, net numeric(12,2))');
    await server.owner(`insert into growing values ('2025-01-10', 1), ('2025-04-10', 2)`);
    const source = await sourceIn(engine, {}, 'growing');
    await source.facts();
    await server.owner(`insert into growing values ('2025-02-10', 4), ('2025-06-10', 8)`);
    const found = async (from: typeof source) =>
      [...said((await from.groups([MONTHS]))[0]!).values()].map(([, net]) => net);
    expect(await found(source)).toEqual([1, 4, 2]);
    expect(await found(await sourceIn(engine, {}, 'growing'))).toEqual([1, 4, 2, 8]);
  });

  test('numbers of a type without decimals are sums to the last digit, a computed day places them, finer rows that come are told', async () => {
    await server.owner('create table plain (text text, net numeric, wide numeric)');
    await server.owner(
      `insert into plain select '2025-0' || (1 + i % 3) || '-15', 0.1, 0.1234567891 from generate_series(1, 30) as i`,
    );
    const derived = [
      { name: 'day', expression: "case when text like '2025%' then cast(text as date) else date '2025-01-01' end" },
    ];
    const source = await sourceIn(engine, { derived }, 'plain');
    const facts = (await source.facts()).get('sales')!;
    expect([facts.decimals.get('net'), facts.decimals.get('wide'), facts.rows]).toEqual([1, null, 30]);
    expect(facts.span!.to).toBe(readIsoDay('2025-03-15'));
    const asked = async () => (await source.groups([MONTHS]))[0]!.values[0]!;
    expect(await asked()).toEqual({ of: Float64Array.of(10, 10, 10), decimals: 1 });
    await server.owner(`insert into plain values ('2025-03-15', 0.25, 0)`);
    expect(await asked()).toEqual({ of: Float64Array.of(1, 1, 1.25), decimals: null });
  });
});
