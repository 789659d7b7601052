import { writeFileSync } from 'node:fs';
import { afterAll, describe, expect, test } from 'vitest';
import { at, run, spawned } from '../command.fixture';
import { endDatabases } from '.';
import { fillerOf } from './postgres.fixture';
import { postgres } from './postgres';
import type { Connected } from './reach';
import { faultOf, rowsIn, withstands, type Watched } from './safety.fixture';
import { PASSWORD, PROGRAMS, startServer, type Server } from './server.fixture';

describe.skipIf(PROGRAMS === null)('PostgreSQL (Debian’s package postgresql), whatever it is asked', () => {
  let server: Server;
  let database: Connected;
  const started = async (): Promise<Watched> => {
    server = await startServer();
    database = postgres('here', { keep: 0, url: server.url() });
    await server.owner('create table canary (secret text)');
    await server.owner(`insert into canary values ('kept')`);
    return {
      database,
      ...fillerOf(server),
      port: server.port,
      url: server.url,
      connected: (reach) => postgres('here', { keep: 0, url: server.url(), ...reach }),
      sent: () =>
        [...server.log().matchAll(/LOG:\s+(?:statement|execute [^:]*): (\S+)/g)].map(([, word]) => word!.toLowerCase()),
      canary: async () => String((await server.owner('select secret from canary'))[0]!['secret']),
      endless: 'select pg_sleep(600)::text as shop, 1 as net',
      moment: 'select pg_sleep(0.2)::text as shop, 1 as net',
      runs: async (word) =>
        (
          await server.owner(
            `select 1 from pg_stat_activity where application_name = 'bold-ruler' and state = 'active' and query like $1`,
            [`%${word}%`],
          )
        ).length > 0,
      mistaken: [],
      kill: server.kill,
      start: server.start,
      async end() {
        await database.end();
        await server.end();
      },
    };
  };
  withstands(started);
  afterAll(endDatabases);

  test.each([
    ['select 1 as net; delete from canary', /multiple commands|syntax/],
    ['with gone as (delete from canary returning 1) select * from gone', /only read from|data-modifying/],
    [`select set_config('transaction_read_only', 'off', false) as a, 1 as net`, /read-write mode/],
    [`select 1 as net) as x; delete from canary; --`, /multiple commands|syntax/],
    ['delete from canary', /syntax/],
    [`select * from nextval('s')`, /it says|not there|only read/],
  ])('a query that would change something is refused: %s', async (query, why) => {
    await server.owner('create sequence if not exists s');
    const refused = await rowsIn(database, { query })
      .then((source) => source.facts())
      .catch((error: unknown) => error);
    expect(String((refused as Error).message)).toMatch(why);
    expect(await server.owner('select secret from canary')).toEqual([{ secret: 'kept' }]);
    expect(await server.owner('select last_value, is_called from s')).toEqual([{ last_value: '1', is_called: false }]);
  });

  test('a query that sets something for its connection sets it for nobody else', async () => {
    const one = postgres('here', { keep: 0, url: server.url(), connections: 1 });
    const asked = async (text: string) => (await one.ask({ text, values: [] }))[0]![0];
    const SETTINGS = ['timezone', 'search_path', 'statement_timeout', 'datestyle', 'work_mem'];
    const settings = () => asked(`select concat_ws(' ', ${SETTINGS.map((name) => `current_setting('${name}')`)})`);
    try {
      const before = await settings();
      for (const [name, value] of [
        ['timezone', 'Pacific/Kiritimati'],
        ['search_path', 'pg_catalog'],
        ['statement_timeout', '0'],
        ['datestyle', 'SQL, DMY'],
        ['work_mem', '64kB'],
      ])
        expect(await asked(`select set_config('${name}', '${value}', false)`)).toBe(value);
      await asked('select pg_advisory_lock(7)');
      expect(await settings()).toBe(before);
      expect(await asked(`select count(*)::text from pg_locks where locktype = 'advisory'`)).toBe('0');
      // Large objects can be made where nothing else is written; they are not kept.
      await asked(`select lo_from_bytea(0, 'x')`).catch(() => null);
      expect(await asked('select count(*)::text from pg_largeobject_metadata')).toBe('0');
    } finally {
      await one.end();
    }
  });

  test('what is missing or not allowed is told in a sentence, and nothing of how it is reached', async () => {
    await server.owner('drop table if exists orders');
    await server.owner('create table orders (day date, net numeric(12,2), shop text)');
    await server.owner(`insert into orders values ('2025-01-02', 5, 'A')`);
    await server.owner(`create role reader login password '${PASSWORD}'`);
    const reader = postgres('here', { keep: 0, url: server.url('reader') });
    const stranger = postgres('here', { keep: 0, url: server.url('nobody') });
    const nowhere = postgres('here', { keep: 0, url: 'postgresql://reader:x@127.0.0.1:1/postgres' });
    const opened = (of: Connected, table: string) => async () => (await rowsIn(of, { table })).facts();
    const fault = (work: () => Promise<unknown>) => faultOf(work, server.port);
    expect(await fault(opened(database, 'nothing'))).toMatch(/nothing/);
    expect(await fault(opened(reader, 'orders'))).toMatch(/permission denied/);
    expect(await fault(opened(stranger, 'orders'))).toMatch(/does not let us in/);
    expect(await fault(opened(nowhere, 'orders'))).toMatch(/cannot be reached/);
    expect(await fault(() => rowsIn(database, { table: 'orders' }, { date: 'shop' }))).toMatch(/no day/);
    expect(await fault(() => rowsIn(database, { table: 'orders' }, { columns: [{ name: 'gone' }] }))).toMatch(
      /no column/,
    );
    expect(await fault(() => rowsIn(database, { table: 'orders' }, { same: { shop: { A: 'B' } } }))).toMatch(
      /cannot be said/,
    );
    await Promise.all([reader.end(), stranger.end(), nowhere.end()]);
  });

  test('the command line draws from it, told where it is by the environment; a report never says that', async () => {
    const report = {
      boldRuler: 1,
      name: 'r',
      tables: [{ id: 'orders', source: { database: 'sales-db', table: 'public.orders' }, date: 'day' }],
      measures: [{ name: 'net', table: 'orders', expression: 'sum(net)' }],
      figures: [{ id: 'shops', brief: 'net by shop as bars' }],
      pages: [{ id: 'p', title: 'P', rows: [{ blocks: [{ figure: 'shops', share: 12 }] }] }],
    };
    writeFileSync(at('db.ruler.json'), JSON.stringify(report));
    expect((await run('numbers', 'db.ruler.json', 'shops')).err).toMatch(/BOLD_RULER_DATABASE_SALES_DB/);
    process.env['BOLD_RULER_DATABASE_SALES_DB'] = server.url();
    const numbers = JSON.parse((await run('numbers', 'db.ruler.json', 'shops')).out) as { rows: { actual: number }[] };
    expect(numbers.rows.map(({ actual }) => actual)).toEqual([5]);
    // A whole process ends by itself, connections and all.
    const drawn = spawned('draw', 'db.ruler.json', 'shops', '-o', '-', '--as', 'svg');
    expect([drawn.status, drawn.out.includes('>From public.orders, as of 2 Jan 2025.<')]).toEqual([0, true]);
    expect((await run('page', 'db.ruler.json', 'p', '-o', 'db.html')).status).toBe(0);
    expect((await run('check', 'db.ruler.json')).status).toBe(0);
    expect((await run('reckon', 'db.ruler.json', 'shops', '--at', 'shop=A')).out).toContain('public.orders');
    delete process.env['BOLD_RULER_DATABASE_SALES_DB'];
  });
});
