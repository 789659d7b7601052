import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, test } from 'vitest';
import { tries } from '../proof/tries.fixture';
import { fileOf, readCsvFile } from '.';
import type { Row } from './cell';
import { rowsOfCells, Splitter } from './cells';
import { rowsUnderHeader } from './grid';
import { rawCsvRows } from './readCsv';
import { Pending } from './pending';
import { readRows } from './readRows';

// Plain delimited text is taken apart without cutting it into texts. Whatever is in it, the table is the one that comes of texts.

function pendingOf(text: string): Pending {
  const pending = new Pending();
  const bytes = new TextEncoder().encode(text);
  const ascii = bytes.length === text.length ? bytes : null;
  pending.add({ text, length: text.length, bytes: bytes.length, ascii }, 0, text.length);
  return pending;
}
const split = (text: string, delimiter = ',', newline = '\n', width = 3) =>
  Splitter.for({ delimiter, newline, width })!.split(pendingOf(text));

describe('a piece of text', () => {
  test('is taken apart as far as its rows are whole', () => {
    const found = split('a,"b, c",3\nd,,\nx€,🎺,\n7,8', ',')!;
    expect(rowsOfCells(found.cells)).toEqual([
      ['a', 'b, c', '3'],
      ['d', '', ''],
      ['x€', '🎺', ''],
    ]);
    expect([found.length, found.bytes]).toEqual([22, 26]);
    expect(rowsOfCells(split('a;b;"c"\r\n1;\r2;3\r\n4', ';', '\r\n')!.cells)).toEqual([
      ['a', 'b', 'c'],
      ['1', '\r2', '3'],
    ]);
    expect(split('a,b', ',')).toBeNull();
  });
  test('is left to others where it is not plain', () => {
    const hard = ['a,b"c,d', 'a,"b""c",d', 'a,"b"c,d', 'a,"b\nc",d', 'a,b', 'a,b,c,d', '', ' ,,', '\u00a0,\u2003,'];
    for (const line of hard) expect([line, split(`1,2,3\n${line}\n4,5,6\n`)]).toEqual([line, null]);
    expect(Splitter.for({ delimiter: '||', newline: '\n', width: 3 })).toBeNull();
    expect(Splitter.for({ delimiter: ',', newline: '\n', width: 1 })).toBeNull();
  });
});

const CELLS = {
  number: [
    '0',
    '-1',
    '12.5',
    '1568.54',
    '0.125',
    '.5',
    '',
    'n/a',
    '1,234',
    '€ 7',
    '(3)',
    '12%',
    '123456789012345678',
    '-',
    '7.',
  ],
  odd: ['1.234,5', '-0,5', '', '12', '1.000', '7,25'],
  text: [
    'Brass',
    ' Brass',
    'Brass ',
    '',
    'Ömer & Söhne',
    '大阪',
    '🎺 Fanfare',
    'constructor',
    'a name that is longer than sixteen bytes',
    'x',
  ],
  date: ['2025-03-01', '2024-02-29', '', '1 Mar 2025', '2025-3-1', 'tomorrow', '2025-03-01 '],
  code: ['007', '42', '0', '00'],
  yesno: ['yes', 'no', '', 'Y'],
};
const KINDS = ['number', 'odd', 'text', 'date', 'code', 'yesno', 'many'] as const;

/** Text of many rows that follows from a seed. */
function textFrom(
  seed: number,
  kinds: readonly (typeof KINDS)[number][],
  delimiter: string,
  newline: string,
  strange: number,
) {
  let state = seed >>> 0;
  const next = (below: number) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 4_294_967_296) * below);
  };
  const cell = (kind: (typeof KINDS)[number]): string => {
    // Plain ones at first, so that a column is of a kind; strange ones then, here and there.
    if (kind === 'many') return `order ${next(1 << 20)}`;
    const list = CELLS[kind];
    const value = list[next(1000) < strange ? next(list.length) : next(4)]!;
    return value.includes(delimiter) ? `"${value}"` : value;
  };
  const rows: string[] = [];
  for (let length = 0; length < 700_000; length += rows[rows.length - 1]!.length) {
    const row = kinds.map(cell);
    const oddity = strange === 0 ? 99_999 : next(20_000);
    if (oddity === 1) row.push('more');
    if (oddity === 2) row[0] = '"with ""quotes"""';
    if (oddity === 3) row[0] = `"two${newline}lines"`;
    rows.push(oddity === 4 ? '' : row.join(delimiter));
  }
  return [kinds.map((kind, i) => `${kind} ${i}`).join(delimiter), ...rows].join(newline);
}

test('what is read without cutting is what is read from texts', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.nat(),
      fc.array(fc.constantFrom(...KINDS), { minLength: 2, maxLength: 6 }),
      fc.constantFrom(',', ';', '\t'),
      fc.constantFrom('\n', '\r\n'),
      fc.constantFrom(0, 3, 300),
      async (seed, kinds, delimiter, newline, strange) => {
        const text = textFrom(seed, kinds, delimiter, newline, strange);
        const { data } = Papa.parse<string[]>(text, { delimiter, newline });
        const asTexts = await readRows('it', (aside) =>
          rowsUnderHeader(
            (async function* () {
              yield { rows: data as Row[], firstLine: 1 };
            })(),
            aside,
          ),
        );
        const read = await readCsvFile(fileOf('it', new TextEncoder().encode(text)), [], undefined, { delimiter });
        expect(read.rows).toBe(asTexts.rows);
        expect(read.columns).toEqual(asTexts.columns);
        // In which order they are met depends on the pieces.
        const sorted = (list: readonly unknown[]) => list.map((one) => JSON.stringify(one)).sort();
        expect(sorted(read.leftOutCounts)).toEqual(sorted(asTexts.leftOutCounts));
        expect(sorted(read.leftOut)).toEqual(sorted(asTexts.leftOut));
        expect(read.emptyLines).toBe(asTexts.emptyLines);
        expect(read.skipped).toEqual(asTexts.skipped);
        if (delimiter !== ',') expect(read.doubts).toEqual(asTexts.doubts);
      },
    ),
    { numRuns: tries(8) },
  );
});

test('rows with little in them come as the file does, not all at its end', async () => {
  const total = 400_000;
  const row = `1${','.repeat(11)}\n`;
  const text = `${Array.from({ length: 12 }, (_, i) => `c${i}`).join(',')}\n${row.repeat(total)}`;
  let behind = 0;
  const read = await readCsvFile(fileOf('it', new TextEncoder().encode(text)), [], (rows, share) => {
    behind = Math.max(behind, share! - rows / total);
  });
  expect(read.rows).toBe(total);
  // A piece of a megabyte is told as read while its rows are taken.
  expect(behind).toBeLessThan(0.3);
});

test('a mark that begins files is a letter within one, wherever the source cuts', async () => {
  const text = `a,b\n${'1,x\n'.repeat(262_143)}2,\uFEFFy\n`;
  const at = text.indexOf('\uFEFF');
  const bytes = new TextEncoder().encode(text);
  const file = {
    ...fileOf('it', bytes),
    async *stream() {
      yield bytes.subarray(0, at);
      yield bytes.subarray(at);
    },
  };
  const { marks } = await readCsvFile(file);
  const found = await rawCsvRows(file, marks!, [2, 262_145]);
  expect([...found]).toEqual([
    [2, ['1', 'x']],
    [262_145, ['2', '\uFEFFy']],
  ]);
});
