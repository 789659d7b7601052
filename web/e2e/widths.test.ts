import type chrome from 'selenium-webdriver/chrome.js';
import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest';
import { hindrances } from './axe';
import { By, Key, visitDemo, type Visitor } from './browser';

let visitor: Visitor;
const devtools = () => visitor.driver as chrome.Driver;

beforeAll(async () => {
  visitor = await visitDemo();
});
afterAll(() => visitor?.leave());
beforeEach(async () => {
  await visitor.keys('3');
  await visitor.onStep('figures');
});

/** What reaches beyond the window, and what is too small to be met by a finger. */
const faults = () =>
  visitor.driver.executeScript<string[]>(`
    const width = document.documentElement.clientWidth;
    const name = (e) => (e.getAttribute('aria-label') || e.textContent || e.type).trim().slice(0, 40);
    const found = document.documentElement.scrollWidth > width ? ['the window scrolls sideways'] : [];
    for (const e of document.querySelectorAll('button, select, summary, [role=radio], input:not([type=file]), textarea')) {
      const { width: w, height: h, left, right } = e.getBoundingClientRect();
      // What is for the ear alone has no size; a box to tick is met by its words, too.
      if (w <= 1 || h <= 1 || e.closest('svg')) continue;
      const whole = e.type === 'checkbox' ? e.closest('label').getBoundingClientRect() : { width: w, height: h };
      if (whole.width < 23.5 || whole.height < 23.5) found.push('too small: ' + name(e));
      const scrolls = (one) => one && (one.scrollWidth > one.clientWidth + 1 && getComputedStyle(one).overflowX !== 'visible' ? one : scrolls(one.parentElement));
      if ((right > width + 1 || left < -1) && !scrolls(e)) found.push('cut: ' + name(e));
    }
    return found;`);

test.each([1280, 900, 640, 390])('all steps can be used on a window of %i pixels', async (width) => {
  await visitor.sized(width);
  for (const [key, step] of [
    ['1', 'data'],
    ['2', 'numbers'],
    ['3', 'figures'],
    ['4', 'page'],
  ] as const) {
    await visitor.keys(key);
    await visitor.onStep(step);
    await visitor.idle();
    expect(await faults(), step).toEqual([]);
  }
});

test('a figure is drawn for a narrow paper, its letters no smaller, and hides nothing', async () => {
  await visitor.sized(390);
  await visitor.waitFor('a figure as wide as its paper', () =>
    visitor.driver.executeScript<boolean>(`
      const svg = document.querySelector('figure.sheet svg[role=group]');
      const box = svg?.getBoundingClientRect();
      return box && box.width > 200 && box.width < 390 && Math.abs(box.width / svg.viewBox.baseVal.width - 1) < 0.01;`),
  );
  expect(await hindrances(visitor)).toEqual([]);
  const choice = await visitor.driver.findElement(By.css('select[aria-label="Figure"]'));
  await (await choice.findElement(By.css('option:nth-child(2)'))).click();
  await visitor.reads(/by product line/);
  await (await choice.findElement(By.css('option:nth-child(1)'))).click();
  await visitor.reads(/by territory/);
});

test('an end of the ruler is dragged with a finger', async () => {
  await visitor.sized(900);
  const valueOf = async () =>
    Number(
      await visitor.driver.findElement(By.css('[aria-label="Where the ruler ends"]')).getAttribute('aria-valuenow'),
    );
  const before = await visitor.waitFor('the ruler', valueOf);
  await devtools().sendDevToolsCommand('Emulation.setTouchEmulationEnabled', { enabled: true });
  const { x, y } = await visitor.driver.executeScript<{ x: number; y: number }>(`
    const { left, top, width, height } = document.querySelector('[aria-label="Where the ruler ends"]').getBoundingClientRect();
    return { x: left + width / 2, y: top + height / 2 };`);
  const touch = (type: string, at: number) =>
    devtools().sendDevToolsCommand('Input.dispatchTouchEvent', {
      type,
      touchPoints: type === 'touchEnd' ? [] : [{ x: at, y }],
    });
  await touch('touchStart', x);
  for (const by of [20, 60, 100]) await touch('touchMove', x - by);
  await touch('touchEnd', x);
  await visitor.waitFor('a longer ruler', async () => (await valueOf()) > before);
  await visitor.control('z');
  await devtools().sendDevToolsCommand('Emulation.setTouchEmulationEnabled', { enabled: false });
});

test('the first key leads past the steps to the content', async () => {
  await visitor.sized(1280);
  await visitor.driver.navigate().refresh();
  await visitor.see('Highlight');
  // Wherever the last reader was, the page begins at its beginning.
  await visitor.driver.executeScript('document.activeElement?.blur(); getSelection().collapse(document.body, 0);');
  await visitor.keys(Key.TAB);
  const held = () => visitor.driver.executeScript<string>('return document.activeElement.outerHTML.slice(0, 300)');
  expect(await held()).toMatch(/>To the content</);
  await visitor.keys(Key.ENTER, Key.TAB);
  await visitor.waitFor('something of the content to be held', () =>
    visitor.driver.executeScript<boolean>(`return document.getElementById('content').contains(document.activeElement)`),
  );
});
