import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { hindrances } from './axe';
import { By, Key, visitDemo, type Visitor } from './browser';

let visitor: Visitor;

beforeAll(async () => {
  visitor = await visitDemo();
});
afterAll(() => visitor?.leave());

test('a row that is pressed tells how it came about, and shows its rows', async () => {
  await (await visitor.waitFor('rows', () => visitor.driver.findElement(By.css('[data-row="0"]')))).click();
  await visitor.waitFor('its rows in words', async () =>
    (await visitor.text()).includes(
      '1,999 rows of orders.csv from 1 Sep 2025 to 18 Mar 2026 where territory is Larkmoor.',
    ),
  );
  await visitor.reads('1579882.86 − 1240025.80645161 = 339857.05354839');
  await visitor.press('See its 1,999 rows');
  await visitor.see('Larkmoor: 1,999 rows');
  expect(await hindrances(visitor)).toEqual([]);
  await visitor.press('Save as CSV');
  expect((await visitor.saved('Larkmoor.csv')).trimEnd().split('\r\n')).toHaveLength(2000);
  await visitor.press('Close');
});

test('what could mislead is told once for all figures, put right in all of them in one step, or accepted for a reason', async () => {
  const button = () =>
    visitor.driver.executeScript<string | undefined>(
      `return [...document.querySelectorAll('button')].map((one) => one.textContent.trim()).find((text) => /^\\d+ notes?$|^Level$/.test(text))`,
    );
  const shows = (text: string) => visitor.waitFor(text, async () => (await button()) === text);
  await shows('2 notes');
  await visitor.press('2 notes');
  await visitor.press('Compare up to the as-of date only, in all 6');
  await shows('1 note');
  await visitor.press('Accept …');
  await visitor.keys('The steps matter, not the totals', Key.ENTER);
  await shows('Level');
  await visitor.reads('The steps matter, not the totals.');
  expect(await hindrances(visitor)).toEqual([]);
  await visitor.press('Open it again');
  await shows('1 note');
  await visitor.keys(Key.ESCAPE);
  await visitor.control('z');
  await visitor.control('z');
  await visitor.control('z');
  await shows('2 notes');
});

test('from inside a worker nothing is asked of another place, and nothing is evaluated but WebAssembly', async () => {
  let asked = 0;
  const elsewhere = createServer((_, response) => {
    asked++;
    response.setHeader('Access-Control-Allow-Origin', '*').end('rows');
  }).listen(0, '127.0.0.1');
  await new Promise((listening) => elsewhere.once('listening', listening));
  const place = `http://127.0.0.1:${(elsewhere.address() as AddressInfo).port}/`;
  const tried = `(async () => {
    const asked = (from) => fetch(from).then((answer) => answer.ok, () => false);
    const made = () => { try { return new Function('return true')(); } catch { return false; } };
    const compiled = WebAssembly.compile(new Uint8Array([0, 97, 115, 109, 1, 0, 0, 0])).then(() => true, () => false);
    return JSON.stringify([await asked(${JSON.stringify(place)}), made(), await compiled, await asked('/demo/first.svg')]);
  })()`;
  // A file that is read, and a table that is large enough for helpers, have begun all kinds of workers there are.
  const devtools = (await visitor.driver.createCDPConnection('page')) as unknown as Devtools;
  const workers: {
    readonly sessionId: string;
    readonly targetInfo: { readonly url: string; readonly type: string };
  }[] = [];
  devtools._wsConnection.on('message', (data) => {
    const { method, params } = JSON.parse(String(data)) as { method?: string; params?: (typeof workers)[number] };
    if (method === 'Target.attachedToTarget' && params?.targetInfo.type === 'worker') workers.push(params);
  });
  await devtools.send('Target.setAutoAttach', { autoAttach: true, waitForDebuggerOnStart: false, flatten: true });
  await visitor.waitFor('workers', async () => Promise.resolve(workers.length > 0));
  const page = devtools.sessionId;
  for (const { sessionId, targetInfo } of workers) {
    devtools.sessionId = sessionId;
    const { result } = await devtools.send('Runtime.evaluate', {
      expression: tried,
      awaitPromise: true,
      allowUnsafeEvalBlockedByCSP: false,
      returnByValue: true,
    });
    expect(JSON.parse(result.result.value), targetInfo.url).toEqual([false, false, true, true]);
  }
  devtools.sessionId = page;
  expect(asked).toBe(0);
  elsewhere.close();
  // What was refused is logged, as it should be.
  await visitor.driver.manage().logs().get('browser');
});

/** What Chromium's developer tools are asked through. */
interface Devtools {
  sessionId: string | null;
  readonly _wsConnection: { on(event: 'message', listener: (data: unknown) => void): void };
  send(method: string, params: object): Promise<{ readonly result: { readonly result: { readonly value: string } } }>;
}
