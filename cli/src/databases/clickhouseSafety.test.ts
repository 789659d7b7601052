import { writeFileSync } from 'node:fs';
import { afterAll, describe, expect, test } from 'vitest';
import { at, run, spawned } from '../command.fixture';
import { endDatabases } from '.';
import { clickhouse } from './clickhouse';
import { clusterFiller, HAS_CLICKHOUSE, startCluster, type Cluster } from './cluster.fixture';
import type { Connected } from './reach';
import { aggregate, faultOf, PLAIN, rowsIn, withstands, type Watched } from './safety.fixture';

describe.skipIf(!HAS_CLICKHOUSE)('ClickHouse (Debian’s package clickhouse-server), whatever it is asked', () => {
  let cluster: Cluster;
  let database: Connected;
  const started = async (): Promise<Watched> => {
    cluster = await startCluster();
    const { front, shards, url } = cluster;
    database = clickhouse('here', { keep: 0, url: url() });
    await front.owner('create table canary (secret String) engine = TinyLog');
    await front.owner(`insert into canary values ('kept')`);
    return {
      database,
      ...clusterFiller(cluster),
      port: front.port,
      url,
      connected: (reach) => clickhouse('here', { keep: 0, url: url(), ...reach }),
      sent: () =>
        [front, ...shards].flatMap((node) =>
          [...node.log().matchAll(/executeQuery: \(from [^)]*\)\s+(\S+)/g)].map(([, word]) => word!.toLowerCase()),
        ),
      canary: async () => (await front.owner('select secret from canary')).trim(),
      endless: 'select toString(number) as shop, 1 as net from system.numbers',
      moment: 'select toString(sleep(0.2)) as shop, 1 as net',
      runs: async (word) =>
        (await front.owner(
          `select count() from system.processes where query like '%${word}%' and query not like '%system.processes%'`,
        )) !== '0\n',
      // Between its servers it writes them without quotes.
      mistaken: ['null', 'NULL'],
      kill: front.kill,
      start: front.start,
      async end() {
        await database.end();
        await cluster.end();
      },
    };
  };
  withstands(started);
  afterAll(endDatabases);
  const fault = (work: () => Promise<unknown>) => faultOf(work, cluster.front.port);

  test.each([
    ['select 1 as net; drop table canary', /Multi-statements|Syntax error/],
    ['drop table canary', /Syntax error/],
    ['select 1 as net) as x; drop table canary --', /Multi-statements|Syntax error/],
    ['select * from canary) settings readonly = 0 --', /only read from|Syntax error/],
    [`select * from url('http://127.0.0.1:1/', 'TSV', 'a String')`, /Table functions are forbidden/],
    [`select * from file('x', 'TSV', 'a String')`, /Table functions are forbidden/],
    ["select 1 as net) into outfile 'x' --", /Syntax error|only read/],
    ['kill query where 1', /Syntax error/],
    ['insert into canary values (1)', /Syntax error/],
  ])('a query that would change something is refused: %s', async (query, why) => {
    expect(await fault(async () => (await rowsIn(database, { query })).facts())).toMatch(why);
    expect(await cluster.front.owner('select secret from canary')).toBe('kept\n');
  });

  test('what is missing or not allowed is told in a sentence, and nothing of how it is reached', async () => {
    await cluster.fill(
      'orders',
      ['day Nullable(Date)', 'net Decimal(12, 2)', 'shop String'],
      [['2025-01-02', '5', 'A']],
    );
    const by = (user: string) => clickhouse('here', { keep: 0, url: cluster.url(user) });
    const opened = (of: Connected, table: string) => async () => (await rowsIn(of, { table })).facts();
    expect(await fault(opened(database, 'nothing'))).toMatch(/nothing doesn't exist/);
    expect(await fault(opened(by('nobody'), 'orders'))).toMatch(/does not let us in/);
    expect(await fault(opened(by('lenient'), 'orders'))).toMatch(/numbers could be incomplete/);
    expect(await fault(opened(clickhouse('here', { url: 'http://127.0.0.1:1/x' }), 'orders'))).toMatch(
      /cannot be reached/,
    );
    // Who can only read, or set nothing either, is read from all the same.
    for (const user of ['reading', 'fixed']) {
      const facts = (await (await rowsIn(by(user), { table: 'orders' })).facts()).get('rows')!;
      expect([...facts.columns.keys()]).toEqual(['day', 'net', 'shop']);
    }
    // Who may set limits has ours.
    const hasty = clickhouse('here', { url: cluster.url('reading'), seconds: 1 });
    const endless = 'select number as net from system.numbers';
    expect(await fault(async () => (await rowsIn(hasty, { query: endless })).facts())).toMatch(/longer than 1 second/);
    expect(await fault(() => rowsIn(database, { table: 'orders' }, { date: 'shop' }))).toMatch(/no day/);
    const early = { derived: [{ name: 'when', expression: "cast('1960-05-05' as date)" }] };
    expect(await fault(async () => (await rowsIn(database, { table: 'orders' }, early)).profile('rows'))).toMatch(
      /from 1970-01-02 to 2105-12-31/,
    );
  });

  test('with one of two servers away there is no number, and all of them once it is back', async () => {
    await cluster.fill(
      'parts',
      ['day Nullable(Date)', 'net Decimal(12, 2)'],
      Array.from({ length: 10 }, (_, i) => [`2025-01-0${1 + (i % 9)}`, '1.50']),
    );
    const source = await rowsIn(database, { table: 'parts' }, { date: 'day' });
    const query = { ...PLAIN, aggregates: [aggregate('sum(net)')] };
    const sum = async () => (await source.groups([query]))[0]!.values[0]!;
    const all = { of: Float64Array.of(1500), decimals: 2 };
    expect(await sum()).toEqual(all);
    await cluster.shards[1].kill();
    expect(await fault(sum)).toMatch(/would be incomplete, so none are shown/);
    await cluster.shards[1].start();
    expect(await sum()).toEqual(all);
  });

  test('numbers are exact beyond what its own types hold, and days as computed ones; yes and no from numbers', async () => {
    await cluster.fill(
      'wide',
      ['day Date', 'at DateTime', 'long Int64', 'is UInt8', "kind Enum8('a' = 1, 'b' = 2)", 'fine Decimal(18, 9)'],
      Array.from({ length: 6 }, (_, i) => [
        '2025-01-01',
        `2025-02-0${i + 1} 23:59:59`,
        '9007199254740991',
        String(i % 2),
        i < 2 ? 'a' : 'b',
        '0.000000001',
      ]),
    );
    const columns = [{ name: 'is', type: 'yesno' }];
    const source = await rowsIn(database, { table: 'wide' }, { date: 'at', columns });
    const facts = (await source.facts()).get('rows')!;
    expect([...facts.columns.values()]).toEqual(['date', 'date', 'number', 'yesno', 'text', 'number']);
    expect([facts.span!.to - facts.span!.from, facts.decimals.get('long'), facts.decimals.get('fine')]).toEqual([
      5,
      0,
      null,
    ]);
    const [answer] = await source.groups([
      { ...PLAIN, by: ['kind', 'is'], aggregates: [aggregate('count(*)')] },
      { ...PLAIN, grain: 'day', aggregates: [aggregate('count(*)')] },
    ]);
    expect(answer!.fields.map(({ members, codes }) => [...codes].map((code) => members[code]))).toEqual([
      ['a', 'a', 'b', 'b'],
      ['no', 'yes', 'no', 'yes'],
    ]);
    // What has no day there has the first one.
    await cluster.fill(
      'early',
      ['at Date', 'net Decimal(12, 2)'],
      [
        ['0000-00-00', '1'],
        ['2025-01-02', '2'],
      ],
    );
    const early = await rowsIn(database, { table: 'early' }, { date: 'at' });
    const dated = (await early.groups([{ ...PLAIN, grain: 'day', aggregates: [aggregate('sum(net)')] }]))[0]!;
    expect([dated.undated, [...dated.values[0]!.of], (await early.facts()).get('rows')!.rows]).toEqual([1, [200], 2]);
    const long = aggregate('sum(net)');
    const [sum] = await source.groups([
      { ...PLAIN, aggregates: [{ ...long, of: { kind: 'column', name: 'long', at: [0, 0] } } as typeof long] },
    ]);
    expect(sum!.values[0]!.of[0]).toBe(6 * 9007199254740991);
  });

  test('the command line draws from it, told where it is by the environment; a report never says that', async () => {
    await cluster.fill(
      'orders',
      ['day Nullable(Date)', 'net Decimal(12, 2)', 'shop String'],
      [['2025-01-02', '5', 'A']],
    );
    const report = {
      boldRuler: 1,
      name: 'r',
      tables: [{ id: 'orders', source: { database: 'far', table: 'default.orders' }, date: 'day' }],
      measures: [{ name: 'net', table: 'orders', expression: 'sum(net)' }],
      figures: [{ id: 'shops', brief: 'net by shop as bars' }],
    };
    writeFileSync(at('far.ruler.json'), JSON.stringify(report));
    process.env['BOLD_RULER_DATABASE_FAR'] = cluster.url();
    const numbers = JSON.parse((await run('numbers', 'far.ruler.json', 'shops')).out) as { rows: { actual: number }[] };
    expect(numbers.rows.map(({ actual }) => actual)).toEqual([5]);
    // A whole process ends by itself, connections and all.
    const drawn = spawned('draw', 'far.ruler.json', 'shops', '-o', '-', '--as', 'svg');
    expect([drawn.status, drawn.out.includes('>From default.orders, as of 2 Jan 2025.<')]).toEqual([0, true]);
    delete process.env['BOLD_RULER_DATABASE_FAR'];
  });
});
