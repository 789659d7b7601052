import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { ORDERS_HEADER, orderLines } from '../../demo/src/orders';
import { By, Key, visit, type Visitor } from './browser';

const files = fileURLToPath(new URL('../../demo/files/', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'bold-ruler-e2e-'));
/** The share of a reading that the page itself may be busy with at a stretch. */
const MOST = 0.4;
let visitor: Visitor;

beforeAll(async () => {
  visitor = await visit();
});
afterAll(() => visitor?.leave());

const rows = () => visitor.driver.findElements(By.css('[data-row]'));
const titleIs = (start: string) =>
  visitor.waitFor(
    `the title “${start}”`,
    async () => (await visitor.driver.findElements(By.css(`svg[role=group][aria-label^="${start}"]`))).length > 0,
  );
const briefIs = (text: string) =>
  visitor.waitFor(`the brief “${text}”`, async () =>
    (await (await visitor.driver.findElement(By.css('[aria-label=Brief] p'))).getText())
      .replace(/\s+/g, ' ')
      .startsWith(text),
  );

async function openDemo(): Promise<void> {
  await visitor.go('/');
  await visitor.press('Open the demo');
  await titleIs('Net sales €8.40M, level with plan');
}

describe('the demo on the bench', () => {
  beforeAll(openDemo);

  test('the page stands apart from those of others, so that its threads may share memory', async () => {
    expect(await visitor.driver.executeScript('return crossOriginIsolated')).toBe(true);
  });

  test('the figure saved in the browser is, byte for byte, the figure of the command line', async () => {
    await visitor.press('Files');
    await visitor.press('SVG');
    const saved = await visitor.saved('territories.svg');
    const out = join(folder, 'cli.svg');
    const command = fileURLToPath(new URL('../../cli/bin/bold-ruler.mjs', import.meta.url));
    expect(
      spawnSync(process.execPath, [command, 'draw', `${files}pellwether.ruler.json`, 'territories', '-o', out]).status,
    ).toBe(0);
    expect(saved).toBe(readFileSync(out, 'utf8'));
  });

  test('a part of the sentence is changed with the keyboard alone, and the figure follows', async () => {
    const part = await visitor.see('by territory');
    await visitor.driver.executeScript('arguments[0].focus()', part);
    await visitor.keys(Key.ENTER);
    await visitor.see('Broken down by');
    await visitor.keys('product', Key.ENTER);
    await briefIs('net sales by product line during fiscal 2026 to date');
    await visitor.waitFor('six rows', async () => (await rows()).length === 6);
    await visitor.control('z');
    await briefIs('net sales by territory');
    await titleIs('Net sales €8.40M');
    await visitor.control('z', 'shift');
    await briefIs('net sales by product line');
    await visitor.control('z');
    await titleIs('Net sales €8.40M');
  });

  test('“/” turns the sentence into text: a mistake is underlined and told, Enter draws', async () => {
    await visitor.keys('/');
    const input = await visitor.driver.findElement(By.css('[aria-label="Brief as text"]'));
    await input.sendKeys(Key.chord(Key.CONTROL, 'a'), 'net sales by teritory, chanel during fiscal 2026 to date ');
    await visitor.see('there is no field “teritory”');
    await visitor.press('territory');
    await visitor.waitFor('the mistake to be mended', async () =>
      ((await input.getAttribute('value')) ?? '').startsWith('net sales by territory, chanel'),
    );
    await expect.poll(async () => await input.getAttribute('aria-invalid')).toBe('true');
    await input.sendKeys(Key.chord(Key.CONTROL, 'a'), 'net sales by product line during fiscal 2026 to date against ');
    await visitor.see('plan');
    await input.sendKeys('plan', Key.ENTER);
    await titleIs('Net sales €8.40M, level with plan; 4 of 6 behind');
    await expect.poll(async () => await rows()).toHaveLength(6);
    await visitor.control('z');
    await titleIs('Net sales €8.40M, level with plan; 6 of 8 behind');
  });

  test('Enter right behind the last letter draws, and does not take an offer that was for the letters before', async () => {
    await visitor.keys('/');
    const input = await visitor.driver.findElement(By.css('[aria-label="Brief as text"]'));
    await input.sendKeys(Key.chord(Key.CONTROL, 'a'), 'net sales by product line during fiscal 2026 to date against p');
    await visitor.waitFor(
      'the offer to be highlighted',
      async () => !!(await input.getAttribute('aria-activedescendant')),
    );
    // The letters and Enter come one behind the other, before the worker can answer.
    await visitor.driver.executeAsyncScript(
      `const [input, done] = arguments;
       const { set } = Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value');
       set.call(input, input.value + 'lan');
       input.dispatchEvent(new Event('input', { bubbles: true }));
       Promise.resolve().then(() => Promise.resolve()).then(() => {
         input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
         done();
       });`,
      input,
    );
    await titleIs('Net sales €8.40M, level with plan; 4 of 6 behind');
    await visitor.control('z');
    await titleIs('Net sales €8.40M, level with plan; 6 of 8 behind');
  });

  test('rows are walked with the arrow keys, each spoken, the ruler showing the exact value', async () => {
    await visitor.driver.executeScript('arguments[0].focus()', (await rows())[0]);
    await visitor.keys(Key.ARROW_DOWN);
    const focused = await visitor.driver.switchTo().activeElement();
    await expect
      .poll(async () => await focused.getAttribute('aria-label'))
      .toMatch(/^Alder Coast: €1\.21M; plan €1\.24M; −€39\.9K \(−3\.2%\), behind plan$/);
    await visitor.waitFor('the exact value on the ruler', async () =>
      (
        await visitor.driver.executeScript<string>('return document.querySelector("svg[role=group]").textContent')
      ).includes('€1,205,091.61'),
    );
  });

  test('a figure is duplicated, turned and kept over a reload', async () => {
    const before = (await visitor.driver.findElements(By.css('[aria-label="Film of figures"] li'))).length;
    await visitor.press('Duplicate this figure');
    await visitor.press('upright');
    await visitor.waitFor('the ruler at the left', async () =>
      visitor.driver.executeScript(
        'return document.querySelector("svg[role=group] rect").getAttribute("height") > 200',
      ),
    );
    await visitor.see('saved in this browser');
    await visitor.driver.navigate().refresh();
    await titleIs('Net sales €8.40M');
    await expect
      .poll(async () => await visitor.driver.findElements(By.css('[aria-label="Film of figures"] li')))
      .toHaveLength(before + 1);
  });

  test('a change of the brief is on the paper', async () => {
    await titleIs('Net sales €8.40M');
    await visitor.see('by territory');
    // How long that takes is measured by the bench.
    const [before, after] = await visitor.driver.executeAsyncScript<[string, string]>(`
      const done = arguments[0];
      const title = () => document.querySelector('svg[role=group]').getAttribute('aria-label');
      const before = title();
      document.querySelector('[aria-label="by territory"]').click();
      requestAnimationFrame(function press() {
        const item = [...document.querySelectorAll('[cmdk-item]')].find((e) => e.textContent.trim() === 'product line');
        if (!item) return requestAnimationFrame(press);
        item.click();
        requestAnimationFrame(function look() {
          if (title() === before) return requestAnimationFrame(look);
          done([before, title()]);
        });
      });`);
    expect([before, after].map((title) => / of (\d+) behind/.exec(title)?.[1])).toEqual(['8', '6']);
    await visitor.control('z');
  });

  test('the report file is the demo’s own', async () => {
    await visitor.go('/');
    await visitor.press('Open the demo');
    await titleIs('Net sales €8.40M');
    await visitor.press('Report');
    await visitor.press('Save the report file');
    expect(await visitor.saved('Pellwether-sales-to-March-2026.ruler.json')).toBe(
      readFileSync(`${files}pellwether.ruler.json`, 'utf8'),
    );
  });
});

describe('a file of one’s own', () => {
  test('opens with what was read and what was left out, and a first figure', async () => {
    const path = join(folder, 'tea.csv');
    writeFileSync(
      path,
      [
        'Day;Shop;Amount',
        ...Array.from(
          { length: 12 },
          (_, i) => `${String(i + 1).padStart(2, '0')}.03.2025;${['Nord', 'Süd'][i % 2]};1.000,${i}0`,
        ),
        '13.03.2025;Nord;much',
      ].join('\n'),
    );
    await visitor.go('/');
    await visitor.upload(path);
    await visitor.see('13 rows from tea.csv, dated by “Day” from 2025-03-01 to 2025-03-13, day by day.');
    await visitor.press('1 left out');
    await visitor.see('Save the list');
    await expect
      .poll(async () => await (await visitor.driver.findElement(By.css('main'))).getText())
      .toContain('14 Amount much not a number');
    await visitor.keys('3');
    await titleIs('Amount by Shop: 12.0K together');
  });

  test('a file that holds nothing is refused in words, and the shelf is as it was', async () => {
    const path = join(folder, 'nothing.csv');
    writeFileSync(path, '');
    await visitor.go('/');
    const before = (
      await visitor.waitFor('the shelf', async () => {
        const found = await visitor.driver.findElements(By.css('[aria-labelledby=shelf] > ul > li'));
        return found.length > 0 && found;
      })
    ).length;
    await visitor.upload(path);
    await visitor.see('nothing.csv: there are no rows in it');
    expect(await visitor.driver.findElements(By.css('[aria-labelledby=shelf] > ul > li'))).toHaveLength(before);
  });

  // Reading 250,000 rows on the page's own thread would be one task of a second and more; what else the machine does stretches a task of a
  // few milliseconds beyond the browser's 50, and is not the reading's.
  test(
    'while a large file is read the page stays responsive, and Cancel leaves nothing behind',
    { retry: 3 },
    async () => {
      const path = join(folder, 'large.csv');
      writeFileSync(path, [ORDERS_HEADER, ...orderLines(250_000)].map((line) => line.join(',')).join('\n'));
      await visitor.go('/');
      const shelf = () => visitor.driver.findElements(By.css('[aria-labelledby=shelf] > ul > li'));
      const before = (await visitor.waitFor('the shelf', async () => (await shelf()).length > 0 && (await shelf())))
        .length;
      await visitor.driver.executeScript(
        `window.tasks = []; new PerformanceObserver((list) => window.tasks.push(...list.getEntries().map((e) => [e.startTime, e.duration]))).observe({ type: 'longtask' })`,
      );

      // What the page itself still does after it was opened is not the reading's.
      await visitor.idle();
      // Cancel is pressed as soon as rows are shown, however fast the machine reads.
      await visitor.driver.executeScript(`
        window.tasks = [];
        window.began = performance.now();
        window.rowsSeen = null;
        new MutationObserver((_, observer) => {
          const bar = document.querySelector('[aria-label="Reading large.csv"]');
          const rows = bar && /rows\\s*([1-9][\\d,]*)/.exec(bar.innerText);
          if (!rows) return;
          observer.disconnect();
          window.rowsSeen = rows[1];
          window.share = Math.max(0, ...window.tasks.map(([, duration]) => duration)) / (performance.now() - window.began);
          [...bar.querySelectorAll('button')].find((button) => button.textContent === 'Cancel').click();
        }).observe(document.body, { subtree: true, childList: true, characterData: true });`);
      await visitor.upload(path);
      await visitor.waitFor('rows', () => visitor.driver.executeScript('return window.rowsSeen'));
      expect(await visitor.driver.executeScript<number>('return window.share')).toBeLessThan(MOST);
      await visitor.see('Choose files');
      await visitor.idle();
      expect(await visitor.driver.getCurrentUrl()).not.toContain('/report/');
      expect(await shelf()).toHaveLength(before);

      await visitor.driver.executeScript('window.tasks = []; window.began = performance.now()');
      await visitor.upload(path);
      // The address is asked of the browser, so that the page itself is left alone.
      await visitor.onStep('data');
      const share = await visitor.driver.executeScript<number>(`
        const read = performance.getEntriesByName('rows read')[0].startTime;
        const during = window.tasks.filter(([start]) => start > window.began && start < read);
        return Math.max(0, ...during.map(([, duration]) => duration)) / (read - window.began);`);
      expect(share).toBeLessThan(MOST);
      await visitor.see('large');
      await visitor.waitFor('250,000 rows', async () =>
        /\b2(?:49,9|50,0)\d\d rows from large\.csv/.test(
          await (await visitor.driver.findElement(By.css('main'))).getText(),
        ),
      );
    },
  );
});

test('a report is removed and put back', async () => {
  await visitor.go('/');
  const shelf = () => visitor.driver.findElements(By.css('[aria-labelledby=shelf] > ul > li'));
  const before = (await visitor.waitFor('reports', async () => ((await shelf()).length > 0 ? shelf() : null))).length;
  await visitor.driver.findElement(By.css('[aria-labelledby=shelf] [title=Remove]')).click();
  await visitor.waitFor('one fewer', async () => (await shelf()).length === before - 1);
  await visitor.press('Put it back');
  await visitor.waitFor('as many as before', async () => (await shelf()).length === before);
});
