import { afterAll, beforeAll, expect, test } from 'vitest';
import { By, Key, visit, type Visitor } from './browser';

let visitor: Visitor;

beforeAll(async () => {
  visitor = await visit();
  // Keeps the workers a page starts at hand, so that one can be made to stop.
  await visitor.ahead(
    `const Made = window.Worker; window.made = []; window.muted = 0; window.Worker = class extends Made { constructor(...words) { super(...words); const nth = window.made.push(this); this.addEventListener('message', (event) => { if (nth <= window.muted) event.stopImmediatePropagation(); }); } };`,
  );
  await visitor.go('/');
  await visitor.press('Open the demo');
  await visitor.see('Highlight');
});
afterAll(() => visitor?.leave());

const name = () => visitor.driver.findElement(By.css('[aria-label="Name of the report"]'));
async function rename(to: string): Promise<void> {
  await (await name()).click();
  await visitor.control('a');
  await visitor.keys(to, Key.ENTER);
}
const isDrawn = () =>
  visitor.waitFor('the figure', async () => (await visitor.text()).includes('Net sales €8.40M, level with plan'));

test('when the part that computes stops, it is started again, and the work goes on', async () => {
  await rename('Before the fall');
  await visitor.driver.executeScript(
    `for (const worker of [...window.made]) { worker.terminate(); worker.dispatchEvent(new ErrorEvent('error')); }`,
  );
  await visitor.see('The part that computes had stopped and was started again. Nothing is lost.');
  await visitor.press('Close');
  await visitor.keys('2');
  await visitor.see('Measures');
  await visitor.waitFor('its values', async () => (await visitor.text()).includes('€46.6M'));
  await visitor.keys('3');
  await isDrawn();
  await expect.poll(async () => await (await name()).getAttribute('value')).toBe('Before the fall');
  await visitor.press('across');
  await visitor.press('upright');
  await visitor.press('Files');
  await visitor.waitFor('a new drawing', async () => (await visitor.text()).includes('Computed and laid out'));
  await visitor.press('Look');
  await visitor.control('z');
});

test('when it does not answer any more, that is said, and it can be ended', async () => {
  // Those there are now stay silent; what is started in their place is heard.
  await visitor.driver.executeScript('window.muted = window.made.length');
  await visitor.press('upright');
  await visitor.see('Still computing, for');
  await visitor.press('Cancel');
  await visitor.see('The part that computes had stopped and was started again. Nothing is lost.');
  await visitor.driver.executeScript('window.muted = 0');
  await visitor.press('Close');
  // What it was asked then is not asked again; anything else is, and the work goes on.
  await visitor.control('z');
  await isDrawn();
});

test('a page that is loaded again in the middle of saving has the state before or after, whole', async () => {
  for (const to of ['One', 'Two', 'Three']) {
    await (await name()).click();
    await visitor.control('a');
    await visitor.keys(to);
    // The change is made and the page is left in one breath.
    await visitor.driver.executeScript(`document.activeElement.blur(); window.location.reload();`);
    try {
      await (await visitor.driver.switchTo().alert()).accept();
    } catch {
      // It was saved before anybody had to be asked.
    }
    await isDrawn();
    // What is written is saved as it is written, so a beginning of it may stand there, too.
    const kept = (await (await name()).getAttribute('value')) ?? '';
    expect(['Before the fall', 'One', 'Two', 'Three'].some((whole) => kept !== '' && whole.startsWith(kept))).toBe(
      true,
    );
  }
  await visitor.go('/');
  await visitor.see('Reports in this browser');
  await expect.poll(async () => (await visitor.driver.findElements(By.css('[aria-label^="Copy "]'))).length).toBe(1);
  await visitor.driver.navigate().back();
  await isDrawn();
});

test('a report of a newer version is not opened by an older one, and stays as it is', async () => {
  const written = (version: number) =>
    visitor.driver.executeAsyncScript(
      `const [version, done] = arguments; const asked = indexedDB.open('bold-ruler');
       asked.onsuccess = () => { const store = asked.result.transaction('reports', 'readwrite').objectStore('reports');
         store.getAll().onsuccess = ({ target }) => { const [stored] = target.result; stored.report.boldRuler = version;
           store.put(stored).onsuccess = () => { asked.result.close(); done(); }; }; };`,
      version,
    );
  await written(99);
  await visitor.driver.navigate().refresh();
  await visitor.see('This report could not be opened');
  await visitor.reads('written by a newer version of Bold Ruler');
  await written(1);
  await visitor.driver.navigate().refresh();
  await isDrawn();
});

test('a newer version’s storage is left alone: what cannot be saved is said, with what to do', async () => {
  await visitor.driver.executeAsyncScript(
    `const done = arguments[0]; const asked = indexedDB.open('bold-ruler', 9999); asked.onsuccess = () => { asked.result.close(); done(); };`,
  );
  await rename('In the older version');
  await visitor.see('a newer version of Bold Ruler keeps this browser’s reports now');
  await visitor.reads('nothing that was saved is lost');
  await visitor.reads('could not be saved: save the report file');
  await visitor.press('Report');
  await visitor.press('Save the report file');
  expect(await visitor.saved('In-the-older-version.ruler.json')).toContain('"name": "In the older version"');
  // Loaded again it writes nothing into it either.
  await visitor.driver.executeScript(`window.location.reload()`);
  try {
    await (await visitor.driver.switchTo().alert()).accept();
  } catch {
    // The browser asks only those who have touched the page.
  }
  await visitor.see('This report could not be opened');
  await visitor.reads('a newer version of Bold Ruler keeps this browser’s reports now');
});
