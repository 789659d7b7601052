import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { parquetWriteBuffer } from 'hyparquet-writer';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { workbook } from '../../core/src/reading/workbook.fixture';
import { ORDERS_HEADER, orderLines } from '../../demo/src/orders';
import { By, Key, visit, type Visitor } from './browser';
import { ownFiles } from './ownFiles';

// The ways in which rows come, and what may come in between.

let visitor: Visitor;
beforeAll(async () => {
  visitor = await visit();
});
afterAll(() => visitor?.leave());
const { element, file, gridRows, open, reads, shelf } = ownFiles(() => visitor);

describe('other ways in', () => {
  test('rows pasted from a spreadsheet', async () => {
    await visitor.go('/');
    await visitor.see('Choose files');
    await visitor.paste('day\tshop\tnet\n2025-01-05\tNord\t1,5\n2025-01-06\tSüd\t2\n');
    await reads('2 rows from pasted rows.tsv, dated by “day” from 2025-01-05 to 2025-01-06');
  });
  test('fiscal years of weeks are chosen, said with their days, and counted by', async () => {
    await open(file('sales.csv', 'day,net\n2024-02-03,1\n2024-02-04,2\n2025-02-01,4\n2025-02-02,8\n2025-03-01,16\n'));
    await reads('5 rows from sales.csv');
    const choose = async (label: string, option: string) => {
      const field = By.xpath(`//label[contains(., "${label}")]//select | //select[@aria-label="${label}"]`);
      const select = await visitor.waitFor(label, async () => (await visitor.driver.findElements(field))[0]);
      await select.findElement(By.xpath(`option[normalize-space()="${option}"]`)).click();
    };
    await choose('Fiscal years are of', '52 or 53 weeks');
    await choose('Which one', 'nearest to the month’s end');
    await choose('Weekday on which the year ends', 'Saturday');
    await choose('Month in which the year ends', 'January');
    await reads('1 Mar 2025 lies in fiscal 2026: 2 Feb 2025 – 31 Jan 2026, 52 weeks');
    await visitor.press('To its first figure');
    await reads('net');
    await visitor.press('write');
    await visitor.control('a');
    await visitor.keys('net each year', Key.ENTER);
    await visitor.reads(/2024 1 .*2025 6 .*2026 24/);
  });
  test('amounts of several currencies are told, and converted by rates that come with them', async () => {
    const dealings = ['day,dealer,currency,net', '2025-01-10,Corvane,EUR,100', '2025-01-31,Corvane,USD,200'];
    dealings.push('2025-02-01,Ashdown,USD,300', '2025-02-03,Old Mill,EUR,7');
    await open(
      file('dealings.csv', dealings.join('\n')),
      file('rates.csv', 'month,currency,rate\n2025-01,USD,0.9\n2025-02,USD,0.5\n'),
    );
    await reads('Amounts are in EUR and USD, by “currency”. “net” adds them up as if they were one currency.');
    await visitor.press('Convert to EUR by “rates”');
    await visitor.waitFor('nothing to be settled', async () => !(await visitor.text()).includes('Amounts are in'));
    await visitor.keys('2');
    // 100 + 200 × 0.9 + 300 × 0.5 + 7.
    await visitor.reads(/net sum\("net"\) more is better €437/);
    await visitor.press('net');
    await visitor.see('each row’s own period');
  });
  test('a column of the file is left out and put back, and is kept where something uses it', async () => {
    await open(file('sales.csv', 'day,shop,note,net\n2025-01-05,Nord,a,1\n2025-01-06,Süd,b,2\n'));
    await reads('4 columns');
    await visitor.press('note');
    await visitor.press('Leave this column out');
    await reads('This column is left out:');
    await reads('3 columns');
    await visitor.driver.navigate().refresh();
    await visitor.press('shop');
    await visitor.press('Leave this column out');
    await reads('“shop” is used by the figure');
    await visitor.press('note put back');
    await reads('4 columns');
  });
  test('fiscal months that are listed are begun with those there are, written or taken from a file, and counted by', async () => {
    await open(file('sales.csv', 'day,net\n2025-01-25,1\n2025-01-26,2\n2025-02-25,4\n2025-02-26,8\n2025-12-26,16\n'));
    await reads('5 rows from sales.csv');
    const labelled = (label: string, tag: string) =>
      visitor.waitFor(
        label,
        async () => (await visitor.driver.findElements(By.xpath(`//label[contains(., "${label}")]//${tag}`)))[0],
      );
    const made = await labelled('Fiscal years are of', 'select');
    await made.findElement(By.xpath('option[normalize-space()="months that are listed"]')).click();
    await reads('12 months, 1 Jan 2025 – 31 Dec 2025');
    await visitor.press('12 months, 1 Jan 2025 – 31 Dec 2025');
    const list = await labelled('Fiscal months, one a line', 'textarea');
    expect(await list.getAttribute('value')).toMatch(/^2025-01, 2025-01-01\n2025-02, 2025-02-01\n[^]*\n2026-01-01$/);
    await list.click();
    await visitor.control('a');
    await visitor.keys('2025-01, 2025-01-26', Key.TAB);
    await reads('0 months are listed, and a year has 12');
    const from = Array.from(
      { length: 13 },
      (_, i) => `${i === 0 ? '2024-12' : `2025-${String(i).padStart(2, '0')}`}-26`,
    );
    await (
      await element('input[aria-label="Fiscal months from a file"]')
    ).sendKeys(file('months.csv', `first day\n${from.join('\n')}\n`));
    await reads('12 months, 26 Dec 2024 – 25 Dec 2025');
    await visitor.keys(Key.ESCAPE);
    await reads('26 Dec 2025 lies in fiscal 2026: 26 Dec 2025 – 25 Dec 2026');
    await visitor.press('To its first figure');
    await reads('net');
    await visitor.press('write');
    await visitor.control('a');
    await visitor.keys('net each month during 2025-01 to 2025-03', Key.ENTER);
    await visitor.reads(/Jan 2025 1 .*Feb 2025 6 .*Mar 2025 8/);
  });
  test('a report whose rows come in several files, and months added to it together', async () => {
    const month = (n: number, net: number) => `day,shop,net\n2025-0${n}-05,Nord,${net}\n2025-0${n}-06,Süd,2\n`;
    await open(
      file(
        'r.ruler.json',
        JSON.stringify({
          boldRuler: 1,
          name: 'Months',
          tables: [{ id: 'sales', source: { files: 'sales-*.csv' } }],
          measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
        }),
      ),
      file('sales-1.csv', month(1, 10)),
      file('sales-2.csv', month(2, 20)),
    );
    await reads('4 rows from sales-1.csv and 1 more file, dated by “day” from 2025-01-05 to 2025-02-06');
    const add = await element('input[aria-label="Add a table"]');
    await add.sendKeys(`${file('visits 3.csv', month(3, 1))}\n${file('visits 4.csv', month(4, 1))}`);
    await reads('visits 4 rows · visits 3.csv and 1 more file');
    await visitor.driver.navigate().refresh();
    await visitor.press('visits');
    await reads('4 rows from visits 3.csv and 1 more file, dated by “day” from 2025-03-05 to 2025-04-06');
  });
  test('monthly workbooks with totals are one table, each without its total, and the saved report opens beside them', async () => {
    const month = (n: number, nets: readonly number[]) =>
      Buffer.from(
        workbook([
          {
            name: 'Sales',
            rows: [
              [`Sales of month ${n}`],
              ['day', 'shop', 'net'],
              ...nets.map((net, i) => [`2025-0${n}-0${i + 1}`, ['Alder', 'Birch', 'Cedar'][i % 3]!, net] as const),
              [null, 'Total', nets.reduce((sum, net) => sum + net, 0)],
            ],
          },
        ]),
      );
    const files = [
      file('Sales 2025-01.xlsx', month(1, [100, 20, 3, 4])),
      file('Sales 2025-02.xlsx', month(2, [500, 60, 7, 8])),
    ];
    await open(...files);
    await reads('Line 7 of Sales 2025-01.xlsx; line 7 of Sales 2025-02.xlsx look like totals among the rows');
    await reads('10 rows from Sales 2025-01.xlsx and 1 more file');
    await visitor.press('Leave them out');
    await visitor.press('Accept');
    await reads('8 rows from Sales 2025-01.xlsx and 1 more file');
    await visitor.press('How it is read');
    await reads('Sales 2025-01.xlsx 4 rows Sales 2025-02.xlsx 4 rows');
    await visitor.keys(Key.ESCAPE);
    await visitor.press('Report');
    await visitor.press('Save the report file');
    const report = file('saved.ruler.json', await visitor.saved('Sales.ruler.json'));
    await visitor.press('To its first figure');
    await reads('702');
    // At the command line, beside the same files.
    const command = fileURLToPath(new URL('../../cli/bin/bold-ruler.mjs', import.meta.url));
    const { stdout, stderr } = spawnSync('node', [command, 'numbers', report, 'f1'], { encoding: 'utf8' });
    expect(stderr).toBe('');
    const { rows } = JSON.parse(stdout) as { rows: readonly { readonly actual: number }[] };
    expect(rows.reduce((sum, { actual }) => sum + actual, 0)).toBe(702);
    // In another browser, dropped together.
    await open(report, ...files);
    await reads('8 rows from Sales 2025-01.xlsx and 1 more file');
    // The next month is one more of them, if nothing else is said.
    const march = file('Sales 2025-03.xlsx', month(3, [1000, 1, 1, 1]));
    await (await element('input[aria-label="Newer file"]')).sendKeys(march);
    await reads('If you add the rows of Sales 2025-03.xlsx');
    await reads('Replace the current rows then 4 rows Add to the current rows then 12 rows');
    await visitor.press('Accept');
    await reads('12 rows from Sales 2025-01.xlsx and 2 more files');
  });
  test('each sheet of a workbook', async () => {
    const bytes = workbook([
      { name: 'Sales', rows: [['Sales'], ['shop', 'kind', 'net'], ['Nord', 'a', 1], ['Süd', 'b', 2]] },
      {
        name: 'Plan',
        rows: [
          ['shop', 'goal'],
          ['Nord', 5],
        ],
      },
    ]);
    await open(file('book.xlsx', bytes));
    await reads('Sales 2 rows · book.xlsx Plan 1 row · book.xlsx');
    await reads('1 left out');
  });
  test('JSON that others made', async () => {
    const rows = Array.from({ length: 3201 }, (_, i) => ({
      Title: i % 50 === 0 ? null : `Concert ${i}`,
      'First Night': new Date(Date.UTC(1998, 0, 1 + i * 3)).toUTCString().slice(5, 16),
      Sales: { Home: i * 100, Abroad: i % 9 === 0 ? null : i * 7 },
      Rating: i / 400,
    }));
    await open(file('concerts.json', JSON.stringify(rows, null, 1)));
    await reads('3,201 rows from concerts.json, dated by “First Night” from 1998-01-01 to 2024-04-14, day by day.');
    await reads('Sales.Abroad');
  });
  test('a million rows of Parquet', async () => {
    const count = 1_000_000;
    const columnData = [
      {
        name: 'date',
        type: 'TIMESTAMP' as const,
        data: Array.from({ length: count }, (_, i) => new Date(Date.UTC(2025, 0, 1 + (i % 181)))),
      },
      { name: 'net', type: 'DOUBLE' as const, data: Array.from({ length: count }, (_, i) => (i % 1000) / 4) },
    ];
    const path = file('orders.parquet', '');
    writeFileSync(path, new Uint8Array(parquetWriteBuffer({ columnData })));
    await open(path);
    await reads('1,000,000 rows from orders.parquet, dated by “date” from 2025-01-01 to 2025-06-30, day by day.');
    await visitor.press('1,000,000 rows');
    await visitor.waitFor('rows', async () => (await gridRows()).length > 10);
    await (await element('[aria-label="Go to line"]')).sendKeys('999999', Key.ENTER);
    await visitor.waitFor('the last rows', async () => (await gridRows()).some(([line]) => line === '1,000,000'));
  });
});

describe('when something comes in between', () => {
  test('a reload in the middle of reading leaves no report and says so', async () => {
    await visitor.go('/');
    const before = (await visitor.waitFor('the shelf', async () => ((await shelf()).length > 0 ? shelf() : null)))
      .length;
    const path = file('long.csv', [ORDERS_HEADER, ...orderLines(400_000)].map((line) => line.join(',')).join('\n'));
    await visitor.driver.executeScript(`
      new MutationObserver((_, observer) => {
        if (!document.querySelector('[aria-label="Reading long.csv"]')) return;
        observer.disconnect();
        location.reload();
      }).observe(document.body, { subtree: true, childList: true });`);
    await visitor.upload(path);
    await visitor.see(
      'The reading of long.csv was ended when the page was left or loaded again. Nothing of it was kept',
    );
    await visitor.see('Choose files');
    await visitor.waitFor('the shelf as it was', async () => (await shelf()).length === before);
  });

  test('a full storage says so, and what was there is still there', async () => {
    const other = await visit();
    try {
      // Room for a small report, and for nothing large.
      await other.devtools('Storage.overrideQuotaForOrigin', { origin: other.url, quotaSize: 3_000_000 });
      await other.go('/');
      await other.see('Choose files');
      await other.upload(file('small.csv', 'a,b\n1,x\n2,y\n'));
      await other.waitFor('the small one', async () => (await other.text()).includes('2 rows from small.csv'));
      await other.go('/');
      await other.see('Choose files');
      const rows = Array.from({ length: 300_000 }, (_, i) => `${i}.25,name ${i}`);
      await other.upload(file('big.csv', `a,b\n${rows.join('\n')}`));
      await other.see('this browser gives this page no more room');
      expect(await other.text()).toContain('remove reports you no longer need');
      const kept = await other.driver.findElements(By.css('[aria-labelledby=shelf] > ul > li'));
      expect(kept).toHaveLength(1);
      await other.press('small');
      await other.waitFor(
        'the small one again',
        async () => (await other.driver.findElements(By.css('svg[role=group]'))).length > 0,
      );
    } finally {
      await other.leave();
    }
  });

  test('two tabs with one report: the other follows; a change that was missed is not overwritten', async () => {
    await open(file('two.csv', 'shop,net\nNord,1\nSüd,2\n'));
    const { driver } = visitor;
    const url = await driver.getCurrentUrl();
    const report = await visitor.report();
    const first = await driver.getWindowHandle();
    const rename = async (name: string) => {
      const input = await element('[aria-label="Name of the report"]');
      await input.sendKeys(Key.chord(Key.CONTROL, 'a'), name, Key.ENTER);
    };
    await driver.switchTo().newWindow('tab');
    const second = await driver.getWindowHandle();
    await driver.get(url);
    await reads('2 rows from two.csv');
    await rename('from the second');
    await visitor.see('saved in this browser');

    await driver.switchTo().window(first);
    await visitor.see('Another tab has changed this report. You see its newest state.');
    await expect
      .poll(async () => await (await element('[aria-label="Name of the report"]')).getAttribute('value'))
      .toBe('from the second');

    // The first tab falls silent, so the second does not hear of its change.
    await driver.executeScript('BroadcastChannel.prototype.postMessage = () => {}');
    await rename('from the first');
    await visitor.see('saved in this browser');
    await driver.switchTo().window(second);
    await rename('from the second again');
    await visitor.see('Another tab has changed this report since it was opened here');
    await visitor.press('Keep mine as a copy');
    await visitor.waitFor('the copy', async () => (await visitor.report()) !== report);
    await visitor.go('/');
    await reads('from the second again (copy)');
    await reads('from the first');
    await driver.close();
    await driver.switchTo().window(first);
  });
});

test('the demo’s tables are kept with their files, which give the same rows again', async () => {
  await visitor.go('/');
  await visitor.press('Open the demo');
  await visitor.onStep('figures');
  // A key means something as soon as the screen is there, which is after its address.
  await visitor.waitFor(
    'a figure',
    async () => (await visitor.driver.findElements(By.css('figure svg [data-row]'))).length > 0,
  );
  await visitor.keys('1');
  await reads('60,000 rows from orders.csv');
  await visitor.press('quantity');
  const kind = await element('[aria-label="Kind of quantity"]');
  await kind.findElement(By.css('option[value=text]')).click();
  await visitor.see('If you read “quantity” as text');
  await reads('number, whole numbers');
  await visitor.press('Leave as it is');
  expect(readFileSync(new URL('../../demo/files/orders.csv', import.meta.url), 'utf8').split('\n')[0]).toContain(
    'quantity',
  );
});
