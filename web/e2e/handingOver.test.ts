import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import JSZip from 'jszip';
import { readSheet } from 'read-excel-file/node';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { WebElement } from 'selenium-webdriver';
import type chrome from 'selenium-webdriver/chrome.js';
import { hindrances } from './axe';
import { visitDemo, type Visitor } from './browser';
import { sheetOf } from './sheet';

let visitor: Visitor;
beforeAll(async () => {
  visitor = await visitDemo();
  await visitor.keys('4');
  await visitor.onStep('page');
  await says('Net sales reach €8.40M');
});
afterAll(() => visitor?.leave());
const { says } = sheetOf(() => visitor);

describe('handing a page over', () => {
  test('on paper there is the page alone, on one sheet', async () => {
    await visitor.see('Hand over');
    const { data } = (await (visitor.driver as chrome.Driver).sendAndGetDevToolsCommand('Page.printToPDF', {
      printBackground: true,
      preferCSSPageSize: true,
    })) as unknown as { data: string };
    const pdf = Buffer.from(data, 'base64');
    expect(/\/Count (\d+)/.exec(pdf.toString('latin1'))?.[1]).toBe('1');
    const text = spawnSync('pdftotext', ['-layout', '-', '-'], { input: pdf, encoding: 'utf8' }).stdout;
    for (const words of ['Pellwether, the year so far', 'Larkmoor', '€1.58M', '+27.4%', 'Net sales reach €8.40M'])
      expect(text).toContain(words);
    for (const words of ['Hand over', 'Figures', 'Report']) expect(text).not.toContain(words);
  });

  test('as PDF, slides and workbook it leaves with its words and numbers', async () => {
    const take = async (name: string, ending: string) => {
      await visitor.press('Hand over');
      await visitor.press(name);
      await visitor.saved(`Pellwether-the-year-so-far.${ending}`);
      return join(visitor.downloads, `Pellwether-the-year-so-far.${ending}`);
    };
    const pdf = await take('PDF', 'pdf');
    const text = spawnSync('pdftotext', ['-layout', pdf, '-'], { encoding: 'utf8' }).stdout;
    for (const words of ['Pellwether, the year so far', 'Larkmoor', '€1.58M', '+27.4%', 'Net sales reach €8.40M'])
      expect(text).toContain(words);
    expect(spawnSync('pdffonts', [pdf], { encoding: 'utf8' }).stdout.match(/yes no {2}yes/g)!.length).toBeGreaterThan(
      1,
    );
    await visitor.press('Hand over');
    await visitor.press('On A4 sheets');
    await visitor.saved('Pellwether-the-year-so-far-a4.pdf');
    const sheets = spawnSync('pdfinfo', [join(visitor.downloads, 'Pellwether-the-year-so-far-a4.pdf')], {
      encoding: 'utf8',
    });
    expect(sheets.stdout).toMatch(/Page size:\s+841\.89 x 595\.28 pts \(A4\)/);
    const slides = await JSZip.loadAsync(readFileSync(await take('Slides (PPTX)', 'pptx')));
    const numbers = await slides.file('ppt/slides/slide3.xml')!.async('text');
    expect(numbers).toContain('>Larkmoor<');
    expect(numbers).toContain('>€1,579,882.86<');
    expect((await slides.file('ppt/media/figure2.png')!.async('uint8array')).length).toBeGreaterThan(5000);
    expect(await slides.file('ppt/media/figure2.svg')!.async('text')).toContain('<path');
    const rows = await readSheet(await take('Workbook (XLSX)', 'xlsx'), 2);
    expect(rows.find(([name]) => name === 'Larkmoor')![1]).toBe(1579882.86);
  });

  test('as one HTML file it works from disk, without a network, workings included', async () => {
    await visitor.press('Hand over');
    await visitor.press('One HTML file');
    const html = await visitor.saved('Pellwether-the-year-so-far.html');
    expect(html.length).toBeLessThan(350 * 1024);
    const address = await visitor.driver.getCurrentUrl();
    await visitor.driver.get(pathToFileURL(join(visitor.downloads, 'Pellwether-the-year-so-far.html')).href);
    const marks = () =>
      visitor.driver.executeScript<WebElement | null>(
        `return [...document.querySelectorAll('rect[data-r]')].find((mark) => mark.textContent.startsWith(arguments[0])) ?? null`,
        'Larkmoor: €1.58M',
      );
    await visitor.see('territory: all');
    await (await visitor.waitFor('a mark', marks)).click();
    await visitor.waitFor('its working', async () =>
      (await visitor.text()).includes('1,999 rows of orders.csv from 1 Sep 2025 to 18 Mar 2026'),
    );
    await visitor.reads('The first 25 of its 1,999 rows');
    expect(await visitor.driver.executeScript('return document.fonts.check("12px \'Archivo Narrow\'")')).toBe(true);
    await visitor.press('Into Larkmoor, by rep');
    await visitor.reads('Net sales by rep: €1.58M together');
    await visitor.press('only Larkmoor ×');
    await expect.poll(async () => await visitor.text()).not.toContain('1,999 rows');
    // Its reader chooses, and everything follows, as in the application; the choice stands in the address.
    await visitor.press('channel: all');
    const box = await visitor.waitFor('the member', () =>
      visitor.driver.executeScript<WebElement | null>(
        `return [...document.querySelectorAll('#choices label')].find((label) => label.textContent === 'Schools') ?? null`,
      ),
    );
    await box.click();
    // Who goes on by the keyboard is where they were.
    expect(await visitor.driver.executeScript(`return document.activeElement.closest('label')?.textContent`)).toBe(
      'Schools',
    );
    const file = await visitor.waitFor(
      'the page to follow',
      async () => /Net sales reach €\S+/.exec(await visitor.text())?.[0],
    );
    expect(await hindrances(visitor)).toEqual([]);
    await visitor.driver.navigate().refresh();
    await visitor.see('channel: Schools');
    await visitor.waitFor('the same again', async () => (await visitor.text()).includes(file));
    await visitor.driver.get(address);
    await visitor.press('channel');
    await visitor.press('Schools');
    await says(file);
    await visitor.press('Show everything');
    await says('Net sales reach €8.40M');
  });
});
