import { mkdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { By, until } from 'selenium-webdriver';
import { checkReport, writeReport, type Page } from '@bold-ruler/core/report';
import { PLAN_HEADER, planRows } from '@bold-ruler/demo/plan';
import { pellwetherReport } from '@bold-ruler/demo/report';
import { browser } from './chromium';
import { printTime } from './timing';
import { PAGE } from './figures';
import { ordersFile } from './ordersFile';

const FIRST_GOAL = 100;
const GOAL = 60;
const WAIT = 120_000;

/** The files of a report with twelve figures on one page, over that many order lines. */
function files(rows: number): string[] {
  const orders = ordersFile(rows);
  const folder = join(tmpdir(), 'bold-ruler-bench');
  mkdirSync(folder, { recursive: true });
  const plan = join(folder, `plan-${rows}.csv`);
  writeFileSync(plan, [PLAN_HEADER, ...planRows(rows)].map((row) => row.join(',')).join('\n'));
  const demo = pellwetherReport();
  const figures = PAGE.map((brief, i) => ({ id: `p${i}`, brief, look: {} }));
  const page: Page = {
    id: 'twelve',
    title: 'Twelve figures',
    filters: [{ field: 'channel', choice: 'one' }],
    rows: [0, 3, 6, 9].map((first) => ({
      height: 300,
      blocks: figures.slice(first, first + 3).map(({ id }) => ({ figure: id, share: 4 })),
    })),
  };
  const named: Readonly<Record<string, string>> = { orders: basename(orders), plan: basename(plan) };
  const report = checkReport({
    ...demo,
    tables: demo.tables
      .filter(({ id }) => id in named)
      // What tables look up is not among these.
      .map(({ joins: _, ...table }) => ({ ...table, source: { ...table.source, file: named[table.id]! } })),
    measures: demo.measures.filter(({ table }) => table in named),
    benchmarks: demo.benchmarks.filter((benchmark) => !('table' in benchmark) || benchmark.table! in named),
    figures,
    pages: [page],
  });
  const path = join(folder, `twelve-${rows}.ruler.json`);
  writeFileSync(path, writeReport(report));
  return [path, orders, plan];
}

/** From the press on a member in the reader's filter to the page that is painted with it. */
export async function pageFollows(url: string, rows: number): Promise<void> {
  const driver = await browser();
  try {
    await driver.get(url);
    const input = await driver.wait(until.elementLocated(By.css('input[type="file"]')), WAIT);
    await driver.wait(until.elementLocated(By.xpath('//button[contains(., "Open the demo")]')), WAIT);
    await input.sendKeys(files(rows).join('\n'));
    await driver.wait(until.urlContains('/report/'), WAIT);
    const address = (await driver.getCurrentUrl()).replace(/\/data.*$/, '/page');
    const pressed = async (looked: number): Promise<number[]> => {
      await driver.get(address);
      await driver.wait(
        async () => (await driver.findElements(By.css('figure[aria-label]'))).length === PAGE.length,
        WAIT,
      );
      await new Promise((resolve) => setTimeout(resolve, looked));
      return driver.executeAsyncScript<number[]>(PRESSES);
    };
    const [first, then] = await pressed(0);
    const [looked] = await pressed(LOOKED);
    printTime('page-of-12-figures-from-press-to-painted-first-time-at-once', first!, FIRST_GOAL);
    printTime('page-of-12-figures-from-press-to-painted-first-time-after-3-seconds', looked!, FIRST_GOAL);
    printTime('page-of-12-figures-from-press-to-painted', then!, GOAL);
  } finally {
    await driver.quit();
  }
}

/** Milliseconds for which somebody looks at a page before they choose something. */
const LOOKED = 3000;

/** Presses the members of a filter, each twice, and gives milliseconds of the third longest press of each round. */
const PRESSES = `
      const [done] = arguments;
      const frame = () => new Promise((resolve) => requestAnimationFrame(resolve));
      // In a frame a message comes after its painting.
      const painted = () => new Promise((resolve) => { const { port1, port2 } = new MessageChannel(); port1.onmessage = resolve; port2.postMessage(null); });
      const until = async (found) => { for (;;) { const it = found(); if (it) return it; await frame(); } };
      const figures = () => [...document.querySelectorAll('figure[aria-label]')].map((figure) => figure.getAttribute('aria-label')).join();
      const filter = () => [...document.querySelectorAll('button')].find((button) => button.textContent.startsWith('channel:'));
      (async () => {
        const times = [];
        // Each member twice: the first time its rows are read, then they are known.
        for (const round of [0, 1]) {
          const list = [];
          for (let i = 0; i < 4; i++) {
            filter().click();
            const option = await until(() => document.querySelectorAll('[role="option"]')[i]);
            await frame();
            const before = figures();
            const start = performance.now();
            option.click();
            await until(() => figures() !== before);
            await painted();
            list.push(performance.now() - start);
            await until(() => !document.querySelector('[role="option"]'));
            await new Promise((resolve) => setTimeout(resolve, 300));
          }
          times.push(list.sort((a, b) => a - b)[2]);
        }
        done(times);
      })();`;
