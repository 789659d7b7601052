import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import type { WebElement } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { textWidth } from '../../core/src/scene/text';
import { hindrances } from './axe';
import { By, Key, visit, type Visitor } from './browser';

let visitor: Visitor;

beforeAll(async () => {
  visitor = await visit();
});
afterAll(() => visitor?.leave());

const briefIs = (text: string) =>
  visitor.waitFor(`the brief “${text}”`, async () =>
    (
      await visitor.driver.executeScript<string>(
        `return document.querySelector('[aria-label=Brief] p')?.innerText ?? ''`,
      )
    )
      .replace(/\s+/g, ' ')
      .includes(text),
  );
const paper = () => visitor.driver.findElement(By.css('svg[role=group]'));
const texts = () =>
  visitor.driver.executeScript<string[]>(
    `return [...document.querySelectorAll('svg[role=group] text')].map((text) => text.textContent)`,
  );
const rows = () => visitor.driver.findElements(By.css('[data-row]'));
async function drawAs(form: string): Promise<void> {
  await (await visitor.driver.findElement(By.css('[aria-label^="as "]'))).click();
  await visitor.see('Drawn as');
  await visitor.keys(form, Key.ENTER);
  await briefIs(`as ${form}`);
}
/** A choice under a label's own words. */
async function chooseUnder(label: string, value: string): Promise<void> {
  const select = await visitor.waitFor(label, () =>
    visitor.driver.executeScript<WebElement | null>(
      `return [...document.querySelectorAll('aside label')].find((label) => label.textContent.startsWith(arguments[0]))?.querySelector('select') ?? null`,
      label,
    ),
  );
  await (await select.findElement(By.css(`option[value="${value}"]`))).click();
}

describe('the figures of comparison', () => {
  beforeAll(async () => {
    await visitor.go('/');
    await visitor.press('Open the demo');
    await briefIs('net sales by territory during fiscal 2026 to date');
  });

  test('each form is drawn from the same brief, and every row is spoken', async () => {
    for (const form of ['bars', 'pairs', 'dial', 'headline', 'bullet']) {
      await drawAs(form);
      await visitor.waitFor('eight rows', async () => (await rows()).length === 8);
      for (const row of await rows()) expect(await row.getAttribute('aria-label')).toMatch(/€.*plan/);
    }
  });

  test('a column of the numbers sorts, turns round, and lets go', async () => {
    await visitor.press('Sort by gap %');
    await briefIs('sorted by gap percent down');
    await visitor.press('Sort by gap %');
    await briefIs('sorted by gap percent up');
  });

  test('the ends of the ruler move with the arrow keys, and Enter fits it again', async () => {
    const end = () => visitor.driver.findElement(By.css('[aria-label="Where the ruler ends"]'));
    const before = Number(await (await end()).getAttribute('aria-valuenow'));
    await visitor.driver.executeScript('arguments[0].focus()', await end());
    await visitor.keys(Key.ARROW_LEFT);
    await visitor.waitFor(
      'a shorter ruler',
      async () => Number(await (await end()).getAttribute('aria-valuenow')) < before,
    );
    await visitor.driver.executeScript('arguments[0].focus()', await end());
    await visitor.keys(Key.ENTER);
    await visitor.waitFor(
      'the fitted ruler',
      async () => Number(await (await end()).getAttribute('aria-valuenow')) === before,
    );
  });

  test('an end of the ruler is dragged', async () => {
    const end = await visitor.driver.findElement(By.css('[aria-label="Where the ruler ends"]'));
    const before = Number(await end.getAttribute('aria-valuenow'));
    await visitor.driver
      .actions()
      .move({ origin: end })
      .press()
      .move({ origin: end, x: -120, y: 0 })
      .release()
      .perform();
    await visitor.waitFor('a longer ruler', async () => {
      const now = await visitor.driver.findElement(By.css('[aria-label="Where the ruler ends"]'));
      return Number(await now.getAttribute('aria-valuenow')) > before;
    });
    await visitor.control('z');
  });

  test('a row is gone into, one level down, and back by its path; a benchmark that is not known there comes back', async () => {
    const find = (selector: string) =>
      visitor.waitFor(selector, async () => (await visitor.driver.findElements(By.css(selector)))[0]);
    await (await find('[data-row="0"]')).click();
    await visitor.reads('plan is not known by rep: it is left away there.');
    const into = await find('button[title^="Shift + Enter"]');
    const name = /^Into (.+), by rep$/.exec(await into.getText())![1]!;
    await into.click();
    await visitor.reads(`every territory › ${name} by rep`);
    await visitor.reads('Net sales by rep:');
    await visitor.waitFor('it to be saved', async () => (await visitor.text()).includes('saved in this browser'));
    await visitor.driver.navigate().refresh();
    await visitor.reads('Net sales by rep:');
    await visitor.press('every territory');
    await visitor.reads('Net sales €8.40M, level with plan');
  });

  test('the title is written on the paper, with live values', async () => {
    const spot = await visitor.driver.findElement(By.css('[aria-label="Edit the title"]'));
    await visitor.driver.executeScript('arguments[0].focus()', spot);
    await visitor.keys(Key.ENTER);
    await visitor.waitFor(
      'the title field',
      async () => (await visitor.driver.findElements(By.css('figure textarea'))).length > 0,
    );
    await visitor.keys('{measure} against {benchmark}: {gap %}', Key.ENTER);
    await visitor.waitFor('the title', async () =>
      ((await (await paper()).getAttribute('aria-label')) ?? '').startsWith('Net sales against plan: '),
    );
    await visitor.control('z');
  });

  test('a highlight of one’s own paints by the gap, tells its gaps and closes them', async () => {
    await drawAs('bars');
    await visitor.press('Highlight');
    await visitor.press('New highlight');
    await visitor.press('the gap in %');
    await briefIs('lit by gap percent rules');
    await visitor.waitFor('its legend', async () => (await texts()).includes('gap below 0%'));
    const below = await visitor.waitFor('a bound', async () =>
      visitor.driver.executeScript<WebElement | null>(
        `return [...document.querySelectorAll('aside ol li:first-child label')].find((label) => label.textContent.startsWith('below, %'))?.querySelector('input') ?? null`,
      ),
    );
    await visitor.driver.executeScript('arguments[0].focus(); arguments[0].select()', below);
    await visitor.keys('-5', Key.ENTER);
    await visitor.waitFor('the gap to be told', async () => (await visitor.text()).includes('is painted by no rule'));
    const strip = await visitor.waitFor('the strip, as wide as the figure', () =>
      visitor.driver.executeScript<boolean>(`
        const of = (css) => document.querySelector(css)?.getBoundingClientRect();
        const [strip, paper] = [of('[aria-label="What the rules cover"]'), of('figure.sheet svg[role=group]')];
        return strip && Math.abs(strip.width - paper.width) < 4;`),
    );
    expect(strip).toBe(true);
    await (await visitor.driver.findElement(By.css('[data-stretch="from"] rect'))).click();
    await visitor.waitFor('the rule that was pressed, opened', () =>
      visitor.driver.executeScript<boolean>(
        `return document.querySelector('[role=tabpanel] [aria-expanded=true]')?.textContent === 'from'`,
      ),
    );
    await visitor.press('Close gaps and overlaps');
    await visitor.waitFor('no gap to be left', async () => !(await visitor.text()).includes('is painted by no rule'));
  });

  test('touching a rule, a name or a gap opens what it comes from', async () => {
    const touchAt = async (role: string) => {
      const point = await visitor.driver.executeScript<{ x: number; y: number }>(
        `const svg = document.querySelector('figure svg');
         const of = { label: (t) => t.textContent === 'Larkmoor', gap: (t) => /%$/.test(t.textContent) && t.getAttribute('text-anchor') === 'end' }[arguments[0]];
         const box = [...svg.querySelectorAll('text')].find(of).getBoundingClientRect();
         return { x: Math.round(box.x + box.width / 2), y: Math.round(box.y + box.height / 2) };`,
        role,
      );
      await visitor.driver.actions().move({ x: point.x, y: point.y }).click().perform();
    };
    await touchAt('label');
    await visitor.see('territory and channel');
    await visitor.keys(Key.ESCAPE);
    await touchAt('gap');
    await visitor.waitFor('the highlight to be at hand', () =>
      visitor.driver.executeScript<boolean>(`return document.activeElement.getAttribute('aria-label') === 'Lit by'`),
    );
    const sort = await visitor.driver.findElement(By.css('[aria-label^="Sort the figure by to plan"]'));
    await sort.click();
    // It was sorted upward, and lets go.
    await visitor.waitFor('no order', () =>
      visitor.driver.executeScript<boolean>(
        `return !document.querySelector('[aria-label=Brief] p').innerText.includes('sorted by gap')`,
      ),
    );
    await visitor.control('z');
  });

  test('the numbers of one figure are written otherwise than their measure’s', async () => {
    const choose = async (label: string, value: string) =>
      (await visitor.driver.findElement(By.css(`select[aria-label="${label}"] option[value="${value}"]`))).click();
    await visitor.press('Look');
    await choose('Scale of its numbers', 'none');
    await choose('Decimals of its numbers', '2');
    await visitor.waitFor('exact numbers', async () => (await texts()).includes('€1,579,882.86'));
    await choose('Scale of its numbers', '');
    await choose('Decimals of its numbers', '');
    await visitor.waitFor('numbers as the measure writes them', async () => (await texts()).includes('€1.58M'));
  });

  test('a note is written at a row, stands on the paper, and is undone', async () => {
    await (await visitor.driver.findElement(By.css('[data-row][aria-label^="Larkmoor"]'))).click();
    const field = await visitor.waitFor(
      'the field of the note',
      async () =>
        (await visitor.driver.findElements(By.xpath('//label[starts-with(., "Note at Larkmoor")]//input')))[0],
    );
    await field.sendKeys('price list changed', Key.TAB);
    const isThere = async () => (await texts()).some((text) => text.includes('price list changed'));
    await visitor.waitFor('the note on the paper', isThere);
    await visitor.press('Look');
    await visitor.waitFor('its place in the list', async () =>
      (await visitor.text()).includes('Larkmoor: price list changed'),
    );
    await visitor.press('Take off the note “price list changed”');
    await visitor.waitFor('the paper without the note', async () => !(await isThere()));
    await visitor.press('Undo: take off a note');
    await visitor.waitFor('the note again', isThere);
    await visitor.control('z');
  });

  test('what a figure can still show is asked on its paper', async () => {
    await visitor.press('rows lie on the ruler …');
    await visitor.press('as parts of their benchmarks');
    await visitor.waitFor('a ruler of parts', async () => (await texts()).includes('100%'));
    await visitor.control('z');
    await visitor.see('rows lie on the ruler …');
  });

  test('fewer members are shown by touching the paper', async () => {
    await visitor.press('+ keep');
    await visitor.press('5 highest');
    await briefIs('keep 5 highest');
    await visitor.press('Show one fewer');
    await briefIs('keep 4 highest');
    await visitor.control('z');
    await visitor.control('z');
  });

  test('the caption is written on the paper', async () => {
    await visitor.driver.executeScript(`document.querySelector('[aria-label="Edit the caption"]').focus()`);
    await visitor.keys(Key.ENTER);
    await visitor.waitFor(
      'the field',
      async () => (await visitor.driver.findElements(By.css('figure textarea'))).length > 0,
    );
    await visitor.keys('Counted to {as of}', Key.ENTER);
    await visitor.waitFor('the caption', async () => (await texts()).includes('Counted to 18 Mar 2026'));
    await visitor.control('z');
  });

  test('the picture is copied, to be pasted elsewhere', async () => {
    await visitor.devtools('Browser.grantPermissions', {
      permissions: ['clipboardReadWrite', 'clipboardSanitizedWrite'],
    });
    await visitor.press('Files');
    await visitor.press('Copy picture');
    await visitor.see('Copied.');
    const types = await visitor.driver.executeAsyncScript<string[]>(
      `const done = arguments[0]; navigator.clipboard.read().then((items) => done([...items[0].types]), (error) => done([String(error)]))`,
    );
    expect(types).toContain('image/png');
  });

  test('two figures share a ruler, and both say so', async () => {
    await visitor.press('Ruler');
    await visitor.press('New shared ruler');
    await briefIs('on shared');
    await visitor.press('Duplicate');
    await visitor.waitFor('both to be named', async () => (await visitor.text()).includes('2 figures hang on it'));
    await visitor.waitFor('the ruler', async () => (await texts()).some((text) => text.startsWith('€')));
  });

  test('a headline is held against several, over a bar', async () => {
    await drawAs('headline');
    await visitor.press('Look');
    await chooseUnder('Layout', 'over');
    await visitor.driver.executeScript(
      `[...document.querySelectorAll('aside fieldset label')].find((label) => label.textContent.trim() === 'last year').querySelector('input').click()`,
    );
    await visitor.waitFor('last year’s days', async () =>
      (await texts()).some((text) => text.includes('to last year')),
    );
  });

  test('a saved picture looks the same where its font is not there: its letters come with it', async () => {
    await visitor.press('Files');
    await visitor.press('SVG');
    const svg = await visitor.saved('f26.svg');
    expect(svg.length).toBeLessThan(60_000);
    const there = await visitor.driver.getCurrentUrl();
    await visitor.driver.get(`file://${join(visitor.downloads, 'f26.svg')}`);
    const set = await visitor.driver.executeAsyncScript<
      { text: string; size: number; weight: number; width: number }[]
    >(
      `const done = arguments[0];
       document.fonts.ready.then(() => done([...document.querySelectorAll('text')].map((one) => ({
         text: one.textContent, size: parseFloat(getComputedStyle(one).fontSize), weight: Number(getComputedStyle(one).fontWeight), width: one.getComputedTextLength(),
       }))));`,
    );
    expect(set.length).toBeGreaterThan(10);
    for (const { text, size, weight, width } of set) {
      const measured = textWidth(text, size, weight as 400 | 600);
      expect([text, Math.abs(width - measured) <= 0.01 * measured + 0.05]).toEqual([text, true]);
    }
    await visitor.go(new URL(there).pathname);
    await visitor.see('Highlight');
  });

  test('picture and scene are saved', async () => {
    await visitor.press('Files');
    await visitor.press('Scene');
    const scene = JSON.parse(await visitor.saved('f26.json')) as { marks: unknown[] };
    expect(scene.marks.length).toBeGreaterThan(20);
    await visitor.press('PNG');
    await visitor.saved('f26.png');
    const png = readFileSync(join(visitor.downloads, 'f26.png'));
    expect(png.subarray(1, 4).toString()).toBe('PNG');
    // Twice 760 pixels wide.
    expect(png.readUInt32BE(16)).toBe(1520);
  });

  test('the bench begins with at most 250 KB of compressed script', async () => {
    const html = await (await fetch(`${visitor.url}/report/x/figures`)).text();
    // What is for browsers without modules alone is loaded by none that runs this.
    const tags = [...html.matchAll(/<script[^>]+src="([^"]+\.js[^"]*)"[^>]*>/g)].filter(
      ([tag]) => !/nomodule/i.test(tag),
    );
    const scripts = [...new Set(tags.map((found) => found[1]!))];
    const sizes = await Promise.all(
      scripts.map(
        async (script) => gzipSync(Buffer.from(await (await fetch(`${visitor.url}${script}`)).arrayBuffer())).length,
      ),
    );
    const kilobytes = sizes.reduce((a, b) => a + b, 0) / 1024;
    console.log(`first load of the bench: ${kilobytes.toFixed(0)} KB of script in ${scripts.length} files`);
    expect(scripts.length).toBeGreaterThan(3);
    expect(kilobytes).toBeLessThanOrEqual(250);
  });

  test('nothing hinders on any screen', async () => {
    const found: string[] = [];
    const there = { data: 'Rows a month', numbers: 'Measures', figures: 'Highlight' };
    for (const [step, words] of Object.entries(there)) {
      await (await visitor.driver.findElement(By.css(`a[href$="/${step}"]`))).click();
      await visitor.onStep(step);
      await visitor.waitFor(words, async () => (await visitor.text()).includes(words));
      await visitor.idle();
      found.push(...(await hindrances(visitor)).map((one) => `${step}, ${one}`));
    }
    await visitor.go('/');
    await visitor.see('Choose files');
    expect([...found, ...(await hindrances(visitor))]).toEqual([]);
  });
});
