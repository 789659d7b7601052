import { afterAll, beforeAll, expect, test } from 'vitest';
import { hindrances } from './axe';
import { By, Key, visitDemo, type Visitor } from './browser';

let visitor: Visitor;

beforeAll(async () => {
  visitor = await visitDemo();
});
afterAll(() => visitor?.leave());

test('a row that is pressed tells how it came about, and shows its rows', async () => {
  await (await visitor.waitFor('rows', () => visitor.driver.findElement(By.css('[data-row="0"]')))).click();
  await visitor.waitFor('its rows in words', async () =>
    (await visitor.text()).includes(
      '1,999 rows of orders.csv from 1 Sep 2025 to 18 Mar 2026 where territory is Larkmoor.',
    ),
  );
  await visitor.reads('1579882.86 − 1240025.80645161 = 339857.05354839');
  await visitor.press('See its 1,999 rows');
  await visitor.see('Larkmoor: 1,999 rows');
  expect(await hindrances(visitor)).toEqual([]);
  await visitor.press('Save as CSV');
  expect((await visitor.saved('Larkmoor.csv')).trimEnd().split('\r\n')).toHaveLength(2000);
  await visitor.press('Close');
});

test('what could mislead is counted, put right in one step, or let stand for a reason', async () => {
  const count = async () => Number(/(\d+) notes/.exec(await visitor.text())?.[1] ?? NaN);
  const before = await visitor.waitFor('a count', async () => (await count()) || null);
  await visitor.press(`${before} notes`);
  await visitor.press('Compare up to the as-of date only');
  await visitor.waitFor('one less', async () => (await count()) === before - 1);
  await visitor.press('Let it stand …');
  await visitor.keys('The plan is for the whole year', Key.ENTER);
  await visitor.waitFor('two less', async () => (await count()) === before - 2);
  await visitor.reads('The plan is for the whole year.');
  expect(await hindrances(visitor)).toEqual([]);
  await visitor.keys(Key.ESCAPE);
  await visitor.control('z');
  await visitor.control('z');
  await visitor.waitFor('all again', async () => (await count()) === before);
});
