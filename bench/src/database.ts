/** Pages over rows in PostgreSQL, and in ClickHouse over two servers: beside the SQL that an expert would send for the same answers, and beside fetching the rows. `npm run bench -- database [TIMES] [postgresql | clickhouse]` */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { drawPage, NOTHING_CHOSEN } from '@bold-ruler/core/page';
import { fileOf } from '@bold-ruler/core/reading';
import { checkReport } from '@bold-ruler/core/report';
import { openReportWith, type OpenReport } from '@bold-ruler/core/workspace';
import { clickhouse } from '../../cli/src/databases/clickhouse';
import { HAS_CLICKHOUSE, startCluster } from '../../cli/src/databases/cluster.fixture';
import { postgres } from '../../cli/src/databases/postgres';
import type { Connected } from '../../cli/src/databases/reach';
import { PROGRAMS, startServer } from '../../cli/src/databases/server.fixture';
import { printRatio, sideBySide } from './timing';

const [folder, times = '20', only] = process.argv.slice(2) as [string, string?, string?];
const YEAR = 'during fiscal 2026 to date';
const BRIEFS = [
  `net by territory ${YEAR} against last year as bullet`,
  `net by product line ${YEAR} against last year as pairs`,
  `net by channel ${YEAR} against last year as bars`,
  `net by rep ${YEAR} as bars`,
  'net each month during fiscal 2026 against last year as trend',
  'cumulative net each day during fiscal 2026 against last year as pace',
  'rank of net by territory each month during last 24 months as bump',
  'net during latest day against previous day as headline',
  `net by account ${YEAR} as bars, keep 10 highest`,
  `net, cost by territory ${YEAR} as table`,
  `net by territory, channel ${YEAR} as bars`,
  'net each week during fiscal 2026 as trend',
];

const now = `ordered between '2025-09-01' and '2026-03-18'`;
const before = `ordered between '2024-09-01' and '2025-03-18'`;
const lastYear = `ordered between '2024-09-01' and '2025-08-31'`;
const chosen = `channel in ('Schools', 'Web')`;
const twoYears = (by: string) =>
  `select ${by}, sum(net) filter (where ${now}), sum(net) filter (where ${before}) from orders where ${chosen} and (${now} or ${before}) group by 1`;
const oneYear = (by: string, what = 'sum(net)') =>
  `select ${by}, ${what} from orders where ${chosen} and ${now} group by ${by
    .split(',')
    .map((_, i) => i + 1)
    .join(', ')}`;
/** What somebody who knows the tables would ask for these figures. */
const EXPERT = [
  ...['territory', '"product line"', 'channel'].map(twoYears),
  oneYear('rep'),
  `select date_trunc('month', ordered), sum(net) from orders where ${chosen} and (${now} or ${lastYear}) group by 1`,
  `select ordered, sum(net) from orders where ${chosen} and (${now} or ${lastYear}) group by 1`,
  `select territory, date_trunc('month', ordered), sum(net) from orders where ${chosen} and ordered between '2024-04-01' and '2026-03-31' group by 1, 2`,
  `select ordered, sum(net) from orders where ${chosen} and ordered in ('2026-03-18', '2026-03-17') group by 1`,
  oneYear('account'),
  oneYear('territory', 'sum(net), sum(cost)'),
  oneYear('territory, channel'),
  `select date_trunc('week', ordered), sum(net) from orders where ${chosen} and ${now} group by 1`,
];

/** The same for an engine that groups by names and has functions of its own for filters and steps. */
const inClickHouse = (text: string): string => {
  const [, of] = /^select (.*?), sum\(/.exec(text)!;
  return text
    .replaceAll(/sum\(net\) filter \(where (.*?'\)?)\)(?=,| from)/g, 'sumIf(net, $1)')
    .replace(/ group by .*$/, ` group by ${of}`)
    .replaceAll(/date_trunc\('month', ordered\)/g, 'toStartOfMonth(ordered)')
    .replaceAll(/date_trunc\('week', ordered\)/g, 'toMonday(ordered)');
};

const [NAMES, ...LINES] = readFileSync(join(folder, 'orders.csv'), 'utf8')
  .trim()
  .split('\n')
  .map((line) => line.split(',')) as [string[], ...string[][]];

interface Engine {
  readonly name: string;
  readonly expert: readonly string[];
  connected(): Connected;
  /** Has the demo's orders, so many times over. */
  filled(count: number): Promise<void>;
  end(): Promise<void>;
}

async function inPostgres(): Promise<Engine> {
  const server = await startServer();
  const types = NAMES.map((name) => ({ ordered: 'date', net: 'numeric(12,2)', cost: 'numeric(12,2)' })[name] ?? 'text');
  return {
    name: 'postgresql',
    expert: EXPERT,
    connected: () => postgres('here', { url: server.url(), keep: 0 }),
    async filled(count) {
      await server.owner('drop table if exists orders');
      await server.owner(`create table orders (${NAMES.map((name, c) => `"${name}" ${types[c]!}`).join(', ')})`);
      const lists = types.map((type, c) => `$${c + 1}::${type.replace(/\(.*/, '')}[]`);
      await server.owner(
        `insert into orders select o.* from unnest(${lists.join(', ')}) as o, generate_series(1, ${count})`,
        NAMES.map((_, c) => LINES.map((line) => line[c] || null)),
      );
      await server.owner('vacuum analyze orders');
    },
    end: server.end,
  };
}

async function inCluster(): Promise<Engine> {
  const cluster = await startCluster();
  const types = NAMES.map(
    (name) => ({ ordered: 'Date', net: 'Decimal(12, 2)', cost: 'Decimal(12, 2)' })[name] ?? 'String',
  );
  const columns = NAMES.map((name, c) => `"${name}" ${types[c]!}`);
  await cluster.fill('base', columns, LINES);
  const list = NAMES.map((name) => `"${name}"`).join(', ');
  return {
    name: 'clickhouse',
    expert: EXPERT.map(inClickHouse),
    connected: () => clickhouse('here', { url: cluster.url(), keep: 0 }),
    async filled(count) {
      for (const shard of cluster.shards) {
        await shard.owner('drop table if exists orders');
        await shard.owner(`create table orders (${columns.join(', ')}) engine = MergeTree order by ordered`);
        const base = `local_${Buffer.from('base').toString('hex')}`;
        await shard.owner(`insert into orders select ${list} from ${base} array join range(${count}) as again`);
      }
      await cluster.front.owner('drop table if exists orders');
      await cluster.front.owner(
        `create table orders (${columns.join(', ')}) engine = Distributed(both, default, orders)`,
      );
    },
    end: cluster.end,
  };
}

async function opened(database: Connected): Promise<OpenReport> {
  const report = checkReport({
    boldRuler: 1,
    name: 'bench',
    calendar: { fiscalYearStart: 9 },
    tables: [{ id: 'orders', source: { database: 'here', table: 'orders' }, date: 'ordered' }],
    measures: ['net', 'cost'].map((name) => ({ name, table: 'orders', expression: `sum(${name})` })),
    figures: BRIEFS.map((brief, i) => ({ id: `f${i}`, brief })),
    pages: [{ id: 'p', title: 'P', rows: BRIEFS.map((_, i) => ({ blocks: [{ figure: `f${i}`, share: 12 }] })) }],
  });
  return openReportWith(
    report,
    ({ source }) => fileOf(source.file, new Uint8Array()),
    () => database,
  );
}

const paged = (desk: OpenReport) => () =>
  drawPage(desk, desk.report.pages[0]!, { reader: { ...NOTHING_CHOSEN, only: { channel: ['Schools', 'Web'] } } });

const list = Math.max(1, Number(times));
const starts = [
  ...(PROGRAMS === null || only === 'clickhouse' ? [] : [inPostgres]),
  ...(!HAS_CLICKHOUSE || only === 'postgresql' ? [] : [inCluster]),
];
if (PROGRAMS === null || !HAS_CLICKHOUSE)
  console.log('not installed, so not measured: Debian’s packages postgresql, clickhouse-server');
for (const start of starts) {
  const engine = await start();
  const rowsAt: number[] = [];
  const timeAt: number[] = [];
  for (const count of [list >> 1 || 1, list]) {
    await engine.filled(count);
    const database = engine.connected();
    const desk = await opened(database);
    const { rows } = desk.source.facts('orders')!;
    const expert = () => Promise.all(engine.expert.map((text) => database.ask({ text, values: [] })));
    const [ours, theirs] = await sideBySide(paged(desk), expert, 3);
    printRatio(`${engine.name}-page-of-12-${rows}-rows-over-expert-sql`, ours, theirs, 1.3);
    rowsAt.push(rows);
    timeAt.push(ours);
    if (count === list) {
      const begun = performance.now();
      const columns = 'ordered, territory, "product line", channel, rep, account, net, cost';
      const fetched = await database.ask({
        text: `select ${columns} from orders where ${chosen} and ordered >= '2024-04-01' limit 2000000`,
        values: [],
      });
      const fetching = performance.now() - begun;
      printRatio(`${engine.name}-page-of-12-over-fetching-its-${fetched.length}-rows`, ours, fetching);
    }
    await database.end();
  }
  const perRow = (timeAt[1]! - timeAt[0]!) / (rowsAt[1]! - rowsAt[0]!);
  const billion = (timeAt[1]! + perRow * (1e9 - rowsAt[1]!)) / 1000;
  console.log(
    `estimate: a page over 1 billion rows in ${engine.name} on this machine would take ${billion.toFixed(0)} s, if time goes on growing as from ${rowsAt[0]} to ${rowsAt[1]} rows; with servers of their own for each part it falls with their number. Nothing of it was measured`,
  );
  await engine.end();
}
