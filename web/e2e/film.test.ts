import { afterAll, beforeAll, expect, test } from 'vitest';
import { By, Key, visitDemo, type Visitor } from './browser';

// All figures of a report, small.

let visitor: Visitor;

beforeAll(async () => {
  visitor = await visitDemo();
});
afterAll(() => visitor?.leave());

const film = () =>
  visitor.driver.executeScript<string[]>(
    `return [...document.querySelectorAll('[aria-label="Film of figures"] li button')].map((button) => button.title.split('\\n')[0])`,
  );
const chosen = () =>
  visitor.driver.executeScript<number>(
    `return [...document.querySelectorAll('[aria-label="Film of figures"] li button')].findIndex((button) => button.getAttribute('aria-pressed') === 'true')`,
  );
const isChosen = (place: number) =>
  visitor.waitFor(`figure ${place} on the bench`, async () => (await chosen()) === place);
const begins = (...names: string[]) =>
  visitor.waitFor(
    `a film that begins with ${names.join(', ')}`,
    async () => names.join('|') === (await film()).slice(0, names.length).join('|'),
  );
const toFigure = async (place: number) => {
  await (
    await visitor.driver.findElement(By.css(`[aria-label="Film of figures"] li:nth-of-type(${place + 1}) button`))
  ).click();
  await isChosen(place);
};

test('each has an address, to which reload and Back return', async () => {
  // The one that lies there first is named, too, so that going back comes to it.
  await visitor.waitFor('an address', async () => /\/figures\/[a-z0-9-]+$/.test(await visitor.driver.getCurrentUrl()));
  await toFigure(1);
  await visitor.driver.navigate().back();
  await isChosen(0);
  await toFigure(2);
  const there = await visitor.driver.getCurrentUrl();
  expect(there).toMatch(/\/figures\/[a-z0-9-]+$/);
  await toFigure(1);
  expect(await visitor.driver.getCurrentUrl()).not.toBe(there);
  await visitor.driver.navigate().back();
  await isChosen(2);
  await visitor.driver.navigate().refresh();
  await isChosen(2);
  await (await visitor.driver.findElement(By.css('a[href$="/data"]'))).click();
  await visitor.reads('rows from');
  await (await visitor.driver.findElement(By.css('a[href$="/figures"]'))).click();
  await isChosen(2);
});

test('one is given a name, moved by keys and dragged, and all of it is undone', async () => {
  await visitor.waitFor('titles', async () => !(await film()).slice(0, 3).some((title) => / as /.test(title)));
  const [first, second, third] = await film();
  await visitor.press('Look');
  const field = await visitor.waitFor(
    'the field of its name',
    async () => (await visitor.driver.findElements(By.xpath('//label[contains(., "Name, where figures")]//input')))[0],
  );
  await field.sendKeys('Lines in order', Key.TAB);
  await begins(first!, second!, 'Lines in order');
  const held = () => visitor.driver.findElement(By.css('[aria-label="Film of figures"] [aria-pressed=true]'));
  const step = async (key: string) => visitor.driver.actions().keyDown(Key.ALT).sendKeys(key).keyUp(Key.ALT).perform();
  await visitor.driver.executeScript('arguments[0].focus()', await held());
  // Again and again: it keeps the focus wherever it goes.
  await step(Key.ARROW_UP);
  await begins(first!, 'Lines in order', second!);
  await step(Key.ARROW_UP);
  await begins('Lines in order', first!, second!);
  await step(Key.ARROW_DOWN);
  await begins(first!, 'Lines in order', second!);
  await step(Key.ARROW_DOWN);
  await begins(first!, second!, 'Lines in order');
  await step(Key.ARROW_UP);
  await begins(first!, 'Lines in order', second!);
  const [onto, from] = [
    await visitor.driver.findElement(By.css('[aria-label="Film of figures"] li:nth-of-type(1) button')),
    await held(),
  ];
  await visitor.driver.actions().dragAndDrop(from, onto).perform();
  await begins('Lines in order', first!, second!);
  await isChosen(0);
  await visitor.driver.executeScript('document.activeElement.blur()');
  for (let undo = 0; undo < 7; undo++) await visitor.control('z');
  await begins(first!, second!, third!);
});

test('many are listed by page or by measure', async () => {
  const choose = async (order: string) =>
    (await visitor.driver.findElement(By.css(`[aria-label="How the film is listed"] option[value=${order}]`))).click();
  await choose('measure');
  await visitor.reads('net sales');
  const groups = () =>
    visitor.driver.executeScript<string[]>(
      `return [...document.querySelectorAll('[aria-label="Film of figures"] summary')].map((one) => one.textContent)`,
    );
  await visitor.waitFor('groups of measures', async () => (await groups()).some((name) => name.startsWith('margin')));
  await choose('page');
  await visitor.waitFor('groups of pages', async () => (await groups()).at(-1)?.startsWith('on no page'));
  await choose('order');
  expect(await groups()).toEqual([]);
});

test('the film makes the marks of a figure when it comes into view, and keeps them', async () => {
  await visitor.go(`/report/${await visitor.report()}/figures`);
  await visitor.reads('Net sales €8.40M, level with plan');
  const marks = () =>
    visitor.driver.executeScript<number[]>(
      `return [...document.querySelectorAll('[aria-label="Film of figures"] li')].map((one) => one.querySelectorAll('svg *').length)`,
    );
  await visitor.waitFor('the first in the film', async () => (await marks())[0]! > 5);
  // All figures have been drawn, and the last of them lie far below.
  await visitor.waitFor('names in the film', async () => !(await visitor.text()).includes('drawing …'));
  const before = await marks();
  expect(before.length).toBeGreaterThan(20);
  expect(before.at(-1)).toBe(0);
  // Those on the way grow as they are seen.
  await visitor.waitFor('the last in the film', async () => {
    await visitor.driver.executeScript(
      `document.querySelector('[aria-label="Film of figures"] li:last-child').scrollIntoView()`,
    );
    return (await marks()).at(-1)! > 5;
  });
  expect((await marks())[0]).toBe(before[0]);
});
