import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { PASSWORD, PROGRAMS, startServer, type Server } from '../../cli/src/databases/server.fixture';
import { By, Key, visit, type Visitor } from './browser';

const PLAN = fileURLToPath(new URL('../../demo/files/plan.csv', import.meta.url));
const ORDERS = fileURLToPath(new URL('../../demo/files/orders.csv', import.meta.url));

const REPORT = {
  boldRuler: 1,
  name: 'Orders in a database',
  calendar: { fiscalYearStart: 9 },
  tables: [
    { id: 'orders', source: { database: 'sales', table: 'public.orders' }, date: 'ordered' },
    { id: 'plan', source: { file: 'plan.csv' }, date: 'month', grain: 'month' },
  ],
  measures: [
    {
      name: 'net sales',
      table: 'orders',
      expression: 'sum(net)',
      format: { style: 'currency', currency: 'EUR', scale: 'auto' },
    },
  ],
  benchmarks: [
    { name: 'plan', kind: 'table', table: 'plan', expression: 'sum(target)', spread: 'even', split: 'none' },
  ],
  figures: [
    { id: 'f1', brief: 'net sales by territory during fiscal 2026 to date against plan as bullet' },
    { id: 'f2', brief: 'net sales each month during fiscal 2026 as trend' },
  ],
  pages: [
    {
      id: 'p1',
      title: 'By territory',
      filters: [{ field: 'territory', choice: 'several' }],
      rows: [{ blocks: [{ figure: 'f1', share: 12 }] }],
    },
  ],
};

describe.skipIf(PROGRAMS === null)('rows that stay in PostgreSQL (Debian’s package postgresql)', () => {
  let server: Server;
  let visitor: Visitor;
  beforeAll(async () => {
    server = await startServer();
    const [head, ...lines] = readFileSync(ORDERS, 'utf8').trim().split('\n');
    const columns = head!.split(',');
    const types = columns.map(
      (name) => ({ ordered: 'date', net: 'numeric(12,2)', cost: 'numeric(12,2)' })[name] ?? 'text',
    );
    await server.owner(`create table orders (${columns.map((name, i) => `"${name}" ${types[i]}`).join(', ')})`);
    const cells = lines.map((line) => line.split(','));
    await server.owner(
      `insert into orders select * from unnest(${types.map((type, i) => `$${i + 1}::${type.replace(/\(.*/, '')}[]`).join(', ')})`,
      columns.map((_, c) => cells.map((row) => row[c] || null)),
    );
    visitor = await visit({ BOLD_RULER_DATABASE_SALES: server.url() });
    const report = join(mkdtempSync(join(tmpdir(), 'bold-ruler-database-')), 'orders.ruler.json');
    writeFileSync(report, JSON.stringify(REPORT));
    await visitor.go('/');
    await visitor.see('Open the demo');
    await visitor.upload(report, PLAN);
  });
  afterAll(async () => {
    await visitor?.leave();
    await server?.end();
  });

  test('what is known of the table is shown, and its rows page by page', async () => {
    await visitor.keys('1');
    await visitor.onStep('data');
    await visitor.reads('Its rows stay in the database sales, in public.orders');
    await visitor.reads(/dated by “ordered” from 2022-09-01 to 2026-03-18, day by day/);
    await visitor.press('60,000 rows');
    await visitor.reads('1 to 50 of 60,000');
    await visitor.press('Next');
    await visitor.reads('51 to 100 of 60,000');
  });

  test('a figure, its numbers and its reckoning are those of the demo', async () => {
    await visitor.keys('3');
    await visitor.onStep('figures');
    await visitor.reads('€1,579,882.86');
    await visitor.reads(/From public\.orders and plan\.csv, as of 18 Mar 2026/);
    await (await visitor.driver.findElement(By.css('[data-row][aria-label^="Larkmoor"]'))).click();
    await visitor.reads(/1,999 rows of public\.orders/);
    await visitor.keys('4');
    await visitor.onStep('page');
    await visitor.press('territory: all');
    await visitor.press('Larkmoor');
    await visitor.reads(/only Larkmoor/);
    await visitor.keys(Key.ESCAPE);
  });

  test('it is called otherwise, taken out and had back, each undone', async () => {
    await visitor.keys('1');
    await visitor.onStep('data');
    const name = await visitor.waitFor(
      'its name',
      async () => (await visitor.driver.findElements(By.css('[aria-label="Name of the table"]')))[0],
    );
    await name.click();
    await visitor.control('a');
    await visitor.keys('takings', Key.ENTER);
    await visitor.reads('takings 60,000 rows');
    await visitor.control('z');
    await visitor.reads('orders 60,000 rows');
    await visitor.press('Remove orders');
    await visitor.press('Remove all that');
    await visitor.waitFor('one table', async () => !(await visitor.text()).includes('public.orders'));
    await visitor.control('z');
    await visitor.reads('orders 60,000 rows');
  });

  test('its measures, and a page that takes its rows along', async () => {
    await visitor.keys('2');
    await visitor.onStep('numbers');
    await visitor.reads('€46.6M');
    await visitor.keys('4');
    await visitor.onStep('page');
    await visitor.press('Hand over');
    await visitor.press('One HTML file');
    const html = await visitor.saved('By-territory.html');
    expect(html).toContain('id="program"');
    const away = (await visitor.driver.getCurrentUrl()).replace(visitor.url, '');
    await visitor.driver.get(pathToFileURL(join(visitor.downloads, 'By-territory.html')).href);
    await visitor.see('territory: all');
    await visitor.go(away);
    await visitor.see('Present');
  });

  /** The statements of ours that wait in the database, each with its beginning. */
  const waiting = async () =>
    (
      await server.owner(
        `select pid || ' since ' || query_start as one from pg_stat_activity where application_name = 'bold-ruler' and wait_event_type = 'Lock'`,
      )
    ).map(({ one }) => one);

  test('a page that is left leaves nothing behind in the database', async () => {
    // What the other steps ask is known, so that only the page asks from now on.
    await visitor.keys('1');
    await visitor.onStep('data');
    await visitor.reads(/dated by “ordered” from 2022-09-01 to 2026-03-18, day by day/);
    await visitor.keys('4');
    await visitor.onStep('page');
    await visitor.see('territory:');
    await visitor.reads('Net sales €8.40M');
    await visitor.idle();
    const letGo = await server.hold('orders');
    try {
      await visitor.press('territory:');
      await visitor.press('Gorse Heath');
      const left = await visitor.waitFor('a statement that waits', async () => {
        const found = await waiting();
        return found.length > 0 && found;
      });
      await visitor.keys(Key.ESCAPE);
      await visitor.keys('1');
      await visitor.onStep('data');
      await visitor.waitFor('it to be ended', async () => {
        const still = await waiting();
        return !left.some((one) => still.includes(one));
      });
    } finally {
      await letGo();
    }
    await visitor.keys('4');
    await visitor.onStep('page');
    await visitor.reads('Net sales €8.40M');
  });

  test('while it is away that is said, and what was drawn stays, of its time; it is there again after a reload', async () => {
    await visitor.keys('3');
    await visitor.onStep('figures');
    await visitor.reads('€1,579,882.86');
    await server.kill();
    await visitor.press('Look');
    await visitor.keys('1');
    await visitor.onStep('data');
    await visitor.press('Look again');
    await visitor.reads(/database “sales”: it cannot be reached/);
    expect(await visitor.text()).not.toContain(PASSWORD);
    await visitor.keys('3');
    await visitor.onStep('figures');
    await visitor.reads(/database “sales”: it cannot be reached.* as it was last drawn, at \d\d:\d\d\./);
    await visitor.reads('€1,579,882.86');
    await visitor.keys('4');
    await visitor.onStep('page');
    await visitor.reads(/database “sales”: it cannot be reached.* What is shown is of \d\d:\d\d\. .*Net sales €8.40M/);
    await visitor.keys('1');
    await visitor.onStep('data');
    await server.start();
    await visitor.press('Look again');
    await visitor.reads('60,000 rows');
    await visitor.keys('3');
    await visitor.onStep('figures');
    await visitor.driver.navigate().refresh();
    await visitor.reads('€1,579,882.86');
  });

  test('other pages and odd questions get nothing', async () => {
    const ask = (what: string, body: unknown, headers: Record<string, string> = {}) =>
      fetch(`${visitor.url}/api/source/${what}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', ...headers },
        body: JSON.stringify(body),
      });
    const tables = [REPORT.tables[0]];
    expect((await ask('facts', { tables, words: [] }, { Origin: 'http://elsewhere.example' })).status).toBe(403);
    const sum = { kind: 'aggregate', fn: 'sum', of: null as object | null, distinct: false, filter: null };
    const asking = (aggregate: object) => ({
      tables,
      words: [[{ table: 'orders', by: [], where: [], grain: null, span: null, aggregates: [aggregate] }]],
    });
    const one = { kind: 'number', value: 1 };
    for (const [what, body] of [
      ['constructor', { tables, words: [] }],
      ['groups', asking({ ...sum, fn: 'sum(1); drop table orders; --' })],
      ['groups', asking({ ...sum, of: { kind: 'binary', op: '); drop table orders; --', left: one, right: one } })],
      ['groups', { tables: [{ id: 'x', source: { file: 'x.csv' } }], words: [[]] }],
      ['rows', { tables, words: 'x' }],
      ['rows', null],
    ] as const) {
      const answer = await ask(what, body);
      expect(answer.status, what).toBe(422);
      const text = await answer.text();
      expect(text).toContain('problem');
      for (const secret of [PASSWORD, encodeURIComponent(PASSWORD), '127.0.0.1', String(server.port)])
        expect(text).not.toContain(secret);
    }
    expect(await server.owner('select count(*)::int as n from orders')).toEqual([{ n: 60_000 }]);
  });
});
