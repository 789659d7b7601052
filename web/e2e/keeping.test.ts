import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { By, Key, visitDemo, type Visitor } from './browser';

let visitor: Visitor;

beforeAll(async () => {
  visitor = await visitDemo();
});
afterAll(() => visitor?.leave());

const find = (selector: string) =>
  visitor.waitFor(selector, async () => (await visitor.driver.findElements(By.css(selector)))[0]);
const says = (text: string) => visitor.waitFor(`“${text}”`, async () => (await visitor.text()).includes(text));
const isSaved = () => says('saved in this browser');
const isDrafted = () =>
  visitor.waitFor('a draft that is kept', async () =>
    /saved in this browser[^;]*; a text is not taken yet/.test(await visitor.text()),
  );

/** Loads the page again without leaving the field that is being written in. */
async function reload(): Promise<void> {
  await visitor.driver.executeScript('window.location.reload()');
}

describe('what is being written is saved as it is written', () => {
  test('the name of the report, and a title', async () => {
    await (await find('[aria-label="Name of the report"]')).click();
    await visitor.control('a');
    await visitor.keys('Half a name');
    await isSaved();
    await reload();
    await says('Highlight');
    await expect
      .poll(async () => await (await find('[aria-label="Name of the report"]')).getAttribute('value'))
      .toBe('Half a name');
  });

  test('a long text on a page; undone, all that was written in one go is gone', async () => {
    await visitor.keys('4');
    await visitor.press('Arrange');
    const field = '[aria-label="Text, with values in braces"]';
    const before = await (await find(field)).getAttribute('value');
    await (await find(field)).click();
    await visitor.control('a');
    const long = 'A word, and another. '.repeat(4).trim();
    await visitor.keys(long);
    await visitor.waitFor('what was typed', async () => (await (await find(field)).getAttribute('value')) === long);
    await isSaved();
    await reload();
    await visitor.press('Arrange');
    await expect.poll(async () => await (await find(field)).getAttribute('value')).toBe(long);
    await visitor.press('Undo: change a text');
    await visitor.waitFor(
      'the text as it was',
      async () => (await (await find(field)).getAttribute('value')) === before,
    );
    await isSaved();
  });

  test('a brief that is not drawn yet', async () => {
    await visitor.keys('3');
    await says('Highlight');
    await visitor.keys('/');
    await (await find('[aria-label="Brief as text"]')).click();
    await visitor.control('a');
    await visitor.keys('net sales by terri');
    await isDrafted();
    await reload();
    await expect
      .poll(async () => await (await find('[aria-label="Brief as text"]')).getAttribute('value'))
      .toBe('net sales by terri');
    await visitor.press('Leave');
    await visitor.waitFor('nothing being written', async () => !(await visitor.text()).includes('a text is not taken'));
    await isSaved();
    await reload();
    await says('Highlight');
    await expect
      .poll(async () => await visitor.driver.findElements(By.css('[aria-label="Brief as text"]')))
      .toHaveLength(0);
  });
});

describe('what is typed and not left yet is there again', () => {
  /** The field under a label. */
  const under = (label: string) =>
    visitor.waitFor(
      label,
      async () =>
        (
          await visitor.driver.findElements(
            By.xpath(`//label[contains(., "${label}")]//*[self::input or self::textarea]`),
          )
        )[0],
    );
  async function typed(label: string, text: string): Promise<void> {
    const before = await (await under(label)).getAttribute('value');
    await (await under(label)).click();
    await visitor.control('a');
    await visitor.keys(text);
    await isDrafted();
    await reload();
    await visitor.waitFor(
      'the text as it was left',
      async () => (await (await under(label)).getAttribute('value')) === text,
    );
    await (await under(label)).click();
    await visitor.keys(Key.ESCAPE);
    await visitor.waitFor(
      'the field as it was',
      async () => (await (await under(label)).getAttribute('value')) === before,
    );
  }

  test('the edges of bands, and the end of a ruler', async () => {
    await visitor.press('fixed numbers');
    await typed('Edges, the worst first', '1000, 25');
    await visitor.press('Ruler');
    await visitor.press('New shared ruler');
    await visitor.press('between fixed ends');
    await typed('From', '12 thous');
  });
});

describe('what is removed lies in the bin', () => {
  const figures = async () => (await visitor.driver.findElements(By.css('[aria-label="Film of figures"] li'))).length;

  test('a figure can be had back after a reload, by undoing and from the menu', async () => {
    const before = await visitor.waitFor('figures', figures);
    await visitor.press('Remove this figure');
    await visitor.waitFor('one fewer', async () => (await figures()) === before - 1);
    await isSaved();
    await reload();
    await says('Highlight');
    await visitor.press('Undo: remove the figure');
    await visitor.waitFor('as many as before', async () => (await figures()) === before);
    await visitor.press('Redo: remove the figure');
    await visitor.waitFor('one fewer', async () => (await figures()) === before - 1);
    await isSaved();
    await visitor.press('Report');
    await says('Removed in the last 30 days');
    await visitor.press('Put back figure');
    await visitor.waitFor('as many as before', async () => (await figures()) === before);
    await isSaved();
  });

  test('a table goes there with what rests on it, and what it took along is undone with it', async () => {
    await visitor.keys('1');
    await visitor.press('plan');
    await visitor.press('Remove plan');
    await says('On plan rest 2 benchmarks');
    await visitor.press('Remove all that');
    await visitor.waitFor('no plan', async () => !(await visitor.text()).includes('plan.csv'));
    await isSaved();
    await reload();
    await visitor.press('Undo: remove the table plan');
    await visitor.press('plan');
    await says('plan.csv');
    await visitor.keys('3');
    await says('Net sales €8.40M, level with plan');
    await isSaved();
  });

  test('a report goes there with everything that belongs to it', async () => {
    const url = await visitor.driver.getCurrentUrl();
    await visitor.go('/');
    await visitor.see('Reports in this browser');
    await (await find('[aria-label="Remove Half a name"]')).click();
    await visitor.see('In the bin: 1 report');
    await visitor.driver.get(url);
    await says('It was removed and lies in the bin.');
    await visitor.go('/');
    await visitor.press('In the bin: 1 report');
    await visitor.press('Put Half a name back');
    await visitor.press('Half a name');
    await says('Highlight');
    await visitor.press('Report');
    await says('Earlier states');
    await visitor.keys(Key.ESCAPE);
    expect(await (await find('[aria-label^="Undo: "]')).isEnabled()).toBe(true);
  });
});

describe('when the report is gone from the browser', () => {
  test('what is here is kept as a copy, from memory', async () => {
    await visitor.devtools('Storage.clearDataForOrigin', { origin: visitor.url, storageTypes: 'all' });
    await (await find('[aria-label="Name of the report"]')).click();
    await visitor.control('a');
    await visitor.keys('After the flood', Key.ENTER);
    await says('This report is not in this browser any more');
    await says('not saved: the report is gone');
    const report = await visitor.report();
    await visitor.press('Keep mine as a copy');
    await visitor.waitFor('the copy', async () => (await visitor.report()) !== report);
    await says('Net sales €8.40M, level with plan');
    await visitor.go('/');
    await visitor.press('After the flood (copy)');
    await says('Net sales €8.40M, level with plan');
  });

  test('where the browser keeps nothing, that is said, and the report with its tables is a file', async () => {
    await visitor.driver.executeScript(
      `IDBObjectStore.prototype.put = () => { throw new DOMException('no', 'UnknownError'); };`,
    );
    await (await find('[aria-label="Name of the report"]')).click();
    await visitor.control('a');
    await visitor.keys('Kept as a file', Key.ENTER);
    await says('this browser keeps nothing for this page');
    await expect.poll(async () => await visitor.text()).not.toContain('newer version');
    await visitor.press('Save it as a file');
    expect((await visitor.saved('Kept-as-a-file.ruler.zip')).length).toBeGreaterThan(10_000);
    const asks = await visitor.driver.executeScript(
      `const leaving = new Event('beforeunload', { cancelable: true }); window.dispatchEvent(leaving); return leaving.defaultPrevented;`,
    );
    expect(asks).toBe(true);
  });
});
