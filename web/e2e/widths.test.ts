import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest';
import { hindrances } from './axe';
import { By, Key, visitDemo, type Visitor } from './browser';

let visitor: Visitor;

beforeAll(async () => {
  visitor = await visitDemo();
});
afterAll(() => visitor?.leave());
beforeEach(async () => {
  await visitor.keys('3');
  await visitor.onStep('figures');
});

/** The middle of something on the screen. */
const middleOf = (selector: string) =>
  visitor.driver.executeScript<Point>(
    `const one = document.querySelector(arguments[0]);
     one.scrollIntoView({ block: 'nearest' });
     const { left, top, width, height } = one.getBoundingClientRect();
     return { x: Math.round(left + width / 2), y: Math.round(top + height / 2) };`,
    selector,
  );
interface Point {
  readonly x: number;
  readonly y: number;
}

/**
 * A mouse or a finger, pressed at its first place, until it is let go. Both by the browser's own commands: between two
 * performed actions of the driver a page loses the mouse that it holds.
 */
function pointer(isMouse: boolean) {
  let at: Point | null = null;
  const send = (command: string, what: object) => visitor.devtools(command, what);
  const touches = (enabled: boolean) => send('Emulation.setTouchEmulationEnabled', { enabled });
  const mouse = (type: string, buttons: number) =>
    send('Input.dispatchMouseEvent', { type, ...at, buttons, button: 'left', clickCount: 1 });
  const touch = (type: string) =>
    send('Input.dispatchTouchEvent', { type, touchPoints: type === 'touchEnd' ? [] : [at] });
  return {
    async to(place: Point): Promise<void> {
      const isDown = at !== null;
      at = place;
      if (!isMouse) {
        if (!isDown) await touches(true);
        await touch(isDown ? 'touchMove' : 'touchStart');
        return;
      }
      await mouse('mouseMoved', isDown ? 1 : 0);
      if (!isDown) await mouse('mousePressed', 1);
    },
    async letGo(): Promise<void> {
      if (isMouse) await mouse('mouseReleased', 0);
      else {
        await touch('touchEnd');
        await touches(false);
      }
    },
  };
}

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
  const { x, y } = await middleOf('[aria-label="Where the ruler ends"]');
  const finger = pointer(false);
  for (const by of [0, 20, 60, 100]) await finger.to({ x: x - by, y });
  await finger.letGo();
  await visitor.waitFor('a longer ruler', async () => (await valueOf()) > before);
  await visitor.control('z');
});

test.each(['a finger', 'a mouse'])('a figure is dragged from the list onto a place of the page with %s', async (by) => {
  await visitor.sized();
  await visitor.keys('4');
  await visitor.onStep('page');
  await visitor.press('Arrange');
  const titles = () =>
    visitor.driver.executeScript<string[]>(
      `return [...document.querySelectorAll('[data-place]')].map((one) => one.dataset.place + ' ' + one.querySelector('button').getAttribute('aria-label'))`,
    );
  const before = await visitor.waitFor('the blocks of the page', async () => {
    const found = await titles();
    return found.length > 0 && found;
  });
  const hand = pointer(by === 'a mouse');
  const from = await middleOf('[aria-label="Figures to be dragged onto the paper"] li:nth-child(4) span');
  await hand.to(from);
  await hand.to({ x: from.x - 60, y: from.y });
  // Over each half of the second block the side is marked: behind it, before it. A block moves while figures are
  // drawn, so it is looked for again until it is met.
  for (const [dx, put] of [
    [20, '0 2'],
    [-40, '0 1'],
  ] as const)
    await visitor.waitFor(`the mark of place ${put}`, async () => {
      const block = await middleOf('[data-place="0 1"]');
      await hand.to({ x: block.x + dx, y: block.y });
      return visitor.driver.executeScript<boolean>(
        `return document.querySelector('[data-put="' + arguments[0] + '"]') !== null`,
        put,
      );
    });
  await hand.letGo();
  const after = await visitor.waitFor('one more block', async () => {
    const found = await titles();
    return found.length === before.length + 1 && found;
  });
  const names = (list: readonly string[]) => list.map((one) => one.slice(4));
  expect(names(after).filter((_, i) => i !== 1)).toEqual(names(before));
  await visitor.control('z');
  await visitor.waitFor('the page as it was', async () => (await titles()).length === before.length);
  await visitor.press('Done');
});

test('paper is dark where its reader wishes it, on a desk in the dark; print and files are not', async () => {
  await visitor.sized();
  const ground = () =>
    visitor.driver.executeScript<{ paper: string; inks: string[] }>(`
      const figure = document.querySelector('[data-sheet] figure');
      return figure && {
        paper: getComputedStyle(figure).backgroundColor,
        inks: [...new Set([...figure.querySelectorAll('svg [fill^="#"]')].map((one) => one.getAttribute('fill')))],
      };`);
  await visitor.keys('4');
  await visitor.onStep('page');
  const light = await visitor.waitFor('the page', ground);
  const media = (features: readonly { name: string; value: string }[]) =>
    visitor.devtools('Emulation.setEmulatedMedia', { features });
  await media([{ name: 'prefers-color-scheme', value: 'dark' }]);
  await visitor.see('Dark paper');
  expect(await ground()).toEqual(light);
  await visitor.press('Dark paper');
  await visitor.waitFor('dark paper', async () => (await ground()).paper === 'rgb(34, 44, 53)');
  const dark = await ground();
  expect(light.paper).toBe('rgb(250, 250, 247)');
  // As many inks, each another.
  expect(dark.inks).toHaveLength(light.inks.length);
  expect(dark.inks.filter((ink) => light.inks.includes(ink))).toEqual([]);
  expect(await hindrances(visitor)).toEqual([]);
  await visitor.driver.executeScript('window.dispatchEvent(new Event("beforeprint"))');
  expect((await ground()).inks).toEqual(light.inks);
  await visitor.driver.executeScript('window.dispatchEvent(new Event("afterprint"))');
  await visitor.waitFor('dark inks again', async () => (await ground()).inks.join() === dark.inks.join());
  await visitor.driver.navigate().refresh();
  await visitor.waitFor('dark paper after a reload', async () => (await ground())?.paper === dark.paper);
  await visitor.press('Dark paper');
  await visitor.waitFor('light paper', async () => (await ground()).paper === light.paper);
  await media([]);
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
