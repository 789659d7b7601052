import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, test } from 'vitest';
import type { WebElement } from 'selenium-webdriver';
import { By, Key, visit, type Visitor } from './browser';

let visitor: Visitor;

beforeAll(async () => {
  visitor = await visit();
});
afterAll(() => visitor?.leave());

const says = (text: string) => visitor.waitFor(`“${text}”`, async () => (await visitor.text()).includes(text));
/** What stands on a card: its name, its words, its value. A measure goes before a benchmark of its name. */
const cards = () =>
  visitor.driver.executeScript<Record<string, string>>(
    `return Object.fromEntries([...document.querySelectorAll('[data-card]')].reverse().map((card) => [card.dataset.card, card.innerText.replace(/\\s+/g, ' ')]))`,
  );
const cardIs = (name: string, end: string) =>
  visitor.waitFor(`the card “${name}” to end in ${end}`, async () => (await cards())[name]?.endsWith(end));
const field = async (label: string) =>
  visitor.waitFor(label, () =>
    visitor.driver.executeScript<WebElement | null>(
      `return [...document.querySelectorAll('aside label')].find((label) => label.textContent.startsWith(arguments[0]))?.querySelector('input, select, textarea') ?? null`,
      label,
    ),
  );
async function write(label: string, ...text: string[]): Promise<void> {
  const input = await field(label);
  await visitor.driver.executeScript('arguments[0].focus(); arguments[0].select()', input);
  await visitor.keys(...text);
}
async function choose(label: string, option: string): Promise<void> {
  const select = await field(label);
  await (await select.findElement(By.xpath(`option[normalize-space()="${option}"]`))).click();
}

async function openStep(...files: string[]): Promise<void> {
  await visitor.go('/');
  await visitor.see('Choose files');
  if (files.length === 0) await visitor.press('Open the demo');
  else await visitor.upload(...files);
  const step = await visitor.waitFor(
    'the step',
    async () => (await visitor.driver.findElements(By.css('a[href$="/numbers"]')))[0],
  );
  await step.click();
  await says('New measure');
}

describe('the demo’s numbers', () => {
  beforeAll(() => openStep());

  test('each measure and benchmark is a line with its value now', async () => {
    await cardIs('net sales', '€46.6M');
    await cardIs('margin rate', '40.0%');
    await cardIs('plan', '€8.44M');
  });

  test('a new measure is written with completion by the keyboard alone; what is wrong is told while it is written', async () => {
    const add = await visitor.see('New measure');
    await visitor.driver.executeScript('arguments[0].focus()', add);
    await visitor.keys(Key.ENTER);
    await write('Expression', 'sum(net) / sum(quan');
    await visitor.see('quantity');
    await says('close the bracket');
    await visitor.keys(Key.TAB, ')');
    await visitor.waitFor('the completed expression', async () =>
      ((await (await field('Expression')).getAttribute('value')) ?? '').endsWith('sum(quantity)'),
    );
    await says('over everything 109');
    await cardIs('new measure', '109');
    await write('Name', 'price a piece', Key.ENTER);
    await cardIs('price a piece', '109');
  });

  test('a live result is broken down by a field', async () => {
    const by = await visitor.driver.findElement(By.css('aside section select'));
    const option = By.xpath('option[contains(., "channel")]');
    await (await visitor.waitFor('the fields', async () => (await by.findElements(option))[0])).click();
    await visitor.waitFor(
      'five channels',
      async () => (await visitor.driver.findElements(By.css('aside tbody tr'))).length === 5,
    );
  });

  test('a new name is followed into every brief, and undone in one step', async () => {
    await visitor.driver.findElement(By.css('[data-card="net sales"]')).click();
    await says('Used in');
    await write('Name', 'turnover', Key.ENTER);
    await says('turnover by territory during fiscal 2026 to date');
    await visitor.control('z');
    await cardIs('net sales', '€46.6M');
    await says('net sales by territory during fiscal 2026 to date');
  });

  test('an expression is taken as it is typed; undone it stays undone, and is had again', async () => {
    await visitor.driver.findElement(By.css('[data-card="net sales"]')).click();
    await write('Expression', 'sum(net)');
    await visitor.keys(' * 1');
    await visitor.waitFor('what was typed to be taken', async () =>
      (await cards())['net sales']?.includes('sum(net) * 1'),
    );
    await visitor.keys('0');
    await cardIs('net sales', '€466M');
    await write('Name');
    for (const [way, value] of [
      ['Undo', '€46.6M'],
      ['Redo', '€466M'],
      ['Undo', '€46.6M'],
    ] as const) {
      await visitor.press(`${way}: change net sales`);
      await cardIs('net sales', value);
    }
    await write('Expression', 'sum(net');
    await visitor.press('As it was');
    await visitor.waitFor('no draft', async () => !(await visitor.text()).includes('a text is not taken yet'));
    await cardIs('net sales', '€46.6M');
  });

  test('a benchmark becomes a forecast, with what it would have missed by', async () => {
    await visitor.press('New benchmark');
    await choose('It is', 'a forecast');
    await choose('Method', 'smoothing with season');
    await says('made a year earlier, would have missed the months that followed by');
    await visitor.waitFor('its value', async () => /€\d\.\d\dM$/.test((await cards())['new benchmark'] ?? ''));
  });

  test('removing what is used asks first, says what goes with it, and is undone', async () => {
    await visitor.driver.findElement(By.css('[data-card="plan"]')).click();
    await says('Used in');
    await visitor.press('Remove');
    await says('Figures held against plan are then held against nothing, and stretch goes with it.');
    await visitor.press('Remove all that');
    await visitor.waitFor('plan and stretch to be gone', async () => {
      const names = Object.keys(await cards());
      return !names.includes('plan') && !names.includes('stretch');
    });
    await visitor.control('z');
    await cardIs('stretch', '€9.29M');
  });

  test('it is all still there after a reload', async () => {
    await says('saved in this browser');
    await visitor.driver.navigate().refresh();
    await cardIs('price a piece', '109');
  });
});

test('a table of one’s own: text columns are counted, a format changes what the samples and the card say', async () => {
  const path = join(mkdtempSync(join(tmpdir(), 'bold-ruler-numbers-')), 'loaves.csv');
  writeFileSync(path, 'baked,oven,loaves,note\n2025-01-02,A,12,\n2025-01-03,B,-3,burnt\n2025-01-03,A,30,\n');
  await openStep(path);
  await cardIs('loaves', '39');
  await visitor.press('New measure');
  await write('Expression', 'count(distinct oven)');
  await cardIs('new measure', '2');
  await visitor.driver.findElement(By.css('[data-card="loaves"]')).click();
  await write('Expression', "sum(loaves) filter (where oven = 'B')");
  await choose('Less than zero', '(5)');
  await cardIs('loaves', '(3)');
});
