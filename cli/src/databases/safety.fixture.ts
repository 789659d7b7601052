import { createServer, connect, type AddressInfo, type Socket } from 'node:net';
import { checkExpression, readExpression, type Aggregate } from '@bold-ruler/core/measure';
import { isProblem } from '@bold-ruler/core/problem';
import type { Query, Source } from '@bold-ruler/core/query';
import { sqlSource, tableInSql } from '@bold-ruler/core/source';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Engine } from './agreement.fixture';
import type { Connected, Reach } from './reach';
import { PASSWORD } from './server.fixture';

// What every engine has to withstand: names and values that mean something, and everything that fails on the way.

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

/** An engine that runs where tests can see what it is sent, and can end it. */
export interface Watched extends Engine {
  readonly port: number;
  url(user?: string): string;
  connected(reach: Partial<Reach>): Connected;
  /** The first word of every statement that it has been sent so far. */
  sent(): readonly string[];
  /** What it holds that nobody may change. */
  canary(): Promise<string>;
  /** A query that takes longer than anyone waits, and one that takes a moment; both give `shop` and `net`. */
  readonly endless: string;
  readonly moment: string;
  /** Whether a statement runs now that has a word in it. */
  runs(word: string): Promise<boolean>;
  /** Names of columns that it takes for something else itself: they are left out. */
  readonly mistaken: readonly string[];
  kill(): Promise<void>;
  start(): Promise<void>;
  end(): Promise<void>;
}

/** A table of an engine as a source, under the name `rows`. */
export async function rowsIn(
  database: Connected,
  source: { readonly table?: string; readonly query?: string },
  more: object = {},
): Promise<Source> {
  const entry = { id: 'rows', source: { file: 'rows', database: 'here', ...source }, ...more };
  return sqlSource(new Map([['rows', await tableInSql(entry, database, YEARS)]]), YEARS);
}

export const PLAIN: Query = { table: 'rows', aggregates: [], by: [], grain: null, span: null, where: [] };
export const aggregate = (text: string): Aggregate =>
  checkExpression(readExpression(text), text, new Map([['net', 'number']] as const), 'groups').expression as Aggregate;
const SUM: Query = { ...PLAIN, aggregates: [aggregate('sum(net)')] };
const sumOf = async (source: Source) => {
  const [answer] = await source.groups([SUM]);
  const { of, decimals } = answer!.values[0]!;
  return of[0]! / 10 ** decimals!;
};

/** What a fault says, all of it; it never says how the database is reached. */
export async function faultOf(work: () => Promise<unknown>, port: number): Promise<string> {
  const error = await work().then(
    () => new Error('it was answered'),
    (fault: unknown) => fault,
  );
  expect(isProblem(error), String(error)).toBe(true);
  const told = JSON.stringify(error, Object.getOwnPropertyNames(error)) + String(error);
  for (const secret of [PASSWORD, encodeURIComponent(PASSWORD), String(port), '127.0.0.1', 'reader'])
    expect(told).not.toContain(secret);
  return (error as Error).message;
}

/** What stands between us and a server, where connections can be counted and cut. */
async function relayTo(to: number) {
  const sockets = new Set<Socket>();
  let open = 0;
  let most = 0;
  const relay = createServer((client) => {
    most = Math.max(most, ++open);
    client.on('close', () => open--);
    const there = connect(to, '127.0.0.1');
    for (const one of [client, there]) {
      sockets.add(one);
      one.on('error', () => {});
      one.on('close', () => (client.destroy(), there.destroy()));
    }
    client.pipe(there).pipe(client);
  });
  await new Promise<void>((ready) => relay.listen(0, '127.0.0.1', ready));
  const { port } = relay.address() as AddressInfo;
  return { sockets, port, most: () => most, end: () => void relay.close() };
}

const until = async (what: () => Promise<boolean>) => {
  while (!(await what())) await new Promise((later) => setTimeout(later, 10));
};

/** @param start gives the engine, once it runs */
export function withstands(start: () => Promise<Watched>): void {
  let engine: Watched;
  beforeAll(async () => {
    engine = await start();
  });
  afterAll(() => engine?.end());
  const tableOf = (name: string) => `"${name.replaceAll('"', '""')}"`;
  const fillOrders = (amount = 'net') =>
    engine.fill(
      'orders',
      [
        ['day', 'date'],
        [amount, 'number'],
        ['shop', 'text'],
      ],
      [['2025-01-02', '5', 'A']],
    );

  test('hostile names and values are names and values: nothing is run but what was asked', async () => {
    const names = HOSTILE.filter((name) => !engine.mistaken.includes(name));
    for (const [i, name] of names.entries())
      // A table, a column and members of these very names.
      await engine.fill(
        `${name} t${i}`,
        [
          [name, 'text'],
          ['net', 'integer'],
        ],
        [
          [name, '1'],
          ['other', '2'],
          [null, '4'],
        ],
      );
    for (const name of engine.mistaken) {
      const columns = [[name, 'text'] as const, ['net', 'integer'] as const];
      await engine.fill('mistaken', columns, [['x', '1']]);
      const facts = (await (await rowsIn(engine.database, { table: 'mistaken' })).facts()).get('rows')!;
      expect([...facts.columns.keys()]).toEqual(['net']);
    }
    const changing = () => engine.sent().filter((word) => !/^\(*(?:select|begin|rollback|discard)$/.test(word));
    const [before, changed] = [engine.sent().length, changing()];
    for (const [i, name] of names.entries()) {
      const source = await rowsIn(engine.database, { table: tableOf(`${name} t${i}`) });
      const facts = (await source.facts()).get('rows')!;
      expect([...facts.columns.keys()]).toEqual([name, 'net']);
      expect(facts.members.get(name)).toContain(name);
      const ask = async (more: Partial<Query>) => {
        const [answer] = await source.groups([{ ...SUM, ...more }]);
        return answer!;
      };
      const is = (members: readonly (string | null)[], kind: 'is' | 'is not' = 'is') => ({
        kind,
        field: name,
        members,
      });
      expect([...(await ask({ where: [is([name])] })).values[0]!.of], name).toEqual([1]);
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
      expect([...(await ask({ aggregates: [filtered] })).values[0]!.of], name).toEqual([1]);
      // As the name of a table that is not there, and as a query that is none.
      for (const other of [{ table: `nowhere ${name}` }, { query: `select 1 ${name}` }, { query: name }])
        await rowsIn(engine.database, other).then(
          () => {},
          (error: unknown) => expect(isProblem(error), String(error)).toBe(true),
        );
    }
    expect(engine.sent().length - before).toBeGreaterThan(names.length * 10);
    expect(changing()).toEqual(changed);
    expect(await engine.canary()).toBe('kept');
  });

  test('a column that is renamed, a statement that takes too long, a server that falls and stands up again', async () => {
    await fillOrders();
    const hasty = engine.connected({ seconds: 1 });
    const patient = engine.connected({});
    const fault = (work: () => Promise<unknown>) => faultOf(work, engine.port);
    expect(await fault(async () => (await rowsIn(hasty, { query: engine.endless })).facts())).toMatch(
      /longer than 1 second/,
    );
    const source = await rowsIn(patient, { table: 'orders' }, { date: 'day' });
    expect(await sumOf(source)).toBe(5);
    await fillOrders('amount');
    expect(await fault(() => sumOf(source))).toMatch(/net/);
    await fillOrders();
    expect(await sumOf(source)).toBe(5);
    await engine.kill();
    expect(await fault(() => sumOf(source))).toMatch(/cannot be reached|no more questions/);
    await engine.start();
    expect(await sumOf(source)).toBe(5);
    await Promise.all([hasty.end(), patient.end()]);
  });

  test('a connection that is cut in the middle of an answer is told, and the next question has a new one', async () => {
    const { sockets, port, end } = await relayTo(engine.port);
    const through = engine.connected({ url: engine.url().replace(`:${engine.port}/`, `:${port}/`) });
    const source = await rowsIn(through, { query: engine.moment });
    const text = `select sum(net) as cut_here from (${engine.endless}) as x`;
    const pending = faultOf(() => through.ask({ text, values: [] }), port);
    // Cut as soon as the statement runs.
    await until(() => engine.runs('cut_here'));
    for (const one of sockets) one.destroy();
    expect(await pending).toMatch(/cannot be reached/);
    expect((await source.facts()).get('rows')!.rows).toBe(1);
    await through.end();
    end();
  });

  test('two hundred at once are answered over a few connections', async () => {
    await fillOrders();
    const { most, port, end } = await relayTo(engine.port);
    const few = engine.connected({ connections: 3, url: engine.url().replace(`:${engine.port}/`, `:${port}/`) });
    const source = await rowsIn(few, { table: 'orders' }, { date: 'day' });
    await source.facts();
    expect(await Promise.all(Array.from({ length: 200 }, () => sumOf(source)))).toEqual(Array(200).fill(5));
    expect(most()).toBe(3);
    await few.end();
    end();
  });

  test('a question that nobody waits for any more ends where it runs, and no other with it', async () => {
    await fillOrders();
    const one = engine.connected({ connections: 1 });
    const quick = await rowsIn(one, { table: 'orders' });
    const left = new AbortController();
    const asked = () =>
      one.ask({ text: `select sum(net) as left_here from (${engine.endless}) as x`, values: [] }, left.signal);
    const pending = faultOf(asked, engine.port);
    await until(() => engine.runs('left_here'));
    // Another waits for the same connection.
    const other = sumOf(quick);
    left.abort();
    expect(await pending).toMatch(/nobody waits/);
    expect(await other).toBe(5);
    await until(async () => !(await engine.runs('left_here')));
    // What is left before it is begun is not begun.
    expect(await faultOf(asked, engine.port)).toMatch(/nobody waits/);
    await one.end();
  });

  test('an answer is kept for as long as is said, and asked anew when the table is looked at again', async () => {
    const looking = async (keep: number) => {
      await fillOrders();
      const database = engine.connected({ keep });
      const source = await rowsIn(database, { table: 'orders' });
      expect(await sumOf(source)).toBe(5);
      await engine.fill('orders', [['net', 'number']], [['7']]);
      const found = [await sumOf(source), await sumOf(await rowsIn(database, { table: 'orders' }))];
      await database.end();
      return found;
    };
    expect(await looking(1000)).toEqual([5, 7]);
    expect(await looking(0)).toEqual([7, 7]);
  });
}
