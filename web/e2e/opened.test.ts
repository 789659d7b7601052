import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { PROGRAMS, startServer, type Server } from '../../cli/src/databases/server.fixture';
import { By, Key, visit, type Visitor } from './browser';

// The server opened to others, as somebody on another machine meets it: under another name, over plain HTTP.

const REPORT = {
  boldRuler: 1,
  name: 'Takings in a database',
  tables: [{ id: 'takings', source: { database: 'sales', table: 'public.takings' }, date: 'day' }],
  measures: [{ name: 'net', table: 'takings', expression: 'sum(net)' }],
  figures: [{ id: 'f1', brief: 'net by shop as bars' }],
};
const TOKEN = 'tea time at the works';

let database: Server | null = null;
let visitor: Visitor;
beforeAll(async () => {
  if (PROGRAMS !== null) {
    database = await startServer();
    await database.owner('create table takings (day date, shop text, net numeric(12,2))');
    await database.owner(
      "insert into takings values ('2025-03-01', 'Larkmoor', 1234.5), ('2025-03-02', 'Tarnside', 77)",
    );
  }
  visitor = await visit(
    {
      HOST: '0.0.0.0',
      BOLD_RULER_TOKEN: TOKEN,
      ...(database ? { BOLD_RULER_DATABASE_SALES: database.url() } : {}),
    },
    'ruler.example',
  );
});
afterAll(async () => {
  await visitor?.leave();
  await database?.end();
});

const field = () => visitor.driver.findElement(By.css('input[type=password]'));

test('whoever comes is asked for the token, told when it is wrong, and asked no more once it was right', async () => {
  await visitor.go('/?from=a-letter');
  await visitor.reads('This server is open to the network and asks for its access token.');
  await (await field()).sendKeys('coffee time', Key.ENTER);
  await visitor.reads('That is not this server’s token.');
  await (await field()).sendKeys(TOKEN, Key.ENTER);
  await visitor.see('Open the demo');
  expect(await visitor.driver.getCurrentUrl()).toBe(`${visitor.url}/?from=a-letter`);
  expect(await visitor.driver.executeScript('return document.cookie')).toBe('');
  await visitor.go('/');
  await visitor.press('Open the demo');
  await visitor.see('Highlight');
  await visitor.reads('Net sales €8.40M, level with plan');
});

describe.skipIf(PROGRAMS === null)('rows in PostgreSQL (Debian’s package postgresql)', () => {
  test('are asked for by the pages of whoever got in', async () => {
    const report = join(mkdtempSync(join(tmpdir(), 'bold-ruler-opened-')), 'takings.ruler.json');
    writeFileSync(report, JSON.stringify(REPORT));
    await visitor.go('/');
    await visitor.see('Open the demo');
    await visitor.upload(report);
    await visitor.onStep('data');
    await visitor.reads('2 rows from public.takings');
    await visitor.keys('3');
    await visitor.onStep('figures');
    await visitor.reads('Net by shop: 1,312 together');
  });
});
