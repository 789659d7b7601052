/** Pages over rows in PostgreSQL: beside the SQL that an expert would send for the same answers, and beside fetching the rows. `npm run bench -- database [TIMES]` */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { drawPage, NOTHING_CHOSEN } from '@bold-ruler/core/page';
import { fileOf } from '@bold-ruler/core/reading';
import { checkReport } from '@bold-ruler/core/report';
import { openReportWith, type OpenReport } from '@bold-ruler/core/workspace';
import { postgres } from '../../cli/src/databases/postgres';
import type { Connected } from '../../cli/src/databases/reach';
import { PROGRAMS, startServer } from '../../cli/src/databases/server.fixture';
import { printRatio, sideBySide } from './timing';

const [folder, times = '20'] = process.argv.slice(2) as [string, string?];
if (PROGRAMS === null) {
  console.log('PostgreSQL is not installed: Debian’s package postgresql');
  process.exit(0);
}

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

const server = await startServer();

/** The demo's orders, so many times over. */
async function filled(count: number): Promise<void> {
  const [names, ...lines] = readFileSync(join(folder, 'orders.csv'), 'utf8')
    .trim()
    .split('\n')
    .map((line) => line.split(',')) as [string[], ...string[][]];
  const types = names.map((name) => ({ ordered: 'date', net: 'numeric(12,2)', cost: 'numeric(12,2)' })[name] ?? 'text');
  await server.owner('drop table if exists orders');
  await server.owner(`create table orders (${names.map((name, c) => `"${name}" ${types[c]!}`).join(', ')})`);
  const lists = types.map((type, c) => `$${c + 1}::${type.replace(/\(.*/, '')}[]`);
  await server.owner(
    `insert into orders select o.* from unnest(${lists.join(', ')}) as o, generate_series(1, ${count})`,
    names.map((_, c) => lines.map((line) => line[c] || null)),
  );
  await server.owner('vacuum analyze orders');
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

const rowsAt: number[] = [];
const timeAt: number[] = [];
for (const count of [Math.max(1, Number(times) >> 1), Number(times)]) {
  await filled(count);
  const database = postgres('here', { url: server.url(), keep: 0 });
  const desk = await opened(database);
  const { rows } = desk.source.facts('orders')!;
  const expert = () => Promise.all(EXPERT.map((text) => database.ask({ text, values: [] })));
  const [ours, theirs] = await sideBySide(paged(desk), expert, 3);
  printRatio(`database-page-of-12-${rows}-rows-over-expert-sql`, ours, theirs, 1.3);
  rowsAt.push(rows);
  timeAt.push(ours);
  if (count === Number(times)) {
    const start = performance.now();
    const columns = 'ordered, territory, "product line", channel, rep, account, net, cost';
    const fetched = await database.ask({
      text: `select ${columns} from orders where ${chosen} and ordered >= '2024-04-01' limit 2000000`,
      values: [],
    });
    const fetching = performance.now() - start;
    printRatio(`database-page-of-12-over-fetching-its-${fetched.length}-rows`, ours, fetching);
  }
  await database.end();
}
const perRow = (timeAt[1]! - timeAt[0]!) / (rowsAt[1]! - rowsAt[0]!);
const billion = (timeAt[1]! + perRow * (1e9 - rowsAt[1]!)) / 1000;
console.log(
  `estimate: a page over 1 billion rows in one such server would take ${billion.toFixed(0)} s, if time goes on growing as from ${rowsAt[0]} to ${rowsAt[1]} rows; nothing of it was measured`,
);
await server.end();
