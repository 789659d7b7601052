import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { By, Key, visit, type Visitor } from './browser';
import { ownFiles } from './ownFiles';

let visitor: Visitor;
beforeAll(async () => {
  visitor = await visit();
});
afterAll(() => visitor?.leave());
const { element, file, gridRows, open, reads } = ownFiles(() => visitor);

const TEA = [
  'Tea rooms, all sales',
  '',
  'Booked;Room;Size;Amount;Weight',
  '03/04/2025;Harbour;Small;€ 1.200,50;1',
  '05/06/2025;Orchard;Large;300,00;3',
  '05/07/2025;Harbour;Medium;twelve;2',
  '06/07/2025;Quay;Small;99,50;1',
  '07/07/2025;Harbour;Large;400,00;3',
  '08/07/2025;Orchard;Small;500,00;1',
  'Total;;;2.500,00;',
];

/** Presses the label of a choice. */
const label = (words: string) =>
  visitor.waitFor(`the choice “${words}”`, () =>
    visitor.driver.executeScript<boolean>(
      `const label = [...document.querySelectorAll('label')].find((one) => one.textContent.includes(arguments[0]));
       label?.click();
       return label !== undefined;`,
      words,
    ),
  );

describe('a file in which rows stand twice', () => {
  const TILL = [
    'till,day,shop,net',
    '1,2025-03-04,Larkmoor,10.50',
    '2,2025-03-04,Fenwick,4',
    '2,2025-03-04,Fenwick,4',
    '1,2025-03-05,Tarn,7',
  ];
  beforeAll(() => open(file('tills.csv', TILL.join('\n'))));

  test('tells them with what they hold, leaves them out when asked, by all columns or by a key, and brings them back', async () => {
    await reads('Line 4: a row that is equal to one above in all columns, with 4 in net.');
    await visitor.press('Leave it out');
    await visitor.see('If you leave out rows that stand there already');
    await visitor.press('Accept');
    await reads('3 rows from tills.csv');
    await visitor.press('Close');
    await visitor.press('1 left out');
    await reads('a row that stands there already');
    await visitor.press('4 columns');
    await visitor.press('How it is read');
    const key = await element('[placeholder="such as order no"]');
    await key.sendKeys('till', Key.ENTER);
    await visitor.see('If you tell rows apart by till');
    await visitor.press('Accept');
    await reads('2 rows from tills.csv');
    await visitor.press('Close');
    await visitor.control('z');
    await reads('3 rows from tills.csv');
    await visitor.control('z');
    await reads('4 rows from tills.csv');
    await reads('Line 4: a row that is equal to one above in all columns');
    await visitor.press('It is meant');
    await visitor.waitFor('nothing to be settled', async () => !(await visitor.text()).includes('equal to one above'));
    await visitor.control('z');
    await reads('Line 4: a row that is equal to one above in all columns');
  });
});

describe('a file that needs settling', () => {
  beforeAll(() => open(file('tea.csv', TEA.join('\n'))));

  test('is asked about, and each answer shows its effect before it is taken', async () => {
    await reads('In Booked no row tells whether “03/04/2025” is 3 April 2025 or 4 March 2025');
    await visitor.press('4 March 2025');
    await visitor.see('If you read “Booked” as MM/dd/yyyy');
    await reads('dates as MM/dd/yyyy');
    await visitor.press('Accept');
    await visitor.see('Done: read “Booked” as MM/dd/yyyy. Figures follow.');
    await visitor.press('Close');
    await reads('from 2025-03-04 to 2025-08-07');

    await reads('Line 10 looks like a total among the rows');
    await visitor.press('Leave it out');
    await visitor.see('If you leave out rows that are totals');
    await visitor.press('Accept');
    await reads('6 rows from tea.csv');
    await visitor.press('Put it back');
    await reads('7 rows from tea.csv');
    await visitor.press('Leave it out');
    await visitor.press('Accept');
    await reads('6 rows from tea.csv');
    await visitor.press('Close');
  });

  test('its report file says what was settled, and the figure counts without the total', async () => {
    await visitor.press('Report');
    await visitor.press('Save the report file');
    const report = JSON.parse(await visitor.saved('tea.ruler.json')) as { tables: unknown[] };
    expect(report.tables).toEqual([
      {
        id: 'tea',
        source: { file: 'tea.csv' },
        columns: [{ name: 'Booked', type: 'date', read: 'MM/dd/yyyy' }],
        leaveOut: ['totals'],
      },
    ]);
    await visitor.keys('3');
    await visitor.waitFor(
      'the sum',
      async () =>
        (await visitor.driver.findElements(By.css('svg[role=group][aria-label^="Amount by Size: €2,500 together"]')))
          .length > 0,
    );
    await visitor.keys('1');
  });

  test('rows are searched, sorted and gone to, with the text of the file beside what was read', async () => {
    await visitor.press('6 rows');
    await visitor.waitFor('rows', async () => {
      const shown = await gridRows();
      return shown.length === 6 && shown.every((row) => row.length > 1);
    });
    await expect
      .poll(async () => (await gridRows())[0])
      .toEqual(['4', '2025-03-04 03/04/2025', 'Harbour', 'Small', '€ 1.200,50 1200.50', '1']);
    await expect.poll(async () => (await gridRows())[2]![4]).toBe('twelve');
    await (await element('[aria-label="Rows of tea"] [title^="Amount"]')).click();
    await visitor.waitFor('sorted rows', async () => (await gridRows())[0]![4] === '99,50 99.50');
    await expect.poll(async () => (await gridRows()).at(-1)![4]).toBe('twelve');
    await (await element('input[type=search]')).sendKeys('harb');
    await reads('3 of 6 rows hold “harb”');
    await (await element('[aria-label="Go to line"]')).sendKeys('8', Key.ENTER);
    await visitor.waitFor(
      'the row',
      async () => (await visitor.driver.findElements(By.css('[data-place][aria-selected=true]'))).length > 0,
    );
    const picked = await element('[data-place][aria-selected=true]');
    await expect.poll(async () => await picked.getText()).toContain('400.00');
    await (await element('input[type=search]')).clear();
    await visitor.press('5 columns');
  });

  test('what was left out is listed with why, how often and how much, and can be saved', async () => {
    await visitor.press('3 left out');
    await reads('not a number Amount 1');
    await visitor.press('Save the list');
    const saved = await visitor.saved('tea.csv left out.csv');
    expect(saved).toContain('6,Amount,twelve,not a number');
    expect(saved).toContain('1,,"Tea rooms, all sales",a title above the header');
    await visitor.press('5 columns');
  });

  test('members are put in order by hand with the keyboard, or by another column, and figures follow', async () => {
    await visitor.press('Size');
    const members = async () =>
      (await visitor.driver.findElements(By.css('[aria-label="Members of Size in order"] li'))).length === 0
        ? []
        : (await (await element('[aria-label="Members of Size in order"]')).getText()).split('\n');
    await visitor.waitFor('members', async () => (await members()).join() === 'Large,Medium,Small');
    await visitor.driver.executeScript('arguments[0].focus()', await element('[aria-label="Move Small"]'));
    for (const key of [Key.SPACE, Key.ARROW_UP, Key.ARROW_UP, Key.SPACE]) await visitor.moves(key);
    await visitor.waitFor('Small first', async () => (await members()).join() === 'Small,Large,Medium');
    const by = await element('[aria-label="Order Size by another column"]');
    await by.findElement(By.css('option[value=Weight]')).click();
    await visitor.waitFor('by weight', async () => (await members()).join() === 'Small,Medium,Large');
    await visitor.control('z');
    await visitor.waitFor('by hand again', async () => (await members()).join() === 'Small,Large,Medium');
  });

  test('a column is derived; a mistake is underlined, the first values are shown', async () => {
    await visitor.press('Add a column from others');
    const [name, expression] = [
      await element('[aria-label="Derived column"] input'),
      await element('[aria-label="Derived column"] textarea'),
    ];
    await name.sendKeys('rate');
    await expression.sendKeys('Amount / Wieght');
    await reads('there is no column “Wieght” — did you mean “Weight”?');
    await expression.sendKeys(Key.chord(Key.CONTROL, 'a'), 'Amount / Weight');
    await reads('1 row of 6 without a value');
    await reads('1200.50 1 1200.5');
    await visitor.press('Add the column');
    await reads('rate derived');
  });

  test('a newer file shows what it changes before it is taken', async () => {
    const newer = [...TEA.slice(0, 9), '09/07/2025;Mill;Small;1,00;1', TEA[9]!];
    const input = await element('input[aria-label="Newer file"]');
    await input.sendKeys(file('tea-new.csv', newer.join('\n')));
    // Its days are there already: nothing is taken before somebody has said how.
    await visitor.see('How are the rows of tea-new.csv taken?');
    await visitor.reads(
      /Replace the current rows then 7 rows Add to the current rows then \d+ rows \d+ days are in both/,
    );
    expect(await visitor.driver.findElements(By.xpath('//button[normalize-space()="Accept"]'))).toEqual([]);
    await label('Replace the current rows');
    await visitor.see('If you take the rows of tea-new.csv');
    await reads('rows 6 7');
    await reads('new: Mill');
    await visitor.press('Leave as it is');
    await reads('6 rows from tea.csv');
    await input.sendKeys(file('tea-new.csv', newer.join('\n')));
    await label('Replace the current rows');
    await visitor.see('If you take the rows of tea-new.csv');
    await visitor.press('Accept');
    await reads('7 rows from tea-new.csv');
    await visitor.driver.navigate().refresh();
    await reads('7 rows from tea-new.csv');
    await reads('rate derived');
  });

  test('is undone with its rows, and what was changed before it, also after a reload', async () => {
    await visitor.press('Undo: take the rows of tea-new.csv');
    await reads('6 rows from tea.csv');
    const before = await visitor.driver.findElement(By.css('[aria-label^="Undo: "]')).getAttribute('aria-label');
    expect(before).not.toBe('Undo: take the rows of tea-new.csv');
    await visitor.press(before!);
    // It has happened, and is kept, before the page is left.
    await visitor.see(before!.replace('Undo', 'Redo'));
    await reads('saved in this browser');
    await visitor.driver.navigate().refresh();
    await visitor.press(before!.replace('Undo', 'Redo'));
    await visitor.press('Redo: take the rows of tea-new.csv');
    await reads('7 rows from tea-new.csv');
    await visitor.driver.navigate().refresh();
    await reads('7 rows from tea-new.csv');
    await visitor.see('Undo: take the rows of tea-new.csv');
  });
});

test('targets with a column a month become rows, and are matched: strangers, time and sums are told', async () => {
  await open(
    file('sales.csv', 'day,shop,net\n2025-01-05,Nord,10\n2025-02-06,Süd,20\n2025-03-07,Nord,30\n2025-03-08,Nord,1\n'),
    file('goals.csv', 'shop,Jan 2025,Feb 2025,Mar 2025\nNord,5,6,7\nWest,1,2,3\n'),
  );
  await visitor.press('goals');
  await reads('6 rows from goals.csv');
  await visitor.press('against sales, 1 name unmatched');
  await reads('only in goals');
  const text = await visitor.text();
  expect(text).toContain('month, by month');
  expect(text).toMatch(/goals sums to 24, of which 6 are for members that sales does not have/);
  expect(text).toContain('No two targets are for the same members and time.');
  expect(text).toContain('West');
});

describe('files as a company has them', () => {
  const orders = (rep: string, ...more: readonly string[]) => [
    `day,code,${rep},net`,
    '2026-01-05,P1,Nils Ohara,10',
    '2026-01-06,P2,Ines Vale,20',
    '2026-02-03,P9,ines vale,5',
    ...more,
  ];
  const table = async (id: string) => {
    const [button] = await visitor.waitFor(id, async () => {
      const found = await visitor.driver.findElements(By.xpath(`//aside//button[starts-with(., '${id}')]`));
      return found.length > 0 && found;
    });
    await button!.click();
  };

  test('codes are looked up, quotas by other names are matched, and the first figure is right', async () => {
    await open(
      file('orders.csv', orders('rep').join('\n')),
      file('products.csv', 'code,family\nP1,Keys\nP2,Brass\n'),
      file('quotas.csv', 'Rep,Jan 2026,Feb 2026,Mar 2026,Total 2026\nN. Ohara,8,9,3,20\n"Vale, Ines",15,20,1,36\n'),
    );
    await reads(
      'products has one row for each code: its family can be looked up here; 1 row of orders would find none.',
    );
    await visitor.press('Look it up');
    await reads('family from products');
    await visitor.press('looks up in products');
    await reads('1 row, with 5 in net, finds nothing');
    await visitor.control('z');
    await reads('looks nothing up');
    await visitor.control('z', 'shift');
    await reads('looks up in products');
    await table('quotas');
    await reads('2 left out');
    await visitor.press('against orders, 2 names unmatched');
    await reads('2 names of quotas are not in orders.');
    await visitor.press('Accept all 2');
    await reads('2 names of Rep are read as another');
    await visitor.waitFor('all names to be matched', async () => !(await visitor.text()).includes('unmatched'));
    await table('orders');
    await visitor.press('5 columns');
    await visitor.press('rep');
    await reads('1 name may be another one of rep.');
    await visitor.press('Read ines vale as Ines Vale');
    await visitor.waitFor('the names to be one', async () => !(await visitor.text()).includes('may be another one'));
    await visitor.press('To its first figure');
    await reads('net by rep during year to date against quotas as bullet');
    await reads('none of 2 behind');
  });

  test('a month arrives: its rows are added, a column of another name is found, and figures are shown before and after', async () => {
    await visitor.keys('1');
    await table('orders');
    await reads('Newer file');
    const newer = file(
      'february.csv',
      orders('Sales rep', '2026-02-10,P1,Ines Vale,7')
        .map((line) => line.replace(',20', ',21'))
        .join('\n'),
    );
    const inputs = await visitor.driver.findElements(By.css('main > div input[type=file]'));
    await inputs.at(-1)!.sendKeys(newer);
    await reads('the benchmark quotas, the figure “"net" by "rep" during year to date against "quotas" as bullet”');
    await label('Replace the current rows');
    await reads('If you take the rows of february.csv');
    const called = await element('select[aria-label="What rep is called there"]');
    expect(await called.getAttribute('value')).toBe('Sales rep');
    await called.findElement(By.css('option[value=""]')).click();
    await reads('there is no field “rep” — did you mean “Sales rep”?');
    await (await element('select[aria-label="What rep is called there"] option[value="Sales rep"]')).click();
    await reads('Add to the current rows');
    await label('Add to the current rows');
    await reads('3 days are in both, from 2026-01-05 to 2026-02-03 (3 rows there, 3 newer)');
    await reads('net in 2026-01 from 30 to 31');
    await visitor.press('Accept');
    await reads('4 rows from orders (put together).csv');
    await visitor.press('Close');
    await visitor.press('5 columns');
    await visitor.press('rep');
    const name = await element('section[aria-label="Column rep"] input');
    await name.sendKeys(Key.END, ' of sales', Key.ENTER);
    await reads('rep of sales text');
    const heading = await element('[aria-label="Name of the table"]');
    await heading.sendKeys(Key.chord(Key.CONTROL, 'a'), 'all orders', Key.ENTER);
    await reads('all orders 4 rows · orders (put together).csv');
    await visitor.driver.navigate().refresh();
    await reads('all orders 4 rows · orders (put together).csv');
    await visitor.press('Undo: rename the table orders');
    await reads('orders 4 rows · orders (put together).csv');
    await visitor.press('Redo: rename the table orders');
    await reads('all orders 4 rows · orders (put together).csv');
    await visitor.keys('3');
    await reads('net by rep of sales during year to date');
    await visitor.control('z');
    await reads('saved in this browser');
    await visitor.control('z');
    await reads('net by rep during year to date');
  });
});
