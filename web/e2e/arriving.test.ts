import { afterAll, beforeAll, expect, test } from 'vitest';
import { visit, visitDemo, type Visitor } from './browser';

// What holds while a page comes, and where there is none.

let visitor: Visitor;

beforeAll(async () => {
  visitor = await visitDemo();
});
afterAll(() => visitor?.leave());

test('a button that is pressed before the program of the page has come does what it says as soon as it can', async () => {
  const other = await visit();
  try {
    // Pressed in the moment in which the browser has read it, before any script of the application has run.
    await other.ahead(`new MutationObserver((_, observer) => {
        const button = [...document.querySelectorAll('button')].find((one) => one.textContent === 'Open the demo');
        if (!button) return;
        observer.disconnect();
        button.click();
        window.wasEarly = window.boldRulerEarly?.pressed === button;
      }).observe(document, { childList: true, subtree: true });`);
    await other.go('/');
    await other.onStep('figures');
    expect(await other.driver.executeScript('return window.wasEarly')).toBe(true);
    await other.see('Net sales €8.40M, level with plan');
  } finally {
    await other.leave();
  }
});

test('files that are chosen before the program of the page has come are read as soon as it can', async () => {
  const other = await visit();
  try {
    await other.ahead(`new MutationObserver((_, observer) => {
        const input = document.querySelector('input[type=file]');
        if (!input) return;
        observer.disconnect();
        const chosen = new DataTransfer();
        chosen.items.add(new File(['shop,net\\nNord,1\\nSüd,2\\n'], 'early.csv'));
        input.files = chosen.files;
        input.dispatchEvent(new Event('change', { bubbles: true }));
      }).observe(document, { childList: true, subtree: true });`);
    await other.go('/');
    await other.onStep('data');
    await other.reads('2 rows from early.csv');
  } finally {
    await other.leave();
  }
});

test.each([
  ['pasted', `new ClipboardEvent('paste', { clipboardData: brought, bubbles: true, cancelable: true })`],
  ['dropped', `new DragEvent('drop', { dataTransfer: brought, bubbles: true, cancelable: true })`],
])('rows that are %s before the program of the page has come are read as soon as it can', async (way, event) => {
  const other = await visit();
  try {
    await other.ahead(`new MutationObserver((_, observer) => {
        if (!document.querySelector('input[type=file]')) return;
        observer.disconnect();
        const brought = new DataTransfer();
        const text = 'shop\\tnet\\nNord\\t1\\nSüd\\t2\\n';
        if ('${way}' === 'pasted') brought.setData('text/plain', text);
        else brought.items.add(new File([text], 'dropped rows.tsv'));
        document.body.dispatchEvent(${event});
      }).observe(document, { childList: true, subtree: true });`);
    await other.go('/');
    await other.onStep('data');
    await other.reads(`2 rows from ${way} rows.tsv`);
  } finally {
    await other.leave();
  }
});

test('what has come to a screen stays where it is while the rest of it comes, so that a press meets what it was meant for', async () => {
  await visitor.ahead(`window.moved = [];
      new PerformanceObserver((list) => {
        for (const { value, sources } of list.getEntries())
          window.moved.push({ value, what: sources.map(({ node }) => (node?.textContent ?? '').slice(0, 40)) });
      }).observe({ type: 'layout-shift', buffered: true });`);
  const report = await visitor.report();
  for (const [step, last] of [
    ['data', 'fiscal 2026 is complete up to'],
    ['numbers', 'over everything €'],
    ['figures/territories', 'Net sales €8.40M, level with plan'],
    ['page', 'What to know'],
  ]) {
    await visitor.go(`/report/${report}/${step}`);
    await visitor.reads(last!);
    await visitor.idle();
    // The share of the window that moved, times how far: what lies at its side and cannot be pressed may, a little.
    const moved = await visitor.driver.executeScript<{ value: number }[]>('return window.moved');
    expect({ step, moved: moved.filter(({ value }) => value > 0.02) }).toEqual({ step, moved: [] });
  }
});

test('an address that leads nowhere says so, and a report without a step is its figures', async () => {
  const report = await visitor.report();
  await visitor.go(`/report/${report}/nowhere`);
  await visitor.see('There is nothing at this address');
  await visitor.press('To all reports');
  await visitor.see('Choose files');
  await visitor.go('/report/nothing/figures');
  await visitor.see('This report is not in this browser');
  await visitor.go(`/report/${report}`);
  await visitor.reads('Net sales €8.40M, level with plan');
  expect(await visitor.report()).toBe(report);
});
