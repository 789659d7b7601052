/** Drives Chromium over the production build: how soon the demo's bench is there after a cold start. */
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Builder, type WebDriver } from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome.js';

const PORT = 4471;
const GOAL = 2000;
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

const print = (name: string, took: number, goal: number) =>
  console.log(`time ${name} ${took.toFixed(0)} ms  (goal ≤ ${goal}: ${took >= 0 && took <= goal ? 'met' : 'missed'})`);

async function main(): Promise<void> {
  if (!existsSync('/usr/bin/chromium') || !existsSync(join(web, '.next/BUILD_ID'))) {
    console.log('cold start: needs Debian’s chromium and the built application (npm start builds it)');
    return;
  }
  const stop = await serve();
  try {
    // Once the first page has been read for a moment, and once as soon as there is a button to press.
    for (const looked of [3000, 0]) {
      const driver = await browser();
      try {
        await driver.get(`http://localhost:${PORT}/`);
        const [pressed, drawn] = await driver.executeAsyncScript<[number, number]>(
          `
          const [looked, done] = arguments;
          const wait = () => {
            const open = [...document.querySelectorAll('button')].find((button) => button.textContent.includes('Open the demo'));
            if (!open || performance.now() < looked) return requestAnimationFrame(wait);
            const pressed = performance.now();
            open.click();
            const drawn = () => (document.querySelector('figure svg [data-row]') ? requestAnimationFrame(() => done([pressed, performance.now()])) : requestAnimationFrame(drawn));
            drawn();
          };
          wait();`,
          looked,
        );
        if (looked > 0) print('demo-bench-after-its-button', drawn - pressed, GOAL);
        else print('demo-bench-from-cold-start', drawn, GOAL);
        // And as one comes back to it: by its address, from what this browser keeps.
        await driver.get(await driver.getCurrentUrl());
        const back = await driver.executeAsyncScript<number>(`
          const [done] = arguments;
          const drawn = () => (document.querySelector('figure svg [data-row]') ? requestAnimationFrame(() => done(performance.now())) : requestAnimationFrame(drawn));
          drawn();`);
        if (looked === 0) print('demo-bench-by-its-address', back, GOAL);
      } finally {
        await driver.quit();
      }
    }
  } finally {
    stop();
  }
}

await main();
