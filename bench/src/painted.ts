/** Drives Chromium over the production build: how soon the demo's bench is there, and how soon twelve figures over a million rows are painted after a change of their filter. */
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Builder, By, Key, type WebDriver } from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome.js';
import { writeReport } from '@bold-ruler/core/report';
import { PLAN_HEADER, planRows } from '@bold-ruler/demo/plan';
import { pellwetherReport } from '@bold-ruler/demo/report';
import { ordersFile } from './ordersFile';
import { PAGE } from './figures';

const ROWS = Number(process.argv[2] ?? 1_000_000);
const PORT = 4471;
const GOALS = { start: 2000, painted: 150 } as const;
const web = fileURLToPath(new URL('../../web', import.meta.url));

async function serve(): Promise<() => void> {
  const next = createRequire(join(web, 'package.json')).resolve('next/dist/bin/next');
  const server = spawn(process.execPath, [next, 'start', '-p', String(PORT)], { cwd: web, stdio: 'ignore' });
  for (let tries = 0; tries < 150; tries++) {
    const answered = await fetch(`http://localhost:${PORT}`).then(
      ({ ok }) => ok,
      () => false,
    );
    if (answered) return () => void server.kill();
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  server.kill();
  throw new Error('the application did not start');
}

async function browser(): Promise<WebDriver> {
  const options = new chrome.Options();
  options.setChromeBinaryPath('/usr/bin/chromium');
  options.addArguments(
    '--headless=new',
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    `--user-data-dir=${mkdtempSync(join(tmpdir(), 'bold-ruler-bench-'))}`,
  );
  const driver = await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver'))
    .build();
  await driver.manage().setTimeouts({ script: 300_000 });
  await driver.manage().window().setRect({ width: 1280, height: 800 });
  return driver;
}

/** The report of the page over as many rows, and its files. */
function filesOf(): string[] {
  const folder = mkdtempSync(join(tmpdir(), 'bold-ruler-page-'));
  const report = pellwetherReport();
  const figures = PAGE.map((brief, i) => ({ id: `f${i + 1}`, brief, look: {} }));
  const tables = report.tables.filter(({ id }) => id !== 'stock');
  const measures = report.measures.filter(({ table }) => table !== 'stock');
  const orders = ordersFile(ROWS);
  const named = tables.map((table) =>
    table.id === 'orders' ? { ...table, source: { file: orders.split('/').pop()! } } : table,
  );
  writeFileSync(join(folder, 'page.ruler.json'), writeReport({ ...report, tables: named, measures, figures }));
  writeFileSync(join(folder, 'plan.csv'), [PLAN_HEADER, ...planRows(ROWS)].map((row) => row.join(',')).join('\n'));
  return [join(folder, 'page.ruler.json'), orders, join(folder, 'plan.csv')];
}

/** Milliseconds from a key to the frame in which the last figure was painted: when nothing has changed for half a second. */
const PAINTED = `
  const done = arguments[arguments.length - 1];
  const film = document.querySelector('aside[aria-label="Film of figures"]');
  let last = 0;
  const observer = new MutationObserver(() => { requestAnimationFrame(() => { last = performance.now(); }); });
  observer.observe(film, { subtree: true, childList: true, attributes: true, characterData: true });
  let start = 0;
  window.addEventListener('keydown', () => { start = performance.now(); }, { once: true, capture: true });
  const wait = () => {
    if (last > 0 && performance.now() - last > 500) { observer.disconnect(); done(last - start); }
    else if (start > 0 && performance.now() - start > 20000) { observer.disconnect(); done(-1); }
    else setTimeout(wait, 50);
  };
  wait();`;

const print = (name: string, took: number, goal: number) =>
  console.log(`time ${name} ${took.toFixed(0)} ms  (goal ≤ ${goal}: ${took >= 0 && took <= goal ? 'met' : 'missed'})`);

async function main(): Promise<void> {
  if (!existsSync('/usr/bin/chromium') || !existsSync(join(web, '.next/BUILD_ID'))) {
    console.log('painted: needs Debian’s chromium and the built application (npm start builds it)');
    return;
  }
  const stop = await serve();
  const driver = await browser();
  const press = async (text: string, among = 'self::button') => {
    const path = By.xpath(`//*[${among}][contains(normalize-space(.), ${JSON.stringify(text)})]`);
    // What is found may be drawn anew before it is pressed.
    for (const until = Date.now() + 60_000; ;) {
      try {
        await driver.findElement(path).click();
        return;
      } catch (error) {
        if (Date.now() > until) throw error;
        await driver.sleep(50);
      }
    }
  };
  try {
    await driver.get(`http://localhost:${PORT}/`);
    const started = await driver.executeAsyncScript<number>(`
      const done = arguments[0];
      const wait = () => {
        const open = [...document.querySelectorAll('button')].find((button) => button.textContent.includes('Open the demo'));
        if (!open) return requestAnimationFrame(wait);
        open.click();
        const drawn = () => (document.querySelector('figure svg [data-row]') ? requestAnimationFrame(() => done(performance.now())) : requestAnimationFrame(drawn));
        drawn();
      };
      wait();`);
    print('demo-bench-from-cold-start', started, GOALS.start);

    await driver.get(`http://localhost:${PORT}/`);
    const input = await driver.wait(
      async () => (await driver.findElements(By.css('input[type=file]')))[0] ?? null,
      60_000,
    );
    await input!.sendKeys(filesOf().join('\n'));
    await driver.wait(async () => (await driver.findElements(By.css('a[href$="/figures"]'))).length > 0, 300_000);
    // The Data step comes first; it is left once it stands.
    await driver.sleep(3000);
    await driver.findElement(By.css('a[href$="/figures"]')).click();
    await driver.wait(async () => (await driver.getCurrentUrl()).endsWith('/figures'), 60_000);
    await driver.wait(
      async () =>
        (await driver.findElements(By.css('aside[aria-label="Film of figures"] li svg'))).length >= PAGE.length,
      300_000,
    );
    await press('+ only');
    await press('channel', "@role='option'");
    await press('Schools', "@role='option'");
    await driver.actions().sendKeys(Key.ESCAPE).perform();
    await driver.sleep(2500);
    await press('only channel is Schools');
    await press('the same rows in all figures', "@role='option'");
    await driver.actions().sendKeys(Key.ESCAPE).perform();
    await driver.sleep(4000);
    await driver.executeScript('document.activeElement.blur()');
    const took: number[] = [];
    for (let i = 0; i < 8; i++) {
      const painted = driver.executeAsyncScript<number>(PAINTED);
      await driver.sleep(200);
      const keys = driver.actions().keyDown(Key.CONTROL);
      if (i % 2 === 1) keys.keyDown(Key.SHIFT);
      keys.sendKeys('z').keyUp(Key.CONTROL);
      if (i % 2 === 1) keys.keyUp(Key.SHIFT);
      await Promise.all([painted, keys.perform()]);
      took.push(await painted);
    }
    const inOrder = took.slice(2).sort((a, b) => a - b);
    print(`filter-change-of-12-figures-over-${ROWS}-rows-to-painted`, inOrder[inOrder.length >> 1]!, GOALS.painted);
  } finally {
    await driver.quit();
    stop();
  }
}

await main();
