/** Drives Chromium over the production build: how soon the demo's bench is there, what a key costs, and how soon a page follows its reader. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { serve } from '../../web/e2e/serve';
import { browser, web } from './chromium';
import { printTime } from './timing';
import { opening } from './opening';
import { pageFollows } from './pageFollows';
import { typing } from './typing';

const GOAL = 1000;

async function coldStart(url: string): Promise<void> {
  // Once the first page has been read for a moment, and once as soon as there is a button to press.
  for (const looked of [3000, 0]) {
    const driver = await browser();
    try {
      await driver.get(url);
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
      if (looked > 0) printTime('demo-bench-after-its-button', drawn - pressed, GOAL);
      else printTime('demo-bench-from-cold-start', drawn, GOAL);
      // And as one comes back to it: by its address, from what this browser has kept meanwhile.
      await new Promise((resolve) => setTimeout(resolve, 3000));
      await driver.get(await driver.getCurrentUrl());
      const back = await driver.executeAsyncScript<number>(`
          const [done] = arguments;
          const drawn = () => (document.querySelector('figure svg [data-row]') ? requestAnimationFrame(() => done(performance.now())) : requestAnimationFrame(drawn));
          drawn();`);
      if (looked === 0) printTime('demo-bench-by-its-address', back, GOAL);
    } finally {
      await driver.quit();
    }
  }
}

async function main(): Promise<void> {
  if (!existsSync('/usr/bin/chromium') || !existsSync(join(web, '.next/BUILD_ID'))) {
    console.log('in the browser: needs Debian’s chromium and the built application (npm start builds it)');
    return;
  }
  const { url, stop } = await serve(web);
  try {
    const rows = Number(process.argv[2] ?? 1_000_000);
    if (!process.argv.includes('--open')) {
      await coldStart(url);
      await typing(url);
      await pageFollows(url, rows);
    }
    await opening(url, rows);
  } finally {
    stop();
  }
}

await main();
