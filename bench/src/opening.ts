import { readdirSync, readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { By, until } from 'selenium-webdriver';
import { browser } from './chromium';
import { ordersFile } from './ordersFile';
import { printTime } from './timing';

const MOST_MEMORY = 1_500_000_000;
const LONGEST_FRAME = 50;
const WAIT = 600_000;

/** Notes how long each frame takes, and what of it was work of the page itself. */
const WATCH = `
  window.frames_ = [];
  let before = performance.now();
  const next = (now) => { window.frames_.push([now, now - before]); before = now; requestAnimationFrame(next); };
  requestAnimationFrame(next);
  window.works_ = [];
  new PerformanceObserver((list) => { for (const { startTime, duration } of list.getEntries()) window.works_.push([startTime, duration]); }).observe({ type: 'longtask' });`;

/** A file of many rows opened in the browser: how long it takes, what memory it needs, and whether the page goes on meanwhile. */
export async function opening(url: string, rows: number): Promise<void> {
  const path = ordersFile(rows);
  const driver = await browser();
  try {
    await driver.get(url);
    const input = await driver.wait(until.elementLocated(By.css('input[type="file"]')), WAIT);
    await driver.wait(until.elementLocated(By.xpath('//button[contains(., "Open the demo")]')), WAIT);
    await new Promise((resolve) => setTimeout(resolve, 2000));
    const empty = memoryNow();
    await driver.executeScript(WATCH);
    const start = performance.now();
    await input.sendKeys(path);
    let peak = 0;
    const isRead = async () => {
      peak = Math.max(peak, memoryNow() - empty);
      const text = await driver.executeScript<string>('return document.body.innerText');
      return text.includes(` rows from ${basename(path)}`);
    };
    while (!(await isRead())) await new Promise((resolve) => setTimeout(resolve, 250));
    const took = performance.now() - start;
    const [frames, works] = await driver.executeScript<[[number, number][], [number, number][]]>(
      'return [window.frames_, window.works_]',
    );
    console.log(`time open-${rows}-rows ${took.toFixed(0)} ms, ${frames.length} frames`);
    console.log(
      `size open-${rows}-rows-memory ${(peak / 1e6).toFixed(0)} MB  (goal ≤ ${MOST_MEMORY / 1e6}: ${peak <= MOST_MEMORY ? 'met' : 'missed'})`,
    );
    const long = frames.filter(([, length]) => length > LONGEST_FRAME);
    printTime(`open-${rows}-rows-longest-frame`, Math.max(...frames.map(([, length]) => length)), LONGEST_FRAME);
    console.log(
      `time open-${rows}-rows-frames-too-long ${long.map(([at, length]) => `${length.toFixed(0)} ms at ${(at / 1000).toFixed(1)} s`).join(', ') || 'none'}; work of the page over ${LONGEST_FRAME} ms: ${works.map(([at, length]) => `${length.toFixed(0)} ms at ${(at / 1000).toFixed(1)} s`).join(', ') || 'none'}`,
    );
  } finally {
    await driver.quit();
  }
}

/** Bytes of all processes of the browser that are theirs alone, and not parts of its program. */
function memoryNow(): number {
  let kilobytes = 0;
  for (const id of readdirSync('/proc')) {
    if (!/^\d+$/.test(id)) continue;
    try {
      if (!readFileSync(`/proc/${id}/cmdline`, 'latin1').includes('bold-ruler-bench-')) continue;
      const status = readFileSync(`/proc/${id}/status`, 'latin1');
      for (const [, own] of status.matchAll(/^Rss(?:Anon|Shmem):\s+(\d+)/gm)) kilobytes += Number(own);
    } catch {
      // A process that has ended meanwhile.
    }
  }
  return kilobytes * 1024;
}
