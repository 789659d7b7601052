import { afterAll, beforeAll, expect, test } from 'vitest';
import { workbook } from '../../core/src/reading/workbook.fixture';
import { By, Key, visit, type Visitor } from './browser';
import { ownFiles } from './ownFiles';

// What files and checks ask, and what becomes of the answers.

let visitor: Visitor;
beforeAll(async () => {
  visitor = await visit();
});
afterAll(() => visitor?.leave());
const { element, file, gridRows, open, reads } = ownFiles(() => visitor);

test('what files and checks ask stands in one list, and leads to the rows and to the matching', async () => {
  const sales = [
    'day,shop,net',
    '2026-01-05,Alder,100.50',
    '2026-02-03,Birch,150',
    '2026-03-04,Cedar,90',
    'Total,,340.50',
  ].join('\n');
  const plan = 'month,shop,target\n2026-01,Alder,120\n2026-01,Larkmoor,55\n2026-02,Birch,100\n2026-03,Cedar,90\n';
  await open(file('sales.csv', sales), file('plan.csv', plan));
  const show = async () => {
    await visitor.waitFor('what is to be decided', async () => {
      const buttons = await visitor.driver.findElements(By.xpath('//button[contains(., "to decide")]'));
      await buttons[0]?.click();
      return buttons.length > 0;
    });
    await reads('Please decide');
  };
  await show();
  await reads('50% of net');
  await visitor.press('Show the row');
  await visitor.waitFor('the line of the total', async () =>
    (await gridRows()).some(([line, , , net]) => line === '5' && net === '340.50'),
  );
  await show();
  await (await element('[role=dialog] li:nth-of-type(2) button[class]:nth-last-of-type(2)')).click();
  await reads('1 name of plan is not in sales');
});

test('an answer that was pressed is not dropped by the next one, about the same table or another', async () => {
  const rows = ['day,until,shop,net', '01/02/2026,05/06/2026,Nord,10', '03/04/2026,07/08/2026,Süd,20', 'Total,,,30'];
  const other = ['day,shop,target', '2026-02-01,Nord,10', '2026-03-01,Süd,20', '2026-04-01,Nord,5', ',Total,35'];
  await open(file('sales.csv', rows.join('\n')), file('plan.csv', other.join('\n')));
  await visitor.press('Leave it out');
  await visitor.reads(/If you leave out rows that are totals .* rows 3 2 /);
  await visitor.press('5 June 2026');
  await reads('If you leave out rows that are totals and read “until” as dd/MM/yyyy');
  await visitor.press('6 May 2026');
  await reads('If you leave out rows that are totals and read “until” as MM/dd/yyyy');
  await visitor.press('plan');
  await visitor.press('Leave it out');
  await visitor.reads(/If you leave out rows that are totals .* rows 4 3 /);
  await visitor.press('sales');
  await reads('Not taken yet: leave out rows that are totals and read “until” as MM/dd/yyyy.');
  await visitor.press('Show what it does');
  await visitor.reads(/If you leave out rows .* as MM\/dd\/yyyy .* rows 3 2 /);
  await visitor.press('Accept');
  await reads('2 rows from sales.csv');
  await visitor.press('plan');
  await reads('Not taken yet: leave out rows that are totals.');
  await visitor.press('Leave as it is');
  await visitor.waitFor('nothing to wait', async () => !(await visitor.text()).includes('Not taken yet'));
  await reads('4 rows from plan.csv');
});

test('sheets of the same columns are put under one another, each row with the name of its sheet, and apart again', async () => {
  const rows = (net: number) => [
    ['day', 'line', 'net'],
    ['2025-01-05', 'Keys', net],
    ['2025-01-06', 'Brass', 1],
  ];
  const bytes = workbook([
    { name: 'Nord', rows: rows(10) },
    { name: 'Süd', rows: rows(20) },
    { name: 'West', rows: rows(40) },
  ]);
  await open(file('shops.xlsx', Buffer.from(bytes)));
  await reads('“Süd” and “West” have the same columns');
  await visitor.press('Put them under this one');
  // It is shown before it is taken: rows and sums.
  await visitor.reads(/If you put Süd and West under Nord .* rows 2 6 .* net .* 11 .* 73/);
  await reads('2 rows from shops.xlsx');
  await visitor.press('Accept');
  await reads('6 rows from Nord.csv');
  await reads('4 columns');
  expect(await visitor.text()).not.toContain('West 2 rows');
  await visitor.driver.navigate().refresh();
  await reads('6 rows from Nord.csv');
  await visitor.press('Undo');
  await reads('2 rows from shops.xlsx');
  await reads('West 2 rows · shops.xlsx');
  await visitor.press('They stay apart');
  await visitor.waitFor('nothing to be settled', async () => !(await visitor.text()).includes('have the same columns'));
  await visitor.press('Undo');
  await visitor.press('Put them under this one');
  await visitor.press('Accept');
  await reads('4 columns');
  await (await visitor.driver.findElement(By.css('a[href$="/figures"]'))).click();
  await visitor.see('Highlight');
  await visitor.press('write');
  await visitor.control('a');
  await visitor.keys('net by sheet as bars, sorted by name', Key.ENTER);
  await visitor.reads(/Nord 11 .*Süd 21 .*West 41/);
});
