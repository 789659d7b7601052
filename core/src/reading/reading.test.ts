import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Problem } from '../problem';
import { cellText, columnOf, inOrder, makeTable, profileTable, type ColumnWish } from '../table';
import { fileOf, readCsv, readCsvFile, type SourceFile } from '.';
import { tries } from '../proof/tries.fixture';

async function read(text: string, wishes: ColumnWish[] = []) {
  return makeTable(await readCsv('sales.csv', text, wishes), { id: 'sales', columns: wishes });
}
const csv = (...lines: string[]) => lines.join('\n');
/** Kind and written values of a column. */
async function column(lines: string[], wish: Omit<ColumnWish, 'name'> = {}) {
  const table = await read(csv('x;y', ...lines.map((line) => `"${line}";1`)), [{ name: 'x', ...wish }]);
  const x = columnOf(table, 'x')!;
  return [x.kind, ...lines.map((_, i) => cellText(x, i))];
}

describe('the kind of a column is decided by all its rows', () => {
  test('numbers with a point, with a comma, grouped, with money, in parentheses, behind a minus', async () => {
    expect(await column(['1', '2.5', '-3'])).toEqual(['number', '1.0', '2.5', '-3.0']);
    expect(await column(['1.234,50', '7', '-0,25'])).toEqual(['number', '1234.50', '7.00', '-0.25']);
    expect(await column(['1,234.5', '2', '(1,000)'])).toEqual(['number', '1234.5', '2.0', '-1000.0']);
    expect(await column(['€ 12', '12 EUR', '$1.50', '5-'])).toEqual(['number', '12.00', '12.00', '1.50', '-5.00']);
    expect(await column(["1'234", '1 234,5', '1 000'])).toEqual(['number', '1234.0', '1234.5', '1000.0']);
    expect(await column(['12 %', '7.5%', '100%'])).toEqual(['number', '0.120', '0.075', '1.000']);
  });
  test('what says “no value” is blank, and blank is not zero', async () => {
    expect(await column(['1', 'n/a', '–', '', '0'])).toEqual(['number', '1', '', '', '', '0']);
  });
  test('codes with leading zeros stay text', async () => {
    expect(await column(['007', '042', '100'])).toEqual(['text', '007', '042', '100']);
  });
  test('the order of day and month follows from the one date that settles it', async () => {
    expect(await column(['03/04/2025', '05/06/2025', '25/12/2025'])).toEqual([
      'date',
      '2025-04-03',
      '2025-06-05',
      '2025-12-25',
    ]);
    expect(await column(['03/04/2025', '05/06/2025', '12/25/2025'])).toEqual([
      'date',
      '2025-03-04',
      '2025-05-06',
      '2025-12-25',
    ]);
  });
  test('dates by name, by month, with time', async () => {
    expect(await column(['3 Mar 2025', '14 April 2025'])).toEqual(['date', '2025-03-03', '2025-04-14']);
    expect(await column(['2025-03', '2025-04'])).toEqual(['date', '2025-03', '2025-04']);
    expect(await column(['2025-03-01T23:59:59Z', '2025-03-02 00:00'])).toEqual(['date', '2025-03-01', '2025-03-02']);
  });
  test('numbers by their letter, and in lakhs', async () => {
    expect(await column(['1.5K', '2M', '€1.25B', '3'])).toEqual(['number', '1500', '2000000', '1250000000', '3']);
    expect(await column(['12,34,567', '1,00,000.5', '7'])).toEqual(['number', '1234567.0', '100000.5', '7.0']);
    expect(await column(['S', '2B', '7M', 'XL', 'L'])).toEqual(['text', 'S', '2B', '7M', 'XL', 'L']);
  });
  test('dates with two digits of a year, with its apostrophe, and periods as people write them', async () => {
    expect(await column(['01-31-24', '02-01-24'])).toEqual(['date', '2024-01-31', '2024-02-01']);
    expect(await column(["31 Jan '24", "1 Feb '24"])).toEqual(['date', '2024-01-31', '2024-02-01']);
    expect(await column(['2024M11', '2024M2'])).toEqual(['date', '2024-11', '2024-02']);
    for (const [first, second] of [
      ["Q1'26", "Q4'25"],
      ['1Q26', '4Q25'],
      ['FY26 Q1', 'FY2025-Q4'],
      ['Q1 FY26', 'Q4 FY25'],
      ['2026-Q1', '2025 Q4'],
    ] as const)
      expect(await column([first, second])).toEqual(['date', '2026-Q1', '2025-Q4']);
    expect(await column(['FY26', 'FY2025'])).toEqual(['date', '2026', '2025']);
  });
  test('yes and no', async () => expect(await column(['yes', 'No', 'TRUE'])).toEqual(['yesno', 'yes', 'no', 'yes']));
  test('a kind that is asked for is kept, whatever the rows hold', async () => {
    expect(await column(['1', '2', '3'], { type: 'text' })).toEqual(['text', '1', '2', '3']);
    expect(await column(['1', 'two', '3'], { type: 'number' })).toEqual(['number', '1', '', '3']);
    expect(await column(['03/04/2025'], { type: 'date', read: 'MM/dd/yyyy' })).toEqual(['date', '2025-03-04']);
  });
  test('a column that looks like numbers for thousands of rows and is text afterwards is text', async () => {
    const lines = [
      ...Array.from({ length: 40_000 }, (_, i) => String(i)),
      ...Array.from({ length: 20_000 }, (_, i) => `code ${i}`),
    ];
    const table = await read(csv('x,y', ...lines.map((x) => `${x},1`)));
    expect(columnOf(table, 'x')!.kind).toBe('text');
    expect(cellText(columnOf(table, 'x')!, 7)).toBe('7');
    expect(table.leftOut).toEqual([]);
  });
  test('a decimal comma that shows only far down is read as one from the first row', async () => {
    const lines = [...Array.from({ length: 30_000 }, () => '1.000'), ...Array.from({ length: 3000 }, () => '2,5')];
    const table = await read(csv('x;y', ...lines.map((x) => `${x};1`)));
    expect(cellText(columnOf(table, 'x')!, 0)).toBe('1000.0');
  });
});

describe('nothing is dropped in silence', () => {
  test('a cell that cannot be read is kept with its line and its text', async () => {
    const table = await read(
      csv(
        'day,net',
        '2025-01-01,1',
        '',
        '2025-01-02,oops',
        '2025-01-03,3',
        '2025-01-04,4',
        '2025-01-05,5',
        '2025-01-06,6',
      ),
    );
    expect(table.rows).toBe(6);
    expect(table.leftOut).toEqual([{ row: 4, column: 'net', raw: 'oops', reason: 'not a number' }]);
  });
  test('a cell that no column names is kept, too; a short row is filled with blanks', async () => {
    const table = await read(csv('a,b', '1,2,3', '4'));
    expect(table.leftOut).toEqual([{ row: 2, column: null, raw: '3', reason: 'more cells than the header names' }]);
    expect(cellText(columnOf(table, 'b')!, 1)).toBe('');
  });
  test('a name with the word total in it is no totals row, unless what it totals is known', async () => {
    const totals = async (...shops: string[]) =>
      profileTable(await read(csv('shop;net', ...shops.map((shop, i) => `${shop};${i + 1}`))), 'f').totalsRows;
    expect(await totals('Alder', 'Total Strings Ltd', 'Sum 41', 'Totally Brass', 'Birch', 'Cedar', 'Dune')).toEqual([]);
    expect(await totals('Alder', 'Birch', 'Cedar', 'Dune', 'Elm', 'Alder total', 'Grand total')).toEqual([7, 8]);
    expect(await totals('Alder', 'Birch', 'Cedar', 'Dune', 'Elm', 'Total 2025', 'Total:')).toEqual([7, 8]);
  });
  test('rows that look like totals are pointed at', async () => {
    const table = await read(csv('shop,net', 'Nord,1', 'Süd,2', 'Total,3'));
    expect(profileTable(table, 'x').totalsRows).toEqual([4]);
  });
});

test('quotes, commas and line ends inside cells, repeated and empty names', async () => {
  const table = await read('a,a,\r\n"x, ""y""","line\r\nend",1\r\n');
  expect(table.columns.map(({ name }) => name)).toEqual(['a', 'a (2)', 'column 3']);
  expect([0, 1].map((c) => cellText(table.columns[c]!, 0))).toEqual(['x, "y"', 'line\r\nend']);
});

test('sums of decimal numbers are exact', async () => {
  const table = await read(csv('net', ...Array.from({ length: 1000 }, () => '0.1'), '0.2'));
  expect(profileTable(table, 'x').columns[0]!.sum).toBe(100.2);
});

test('a file without rows and a wrong column name are clear errors', async () => {
  await expect(read('')).rejects.toThrow(/no rows/);
  const raw = await readCsv('x', csv('day,net', '2025-01-01,1'));
  expect(() => makeTable(raw, { id: 'x', date: 'dya' })).toThrow(/no column “dya” — did you mean “day”/);
  expect(() => makeTable(raw, { id: 'x', date: 'net' })).toThrow(Problem);
});

/** A file whose bytes come in pieces that end anywhere. */
function inPieces(bytes: Uint8Array, cuts: readonly number[]): SourceFile {
  const places = [0, ...cuts.map((cut) => cut % (bytes.length + 1)).sort((x, y) => x - y), bytes.length];
  return {
    ...fileOf('x', bytes),
    async *stream() {
      for (let i = 1; i < places.length; i++) yield bytes.subarray(places[i - 1], places[i]);
    },
  };
}

test('wherever a source cuts the bytes, the table is the same', async () => {
  const cell = fc.oneof(
    fc.constantFrom('', '1', '2.50', '2025-01-02', 'Nörd', 'a,b', 'say "x"', 'two\nlines', 'n/a', '1.234,5'),
    fc.string({ maxLength: 6 }),
  );
  const rows = fc.array(fc.array(cell, { minLength: 3, maxLength: 3 }), { minLength: 1, maxLength: 12 });
  await fc.assert(
    fc.asyncProperty(rows, fc.array(fc.nat(200), { maxLength: 6 }), async (data, cuts) => {
      const quoted = (value: string) => `"${value.replaceAll('"', '""')}"`;
      const bytes = new TextEncoder().encode(csv('a,b,c', ...data.map((row) => row.map(quoted).join(','))));
      expect(await readCsvFile(inPieces(bytes, cuts))).toEqual(await readCsvFile(fileOf('x', bytes)));
    }),
    { numRuns: tries(150) },
  );
});

test('members come in their natural order: months of the fiscal year, weekdays, numbered names; a declared order first', () => {
  const school = { fiscalYearStart: 9, weekStart: 'monday' } as const;
  expect(inOrder(['Jan', 'Sep', 'Dec', 'Aug'], undefined, school)).toEqual(['Sep', 'Dec', 'Jan', 'Aug']);
  expect(inOrder(['Sunday', 'Monday', 'Friday'], undefined, school)).toEqual(['Monday', 'Friday', 'Sunday']);
  expect(inOrder(['Shop 10', 'Shop 9', 'shop 1'], undefined, school)).toEqual(['shop 1', 'Shop 9', 'Shop 10']);
  expect(inOrder(['Full', 'Small', 'Half', 'Odd'], ['Small', 'Half', 'Full'], school)).toEqual([
    'Small',
    'Half',
    'Full',
    'Odd',
  ]);
});

test('a file in memory is read in pieces, too, and a table that is longer than one is whole', async () => {
  const lines = Array.from({ length: 200_000 }, (_, i) => `2025-01-02,shop ${i % 7},${i}`);
  const file = fileOf('long.csv', new TextEncoder().encode(['day,shop,net', ...lines].join('\n')));
  let [size, longest] = [0, 0];
  for await (const piece of file.stream()) {
    size += piece.length;
    longest = Math.max(longest, piece.length);
  }
  expect(size).toBe(file.size);
  expect(longest).toBeLessThanOrEqual(1 << 20);
  expect((await readCsvFile(file)).rows).toBe(200_000);
});

test('one letter in every row is a letter; beside its other, or written out, it says yes or no', async () => {
  const kindOf = async (...cells: string[]) => {
    const { columns } = await read(csv('shop,is', ...cells.map((cell, i) => `${i},${cell}`)));
    return columns.find(({ name }) => name === 'is')!.kind;
  };
  expect(await kindOf('F', 'F', '', 'f')).toBe('text');
  expect(await kindOf('Y', 'Y')).toBe('text');
  expect(await kindOf('F', 'T', '')).toBe('yesno');
  expect(await kindOf('no', 'no')).toBe('yesno');
  expect(await kindOf('no', 'n')).toBe('yesno');
});
