import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { cellText, columnOf, lineOf, type RawTable } from '../table';
import { fileOf } from './file';
import { rawCsvRows, readCsv } from './readCsv';
import { tries } from '../proof/tries.fixture';

const shop = (rows: number, text: (row: number) => string) =>
  ['day,item,net', ...Array.from({ length: rows }, (_, i) => `2025-01-0${(i % 9) + 1},${text(i)},${i}`)].join('\n');

const told = ({ told = [] }: RawTable, what: string) => told.find((one) => one.what === what);

describe('a quote that encloses no cell loses no row', () => {
  test.each([
    ['never closed', '"Rack 19 inch'],
    ['with text behind the closing one', '"Big" Corp'],
    ['doubled at its end', '"Rack 19""'],
  ])('%s', async (_, cell) => {
    const raw = await readCsv(
      'x.csv',
      shop(1000, (row) => (row === 500 ? cell : `item ${row % 7}`)),
    );
    expect(raw.rows).toBe(1000);
    expect(cellText(columnOf(raw as never, 'item')!, 500)).toBe(cell);
    expect(cellText(columnOf(raw as never, 'net')!, 999)).toBe('999');
    expect(told(raw, 'stray quote')).toEqual({ what: 'stray quote', count: 1, first: [{ line: 502, raw: cell }] });
  });

  test('two of them, between which whole rows lie', async () => {
    const raw = await readCsv(
      'x.csv',
      shop(1000, (row) => (row === 300 ? '"Rack 19' : row === 700 ? '4"' : 'plain')),
    );
    expect(raw.rows).toBe(1000);
    expect(told(raw, 'stray quote')!.first).toEqual([{ line: 302, raw: '"Rack 19' }]);
  });

  test('far down, in a file of many pieces, and each line can be read again', async () => {
    const text = shop(60_000, (row) =>
      row % 9000 === 8999 ? '"Rack 19 inch' : row % 9000 === 40 ? '"a\nb"' : `item ${row}`,
    );
    const raw = await readCsv('x.csv', text);
    expect(raw.rows).toBe(60_000);
    expect(raw.breaks).toBe(7);
    expect(told(raw, 'stray quote')!.count).toBe(6);
    const file = fileOf('x.csv', new TextEncoder().encode(text));
    for (const { line } of told(raw, 'stray quote')!.first) {
      const rows = await rawCsvRows(file, raw.marks!, [line]);
      expect(rows.get(line)![1]).toBe('"Rack 19 inch');
      expect(rows.get(line)![2]).toBe(String(line - 2));
    }
  });
});

test.each([
  ['an address', ['id,address,net', '1,"Mill Lane 5, Larkmoor\nFenwick, Tarn",7', '2,plain,8'], 2],
  ['of four lines', ['id,address,net', '1,"a, b\nc,d, e\nf, g, h\ni, j",7', '2,plain,8'], 2],
])('%s that looks like rows is one cell, and is told', async (_, lines, line) => {
  const raw = await readCsv('x.csv', lines.join('\n'));
  expect(raw.rows).toBe(2);
  expect(raw.columns.find(({ name }) => name === 'net')!.blank).toBe(0);
  expect(told(raw, 'stray quote')).toBeUndefined();
  expect(told(raw, 'many lines')).toMatchObject({ count: 1, first: [{ line }] });
});

test('a quote reaches over a million characters and no further', async () => {
  const reach = 1 << 20;
  for (const [length, isOne] of [
    [reach - 1, true],
    [reach, false],
  ] as const) {
    const cell = `"${'x'.repeat(length)}"`;
    const raw = await readCsv('x.csv', ['id,note', `1,${cell}`, '2,plain'].join('\n'));
    expect(cellText(columnOf(raw as never, 'note')!, 0)).toBe(isOne ? cell.slice(1, -1) : cell);
    expect(told(raw, 'stray quote')?.count).toBe(isOne ? undefined : 1);
    expect(raw.rows).toBe(2);
  }
});

test('a cell of many lines stays one cell, and is told', async () => {
  const note = `"${Array.from({ length: 30 }, (_, i) => `line ${i}`).join('\n')}"`;
  const raw = await readCsv(
    'x.csv',
    shop(50, (row) => (row === 20 ? note : 'plain')),
  );
  expect(raw.rows).toBe(50);
  expect(told(raw, 'many lines')).toMatchObject({ count: 1, first: [{ line: 22 }] });
  expect(told(raw, 'stray quote')).toBeUndefined();
});

/** Rows that are kept, lines that are blank, titles, the header, and breaks in cells. */
function accounted(raw: RawTable): number {
  const titles = raw.leftOutCounts.reduce(
    (sum, { reason, count }) => sum + (reason.startsWith('a title') ? count : 0),
    0,
  );
  return raw.rows + raw.emptyLines + titles + 1 + (raw.breaks ?? 0);
}

const linesOf = (text: string, newline: string) => text.split(newline).length - (text.endsWith(newline) ? 1 : 0);

test('whatever stands in it: rows read, left out and blank are the lines of the file', () =>
  fc.assert(
    fc.asyncProperty(
      fc.array(fc.constantFrom('"', '""', ',', ',', '\n', '\n', 'a', 'b ', ' ', '7', '2025-01-02'), {
        minLength: 1,
        maxLength: 60,
      }),
      fc.constantFrom('\n', '\r\n'),
      fc.nat(4),
      async (pieces, newline, rows) => {
        const some = Array.from({ length: rows }, (_, i) => `A,B${i},1\n`).join('');
        const text = `one,two,three\n${some}${pieces.join('')}`.replaceAll('\n', newline);
        const raw = await readCsv('x.csv', text);
        expect(accounted(raw)).toBe(linesOf(text, newline));
      },
    ),
    { numRuns: tries(500) },
  ));

/** Rows as texts. */
const rowsOf = (raw: RawTable) =>
  Array.from({ length: raw.rows }, (_, row) => raw.columns.map((column) => cellText(column, row)));

test('lines end in CR, LF or both, in one file too: the rows are those of a file that ends them in one way', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.tuple(fc.constantFrom('\n', '\r\n', '\r'), fc.constantFrom('plain', '"a, b"', '"two\nlines"', 'é')), {
        minLength: 1,
        maxLength: 40,
      }),
      fc.constantFrom('\n', '\r\n', '\r'),
      fc.boolean(),
      async (lines, first, isEnded) => {
        const texts = lines.map(([, note], row) => `2025-01-${String((row % 28) + 1).padStart(2, '0')},${note},${row}`);
        const mixed = `day,note,net${first}${lines.map(([end], row) => `${texts[row]}${row === lines.length - 1 && !isEnded ? '' : end}`).join('')}`;
        const raw = await readCsv('x.csv', mixed);
        expect(rowsOf(raw)).toEqual(rowsOf(await readCsv('x.csv', ['day,note,net', ...texts].join('\n'))));
        expect(accounted(raw) - (raw.breaks ?? 0)).toBe(lines.length + 1);
      },
    ),
    { numRuns: tries(200) },
  );
});

test.each([
  ['\r\n', '\n'],
  ['\n', '\r\n'],
  ['\n', '\r'],
  ['\r\n', '\r'],
  ['\r', '\n'],
])(
  'a large file that ends lines in %j, to which rows are added that end in %j, has them all, each on its line',
  async (most, added) => {
    const row = (i: number) => `2025-01-0${(i % 9) + 1},shop ${i % 7},${i}`;
    const lines = Array.from({ length: 30_000 }, (_, i) => row(i));
    const text = `day,shop,net${most}${lines.slice(0, 29_985).join(most)}${most}${lines.slice(29_985).join(added)}`;
    const raw = await readCsv('x.csv', text);
    expect(raw.rows).toBe(30_000);
    expect(raw.columns.map(({ kind }) => kind)).toEqual(['date', 'text', 'number']);
    for (const i of [0, 15_000, 29_984, 29_985, 29_999]) expect(rowsOf(raw)[i]!.join()).toBe(row(i));
    const file = fileOf('x.csv', new TextEncoder().encode(text));
    const asked = [2, 15_002, 29_986, 29_987, 30_001];
    const found = await rawCsvRows(file, raw.marks!, asked);
    expect(asked.map((line) => found.get(line)?.join())).toEqual(asked.map((line) => row(line - 2)));
  },
);

test('what is written with its quotes is read as it was', () =>
  fc.assert(
    fc.asyncProperty(
      fc.array(fc.tuple(...Array.from({ length: 3 }, () => fc.stringMatching(/^[a-c"\n ;]{0,8}[a-c]$/))), {
        minLength: 1,
        maxLength: 30,
      }),
      async (rows) => {
        const quoted = (cell: string) => `"${cell.replaceAll('"', '""')}"`;
        const text = ['one,two,three', ...rows.map((row) => row.map(quoted).join(','))].join('\n');
        const raw = await readCsv('x.csv', text, [
          { name: 'one', type: 'text' },
          { name: 'two', type: 'text' },
          { name: 'three', type: 'text' },
        ]);
        expect(raw.rows).toBe(rows.length);
        expect(told(raw, 'stray quote')).toBeUndefined();
        rows.forEach((row, r) => {
          expect(raw.columns.map((column) => cellText(column, r))).toEqual(row.map((cell) => cell.trim()));
          expect(lineOf(r, raw)).toBe(r + 2);
        });
      },
    ),
    { numRuns: tries(100) },
  ));
