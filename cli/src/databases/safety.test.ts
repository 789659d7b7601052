import { writeFileSync } from 'node:fs';
import { createServer, connect, type AddressInfo, type Server as Relay, type Socket } from 'node:net';
import { checkExpression, readExpression, type Aggregate } from '@bold-ruler/core/measure';
import { isProblem } from '@bold-ruler/core/problem';
import type { Query, Source } from '@bold-ruler/core/query';
import { POSTGRESQL, sqlSource, tableInSql } from '@bold-ruler/core/source';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { at, run, spawned } from '../command.fixture';
import { endDatabases } from '.';
import { postgres } from './postgres';
import type { Connected } from './reach';
import { PASSWORD, PROGRAMS, startServer, type Server } from './server.fixture';

const { quoted } = POSTGRESQL;
const YEARS = { fiscalYearStart: 1, fiscalYearNamed: 'end', weekStart: 'monday' } as const;

/** Names and values that mean something to a database, a shell, a formatter or a terminal. */
const HOSTILE = [
  `'`,
  `"`,
  `''`,
  `""`,
  `\\`,
  `\\'`,
  `';`,
  `";`,
  `'; drop table canary; --`,
  `"; drop table canary; --`,
  `'); drop table canary; --`,
  `") ; delete from canary; --`,
  `' or '1'='1`,
  `" or "1"="1`,
  `' union select secret from canary --`,
  `1; update canary set secret = 'x'`,
  `--`,
  `-- comment`,
  `/* comment */`,
  `/*`,
  `*/`,
  `;`,
  `$1`,
  `$2::text`,
  `$$`,
  `$tag$ x $tag$`,
  `:name`,
  `:'x'`,
  `?`,
  `%s`,
  `%`,
  `_`,
  `{gap}`,
  `{{x}}`,
  '${x}',
  '`x`',
  `E'\\\\x'`,
  `U&'\\0027'`,
  `x'27'`,
  `null`,
  `NULL`,
  `true`,
  `select`,
  `from`,
  `rows`,
  `group by 1`,
  `pg_sleep(10)`,
  `copy canary to program 'id'`,
  `\u202Eevil`,
  `\u200B`,
  `\u2019`,
  `\u02BC; drop table canary`,
  `\uFF07`,
  `ſ`,
  `İ`,
  `a\nb`,
  `a\r\nb`,
  `a\tb`,
  `__proto__`,
  `constructor`,
  `😀'`,
  ` leading`,
];

describe.skipIf(PROGRAMS === null)('PostgreSQL (Debian’s package postgresql), whatever it is asked', () => {
  let server: Server;
  let database: Connected;
  beforeAll(async () => {
    server = await startServer();
    database = postgres('here', { url: server.url() });
    await server.owner('create table canary (secret text)');
    await server.owner(`insert into canary values ('kept')`);
  });
  afterAll(async () => {
    await database?.end();
    await endDatabases();
    await server?.end();
  });

  const sourceOf = async (source: { table?: string; query?: string }, more: object = {}, from = database) => {
    const entry = { id: 'rows', source: { file: 'rows', database: 'here', ...source }, ...more };
    return sqlSource(new Map([['rows', await tableInSql(entry, from, YEARS)]]), YEARS);
  };
  const plain: Query = { table: 'rows', aggregates: [], by: [], grain: null, span: null, where: [] };
  const COLUMNS = new Map([['net', 'number']] as const);
  const aggregate = (text: string) =>
    checkExpression(readExpression(text), text, COLUMNS, 'groups').expression as Aggregate;
  /** The statements the server wrote down that are ours, each by what it begins with. */
  const sent = () =>
    [...server.log().matchAll(/LOG:\s+(?:statement|execute [^:]*): (\S+(?: \S+)?)/g)].map(([, words]) =>
      words!.toLowerCase(),
    );

  test('hostile names and values are names and values: nothing is run but what was asked', async () => {
    const names = HOSTILE.map((name) => name.slice(0, 60));
    for (const [i, name] of names.entries()) {
      // A table, a column and members of these very names.
      const table = `${name} t${i}`;
      await server.owner(`create table ${quoted(table)} (${quoted(name)} text, net int)`);
      await server.owner(`insert into ${quoted(table)} values ($1, 1), ($2, 2), (null, 4)`, [name, 'other']);
    }
    const before = sent().length;
    for (const [i, name] of names.entries()) {
      const source = await sourceOf({ table: `"${`${name} t${i}`.replaceAll('"', '""')}"` });
      const facts = (await source.facts()).get('rows')!;
      expect([...facts.columns.keys()]).toEqual([name, 'net']);
      expect(facts.members.get(name)).toContain(name);
      const ask = async (more: Partial<Query>) => {
        const [answer] = await source.groups([{ ...plain, aggregates: [aggregate('sum(net)')], ...more }]);
        return answer!;
      };
      const is = (members: readonly (string | null)[], kind: 'is' | 'is not' = 'is') => ({
        kind,
        field: name,
        members,
      });
      expect([...(await ask({ where: [is([name])] })).values[0]!.of]).toEqual([1]);
      expect([...(await ask({ where: [is([name], 'is not')] })).values[0]!.of]).toEqual([6]);
      expect([...(await ask({ where: [is([null])] })).values[0]!.of]).toEqual([4]);
      const by = await ask({ by: [name] });
      expect(by.fields[0]!.members[by.fields[0]!.codes[1]!]).toBe([name, 'other'].sort()[0]);
      expect(await source.members('rows', name, name, 5)).toEqual([name]);
      expect(
        (await source.rows({ table: 'rows', span: null, where: [is([name])] }, { from: 0, count: 9 })).lines,
      ).toEqual([[name, '1']]);
      const literal = `sum(net) filter (where "${name.replaceAll('"', '""')}" = '${name.replaceAll("'", "''")}')`;
      const columns = new Map([
        [name, 'text'],
        ['net', 'number'],
      ] as const);
      const filtered = checkExpression(readExpression(literal), literal, columns, 'groups').expression as Aggregate;
      expect([...(await ask({ aggregates: [filtered] })).values[0]!.of]).toEqual([1]);
      // As the name of a table that is not there, and as a query that is none.
      for (const other of [{ table: `nowhere ${name}` }, { query: `select 1 ${name}` }, { query: name }])
        await sourceOf(other).then(
          () => {},
          (error: unknown) => expect(isProblem(error), String(error)).toBe(true),
        );
    }
    const ours = sent().slice(before);
    expect(ours.length).toBeGreaterThan(names.length * 10);
    expect(ours.filter((words) => !/^(?:select|begin|commit|rollback)\b/.test(words))).toEqual([]);
    expect(await server.owner('select secret from canary')).toEqual([{ secret: 'kept' }]);
  });

  test.each([
    ['select 1 as net; delete from canary', /multiple commands|syntax/],
    ['with gone as (delete from canary returning 1) select * from gone', /only read from|data-modifying/],
    [`select set_config('transaction_read_only', 'off', false) as a, 1 as net`, /read-write mode/],
    [`select 1 as net) as x; delete from canary; --`, /multiple commands|syntax/],
    ['delete from canary', /syntax/],
    [`select * from nextval('s')`, /it says|not there|only read/],
  ])('a query that would change something is refused: %s', async (query, why) => {
    await server.owner('create sequence if not exists s');
    const refused = await sourceOf({ query })
      .then((source) => source.facts())
      .catch((error: unknown) => error);
    expect(String((refused as Error).message)).toMatch(why);
    expect(await server.owner('select secret from canary')).toEqual([{ secret: 'kept' }]);
    expect(await server.owner('select last_value, is_called from s')).toEqual([{ last_value: '1', is_called: false }]);
  });

  /** What a fault says, all of it; it never says how the database is reached. */
  const faultOf = async (work: () => Promise<unknown>): Promise<string> => {
    const error = await work().then(
      () => new Error('it was answered'),
      (fault: unknown) => fault,
    );
    expect(isProblem(error), String(error)).toBe(true);
    const told = JSON.stringify(error, Object.getOwnPropertyNames(error)) + String(error);
    for (const secret of [PASSWORD, encodeURIComponent(PASSWORD), String(server.port), '127.0.0.1', 'reader'])
      expect(told).not.toContain(secret);
    return (error as Error).message;
  };

  test('what is missing or not allowed is told in a sentence, and nothing of how it is reached', async () => {
    await server.owner('create table orders (day date, net numeric(12,2), shop text)');
    await server.owner(`insert into orders values ('2025-01-02', 5, 'A')`);
    await server.owner(`create role reader login password '${PASSWORD}'`);
    const reader = postgres('here', { url: server.url('reader') });
    const stranger = postgres('here', { url: server.url('nobody') });
    const nowhere = postgres('here', { url: 'postgresql://reader:x@127.0.0.1:1/postgres' });
    const opened = (of: Connected, table: string) => async () => (await sourceOf({ table }, {}, of)).facts();
    expect(await faultOf(opened(database, 'nothing'))).toMatch(/nothing/);
    expect(await faultOf(opened(reader, 'orders'))).toMatch(/permission denied/);
    expect(await faultOf(opened(stranger, 'orders'))).toMatch(/does not let us in/);
    expect(await faultOf(opened(nowhere, 'orders'))).toMatch(/cannot be reached/);
    expect(await faultOf(() => sourceOf({ table: 'orders' }, { date: 'shop' }))).toMatch(/no day/);
    expect(await faultOf(() => sourceOf({ table: 'orders' }, { columns: [{ name: 'gone' }] }))).toMatch(/no column/);
    expect(await faultOf(() => sourceOf({ table: 'orders' }, { same: { shop: { A: 'B' } } }))).toMatch(
      /cannot be said/,
    );
    await Promise.all([reader.end(), stranger.end(), nowhere.end()]);
  });

  test('a column that is renamed, a statement that takes too long, a server that falls and stands up again', async () => {
    const hasty = postgres('here', { url: server.url(), seconds: 1 });
    const slow = await faultOf(async () =>
      sourceOf({ query: 'select pg_sleep(30)::text as shop, 1 as net' }, {}, hasty).then((one) => one.facts()),
    );
    expect(slow).toMatch(/longer than 1 second/);
    const source = await sourceOf({ table: 'orders' }, { date: 'day' }, hasty);
    const asked = { ...plain, aggregates: [aggregate('sum(net)')] };
    const answer = async () => [...(await source.groups([asked]))[0]!.values[0]!.of];
    expect(await answer()).toEqual([500]);
    await server.owner('alter table orders rename net to amount');
    expect(await faultOf(answer)).toMatch(/net/);
    await server.owner('alter table orders rename amount to net');
    expect(await answer()).toEqual([500]);
    await server.kill();
    expect(await faultOf(answer)).toMatch(/cannot be reached|no more questions/);
    await server.start();
    expect(await answer()).toEqual([500]);
    await hasty.end();
  });

  test('a connection that is cut in the middle of an answer is told, and the next question has a new one', async () => {
    const sockets = new Set<Socket>();
    const relay: Relay = createServer((client) => {
      const there = connect(server.port, '127.0.0.1');
      for (const one of [client, there]) {
        sockets.add(one);
        one.on('error', () => {});
        one.on('close', () => (client.destroy(), there.destroy()));
      }
      client.pipe(there).pipe(client);
    });
    await new Promise<void>((ready) => relay.listen(0, '127.0.0.1', ready));
    const { port } = relay.address() as AddressInfo;
    const through = postgres('here', { url: server.url().replace(`:${server.port}/`, `:${port}/`) });
    const source = await sourceOf({ query: 'select pg_sleep(0.2)::text as shop, 1 as net' }, {}, through);
    const pending = faultOf(() => source.groups([{ ...plain, aggregates: [aggregate('sum(net)')] }]));
    // Cut as soon as the statement is on its way.
    while (sockets.size === 0) await new Promise((later) => setTimeout(later, 5));
    for (const one of sockets) one.destroy();
    expect(await pending).toMatch(/cannot be reached/);
    expect((await source.facts()).get('rows')!.rows).toBe(1);
    await through.end();
    relay.close();
  });

  test('two hundred at once are answered over a few connections', async () => {
    const few = postgres('here', { url: server.url(), connections: 3 });
    const source: Source = await sourceOf({ table: 'orders' }, { date: 'day' }, few);
    await source.facts();
    const all = await Promise.all(
      Array.from({ length: 200 }, () =>
        source.groups([{ ...plain, aggregates: [aggregate('sum(net)')], by: ['shop'] }]),
      ),
    );
    expect(all.map(([answer]) => answer!.values[0]!.of[0])).toEqual(Array(200).fill(500));
    const [{ count }] = (await server.owner(
      `select count(*)::int as count from pg_stat_activity where application_name = 'bold-ruler' and pid <> pg_backend_pid()`,
    )) as [{ count: number }];
    expect(count).toBeLessThanOrEqual(3 + 4);
    await few.end();
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
