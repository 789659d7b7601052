import { By, Key, type WebElement } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { visit, type Visitor } from './browser';

let visitor: Visitor;
beforeAll(async () => {
  visitor = await visit();
  await visitor.go('/');
  await visitor.press('Open the demo');
  await briefIs('net sales by territory during fiscal 2026 to date');
}, 240_000);
afterAll(() => visitor.leave());

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
async function write(brief: string): Promise<void> {
  await visitor.driver.executeScript('document.activeElement.blur()');
  await visitor.keys('/');
  const field = await visitor.driver.findElement(By.css('[aria-label="Brief as text"]'));
  await field.sendKeys(Key.chord(Key.CONTROL, 'a'), brief, Key.ENTER);
}
const rows = () => visitor.driver.findElements(By.css('[data-row]'));
const words = () =>
  visitor.driver.executeScript<string[]>(
    `return [...document.querySelectorAll('[data-row]')].map((row) => row.getAttribute('aria-label'))`,
  );
const texts = () =>
  visitor.driver.executeScript<string[]>(
    `return [...document.querySelectorAll('figure svg text')].map((text) => text.textContent)`,
  );
const choose = (id: string) =>
  visitor.waitFor(`figure ${id}`, async () => {
    const button = await visitor.driver.executeScript<WebElement | null>(
      `const buttons = [...document.querySelectorAll('aside[aria-label="Film of figures"] li button')];
       const found = buttons.find((button) => button.textContent.includes(arguments[0]));
       found?.scrollIntoView({ block: 'center' });
       return found ?? null;`,
      id,
    );
    await button?.click();
    return button !== null;
  });
const press = (element: WebElement) =>
  visitor.driver.executeScript('arguments[0].focus()', element).then(() => visitor.keys(Key.ENTER));

describe('the figures of change', () => {
  test('a step of a waterfall is opened by another field, and closed again', async () => {
    await visitor.press('as bullet');
    await visitor.see('Drawn as');
    await visitor.keys('waterfall', Key.ENTER);
    await briefIs('as waterfall');
    await visitor.waitFor('plan, eight territories and the total', async () => (await rows()).length === 10);
    await expect.poll(async () => (await words())[0]).toMatch(/^plan: €/);
    await (await rows())[1]!.click();
    await visitor.press('product line');
    await visitor.waitFor('the parts', async () => (await texts()).some((text) => text.includes('· Strings')));
    await visitor.press('Close');
    await visitor.waitFor('the step', async () => !(await texts()).some((text) => text.includes('· Strings')));
  });

  test('in a bump a member that is pressed stands out, by mouse and by key, and lets go', async () => {
    await choose('Larkmoor first');
    await briefIs('as bump');
    await visitor.waitFor('who stands out', async () => (await visitor.text()).includes('Larkmoor stands out'));
    const [first] = await rows();
    await press(first!);
    await visitor.press('Look');
    await visitor.waitFor('both', async () => /Larkmoor, Alder Coast\s+stand out/.test(await visitor.text()));
    await press((await rows())[0]!);
    await visitor.press('Look');
    await visitor.waitFor('one', async () => (await visitor.text()).includes('Larkmoor stands out'));
  });

  test('a pace says where it lands, and a trend is drawn as it is wished', async () => {
    await choose('ahead of last year');
    await visitor.waitFor('a figure', async () => (await texts()).length > 5);
    await visitor.driver.executeScript('document.activeElement.blur()');
    await write('net sales each month during fiscal 2026 against plan as trend');
    await briefIs('as trend');
    await visitor.waitFor('twelve months', async () => (await rows()).length === 12);
    const draw = await visitor.waitFor('the choice', async () =>
      visitor.driver.executeScript<WebElement | null>(
        `return [...document.querySelectorAll('aside label')].find((label) => label.textContent.startsWith('Drawn with'))?.querySelector('option[value=pairs]') ?? null`,
      ),
    );
    await draw.click();
    await visitor.waitFor(
      'bars',
      async () => (await visitor.driver.findElements(By.css('figure svg rect[fill="#B1A999"]'))).length >= 12,
    );
    await write('cumulative net sales each week during fiscal 2026 against plan as pace');
    await visitor.waitFor('the landing', async () => (await texts()).includes('landing'));
  });

  test('the cells of a table are chosen by its columns, and sorted by their headings', async () => {
    await write('net sales, margin rate by rep during fiscal 2026 to date against last year as table');
    await visitor.waitFor('the reps', async () => (await rows()).length > 20);
    const cells = await visitor.waitFor('the cells', async () => {
      const found = await visitor.driver.findElements(
        By.css('select[aria-label="Cells of margin rate"] option[value="dot"]'),
      );
      return found[0];
    });
    await cells.click();
    await visitor.waitFor(
      'dots',
      async () => (await visitor.driver.findElements(By.css('figure svg circle'))).length > 20,
    );
    await (await visitor.driver.findElement(By.css('[aria-label^="Sort the figure by net sales"]'))).click();
    await briefIs('sorted by value down');
  });

  test('all figures are put under the same condition, and back, in one step', async () => {
    await visitor.press('+ only');
    await visitor.press('channel');
    await visitor.press('Schools');
    await briefIs('only channel is Schools');
    await visitor.keys(Key.ESCAPE);
    await visitor.press('only channel is Schools');
    await visitor.press('the same rows in all figures');
    await visitor.keys(Key.ESCAPE);
    await choose('first in net sales');
    await briefIs('only channel is Schools');
    await visitor.control('z');
    await visitor.waitFor('no condition', async () => !(await visitor.text()).includes('only channel is Schools'));
    await choose('Net sales');
  });

  test('a table of thousands of rows draws what is seen of it, and scrolls under its heading', async () => {
    await write('net sales, order lines by account, product line, channel, rep as table');
    await visitor.waitFor('the rows', async () => (await visitor.text()).includes('numbers file has them all'));
    const seen = () =>
      visitor.driver.executeScript<string[]>(
        `return [...document.querySelectorAll('[data-row]')].map((row) => row.getAttribute('aria-label'))`,
      );
    const before = await seen();
    expect(before.length).toBeLessThan(120);
    // At first nothing lies over its title, and nothing of it lies beside the window.
    expect(await visitor.driver.findElements(By.css('figure .sticky'))).toHaveLength(0);
    expect(
      await visitor.driver.executeScript<string[]>(
        `const box = document.querySelector('figure > div');
         const right = box.getBoundingClientRect().left + box.clientWidth;
         return [...box.querySelectorAll('*')].filter((one) => one.getBoundingClientRect().right > right + 0.5).map((one) => one.outerHTML.slice(0, 100))`,
      ),
    ).toEqual([]);
    await visitor.driver.executeScript(`document.querySelector('figure > div').scrollTo({ top: 30000 })`);
    await visitor.waitFor('other rows', async () => (await seen())[3] !== before[3]);
    await expect.poll(async () => (await seen()).length).toBeLessThan(120);
    const heading = await visitor.waitFor('the heading', () => visitor.driver.findElement(By.css('figure .sticky')));
    await expect.poll(async () => await heading.getText()).toContain('net sales');
  });
});
