import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { WebElement } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { hindrances } from './axe';
import { By, Key, visitDemo, type Visitor } from './browser';

let visitor: Visitor;

beforeAll(async () => {
  visitor = await visitDemo();
});
afterAll(() => visitor?.leave());

const there = (css: string) =>
  visitor.waitFor(css, () =>
    visitor.driver.executeScript<WebElement | null>('return document.querySelector(arguments[0])', css),
  );
/** Looks for something by its name. */
async function find(words: string): Promise<void> {
  await visitor.control('k');
  await there('[cmdk-input]');
  await visitor.keys(words, Key.ENTER);
}
const light = () =>
  visitor.driver.executeScript<string>(`return getComputedStyle(document.documentElement).colorScheme`);

describe('everyday use', () => {
  test('anything is found by its name: a figure, a step, what to do', async () => {
    await find('landed net sales pace');
    await visitor.waitFor('a mistake to stay harmless', async () =>
      (await visitor.text()).includes('Nothing of that name.'),
    );
    await visitor.keys(Key.ESCAPE);
    await find('delivery days channel');
    await visitor.waitFor('that figure', async () => (await visitor.text()).includes('delivery days by channel'));
    await find('numbers');
    await visitor.see('Measures');
    await visitor.keys('3');
    await visitor.see('Highlight');
  });

  test('the desk can be dark, and stays it after a reload; paper stays paper; nothing on it hinders anybody', async () => {
    await find('desk dark');
    await visitor.waitFor('the dark', async () => (await light()) === 'dark');
    await visitor.driver.navigate().refresh();
    await visitor.see('Highlight');
    await visitor.waitFor('the dark', async () => (await light()) === 'dark');
    const paper = await there('figure.sheet');
    expect(await visitor.driver.executeScript('return getComputedStyle(arguments[0]).backgroundColor', paper)).toBe(
      'rgb(250, 250, 247)',
    );
    expect(await hindrances(visitor)).toEqual([]);
    await visitor.keys('1');
    await visitor.see('Calendar');
    expect(await hindrances(visitor)).toEqual([]);
    await visitor.keys('3');
    await visitor.see('Highlight');
    await find('desk as the system');
    await visitor.waitFor('the light of the system', async () => (await light()) === 'light dark');
  });

  test('a question mark shows all keys', async () => {
    await visitor.keys('?');
    await there('[role=dialog] dl');
    await visitor.reads('take the last step back');
    expect(await hindrances(visitor)).toEqual([]);
    await visitor.keys(Key.ESCAPE);
    await visitor.waitFor('it to go', async () => !(await visitor.text()).includes('take the last step back'));
  });

  test('what a report was before is kept, and gone back to as a step that can be undone', async () => {
    const name = () => visitor.driver.findElement(By.css('[aria-label="Name of the report"]'));
    const before = (await (await name()).getAttribute('value'))!;
    await (await name()).click();
    await visitor.control('a');
    await visitor.keys('Another name', Key.ENTER);
    await visitor.see('saved in this browser');
    await visitor.press('Report');
    await (await there('[aria-label^="Go back to"]')).click();
    await visitor.waitFor('the old name', async () => (await (await name()).getAttribute('value')) === before);
    await visitor.control('z');
    await visitor.waitFor('the new name', async () => (await (await name()).getAttribute('value')) === 'Another name');
    await visitor.control('z');
    await visitor.waitFor('the old name', async () => (await (await name()).getAttribute('value')) === before);
  });
});

describe('from one month to the next, and to others', () => {
  const LINES = ['day,shop,net', '2026-01-05,Umber,10', '2026-01-09,Larch,20'];

  beforeAll(async () => {
    await visitor.go('/');
    await visitor.see('Choose files');
    const file = join(visitor.downloads, 'takings.csv');
    writeFileSync(file, LINES.join('\n'));
    await visitor.upload(file);
    await visitor.see('Calendar');
    await visitor.keys('3');
    await visitor.see('Highlight');
  });

  test('a first page holds the figures there are, two by two, and is drawn at once', async () => {
    await visitor.keys('4');
    await visitor.press('Make a page');
    await there('main figure[aria-label]');
    await visitor.control('z');
    await visitor.see('No page yet');
    await visitor.keys('3');
    await visitor.see('Highlight');
  });

  test('a bundle holds the report and its rows, and opens on another desk', async () => {
    await visitor.press('Report');
    await visitor.press('Save as a bundle');
    await visitor.saved('takings.ruler.zip');
    await visitor.go('/');
    await visitor.see('Choose files');
    await visitor.upload(join(visitor.downloads, 'takings.ruler.zip'));
    await visitor.see('Calendar');
    await visitor.reads('2 rows from takings.csv');
    await visitor.keys('3');
    await visitor.see('Highlight');
  });

  test('a damaged bundle says so, and nothing is kept of it', async () => {
    await visitor.go('/');
    await visitor.see('Choose files');
    const reports = async () => (await visitor.driver.findElements(By.css('[aria-label^="Copy "]'))).length;
    const before = await visitor.waitFor('the reports', reports);
    const file = join(visitor.downloads, 'cut.ruler.zip');
    writeFileSync(file, 'PK no zip');
    await visitor.upload(file);
    expect(await (await visitor.see('cut.ruler.zip: it is damaged')).getText()).toContain('ask for it once more');
    expect(await reports()).toBe(before);
  });

  test('a new month: its rows are shown and added in a copy, file by file, and the old report is as it was', async () => {
    await visitor.press('takings');
    await visitor.see('Highlight');
    const file = join(visitor.downloads, 'takings february.csv');
    writeFileSync(file, [LINES[0], '2026-02-03,Umber,500'].join('\n'));
    const next = join(visitor.downloads, 'takings march.csv');
    writeFileSync(next, [LINES[0], '2026-03-03,Umber,1000'].join('\n'));
    const wrong = join(visitor.downloads, 'other.csv');
    writeFileSync(wrong, 'a,b\n1,2');
    await visitor.press('Report');
    const choose = async (path: string) => (await there('[aria-label="Choose newer files"][type=file]')).sendKeys(path);
    await choose(wrong);
    await visitor.see('other.csv: it fits no table');
    await choose(`${file}\n${next}`);
    await visitor.waitFor(
      'the new report',
      async () => (await visitor.driver.findElements(By.css('input[value="takings (new month)"]'))).length > 0,
    );
    await visitor.reads(/If you add the rows of takings february\.csv .* rows 2 3 /);
    await visitor.press('Accept');
    await visitor.reads('Not taken yet: take the rows of takings march.csv');
    await visitor.press('Show what it does');
    await visitor.reads(/If you add the rows of takings march\.csv .* rows 3 4 /);
    await visitor.press('Accept');
    await visitor.reads('4 rows from');
    await visitor.keys('3');
    await visitor.reads('1,510');
    await visitor.go('/');
    await visitor.see('takings (new month)');
    await visitor.reads(/takings \d+ figures? · 2 rows/);
  });
});

test('somebody new is led through their first figure in five steps, each done by their own hand', async () => {
  await visitor.go('/');
  await visitor.press('Show me how, in five steps');
  await visitor.see('A sentence makes the figure');
  await visitor.press('by territory');
  await visitor.keys('product line', Key.ENTER);
  await visitor.see('What is it held against?');
  await visitor.press('against plan');
  await visitor.keys('last year', Key.ENTER);
  await visitor.see('How did it come about?');
  await (await there('figure.sheet [data-row]')).click();
  await visitor.see('For somebody who reads it');
  await visitor.waitFor('its reckoning', async () => (await visitor.text()).includes('rows of orders.csv'));
  await visitor.driver.executeScript('document.activeElement.blur()');
  await visitor.keys('4');
  await visitor.see('And now with your own rows');
  await visitor.press('To the first page');
  await visitor.see('Choose files');
});
