import fc from 'fast-check';
import { parquetWriteBuffer } from 'hyparquet-writer';
import { describe, expect, test } from 'vitest';
import { Problem } from '../problem';
import { cellText, makeTable, profileTable } from '../table';
import { fileOf, readCsvFile, readFile, readJson, readParquet, readXlsx, type SourceFile } from '.';
import { STYLE, workbook } from './workbook.fixture';
import { tries } from '../proof/tries.fixture';

/** Strings each reader is thrown at. */
const STRINGS = tries(600);

const utf8 = (text: string) => new TextEncoder().encode(text);

const SHEETS = [
  {
    name: 'A',
    rows: [
      ['day', 'x'],
      [{ v: 45717, s: STYLE.date }, 1.5],
      [{ v: 45718, s: STYLE.percent }, 'x'],
    ],
    merged: ['A2:A3'],
  },
];

function sheetXml(): Uint8Array {
  let sheet = new Uint8Array();
  workbook(SHEETS, { sheetBytes: (xml) => (sheet = new Uint8Array(xml)) });
  return sheet;
}

const SOUND = {
  text: utf8('day;shop;net\n2025-01-02;"No""rd";1.234,50\n03/04/2025;Süd;(2)\n\nTotal;;3,5\n'),
  json: utf8('[{"a":1.5,"b":{"c":"x\\"]"}},\n{"a":null,"d":[1,{"e":2}]}, {"b":{"c":"Ö"}}]\n'),
  workbook: workbook(SHEETS),
  sheet: sheetXml(),
  parquet: new Uint8Array(
    parquetWriteBuffer({
      columnData: [
        { name: 'n', data: [1n, 2n, 3n], type: 'INT64' },
        { name: 's', data: ['x', 'y', null], type: 'STRING' },
        { name: 'd', data: [1.5, 2, 3], type: 'DOUBLE' },
      ],
    }),
  ),
};

const SCRAPS = [
  '"',
  '""',
  '\n',
  '\r',
  ',',
  ';',
  '\t',
  '[',
  ']',
  '{',
  '}',
  ':',
  '\\',
  '\\u00',
  'null',
  '1e999',
  '-',
  '\uFEFF',
  '\u0000',
  '9'.repeat(40),
  '</row>',
  '<c r="ZZZ9">',
  '&amp;',
  '&#0;',
  '<!DOCTYPE x [<!ENTITY y "z">]>',
].map(utf8);

/** Bytes that are almost a sound file, or none at all. */
const bytesLike = (sound: Uint8Array) => {
  const change = fc.record({
    at: fc.double({ min: 0, max: 1, noNaN: true }),
    what: fc.oneof(
      fc.record({ put: fc.constantFrom(...SCRAPS), cut: fc.nat(3) }),
      fc.record({ put: fc.uint8Array({ maxLength: 4 }), cut: fc.nat(12) }),
      fc.record({ put: fc.constant(new Uint8Array()), cut: fc.nat(sound.length) }),
    ),
  });
  const damaged = fc.array(change, { maxLength: 6 }).map((changes) =>
    changes.reduce((bytes, { at, what: { put, cut } }) => {
      const from = Math.floor(at * bytes.length);
      const made = new Uint8Array(from + put.length + Math.max(0, bytes.length - from - cut));
      made.set(bytes.subarray(0, from));
      made.set(put, from);
      made.set(bytes.subarray(from + cut), from + put.length);
      return made;
    }, sound),
  );
  return fc.oneof({ weight: 8, arbitrary: damaged }, { weight: 2, arbitrary: fc.uint8Array({ maxLength: 200 }) });
};

/** A table, in which everything can be looked at, or a problem in words. */
async function mustAnswer(read: (file: SourceFile) => ReturnType<typeof readFile>, bytes: Uint8Array): Promise<void> {
  try {
    const table = makeTable(await read(fileOf('x', bytes)), { id: 'x' });
    profileTable(table, 'x');
    for (const column of table.columns) if (table.rows > 0) cellText(column, table.rows - 1);
  } catch (error) {
    expect(error).toBeInstanceOf(Problem);
    expect((error as Problem).message.length).toBeLessThan(600);
  }
}

describe('whatever bytes a reader is given, it answers with a table or a problem', () => {
  test.each<[string, (file: SourceFile) => ReturnType<typeof readFile>, Uint8Array]>([
    ['delimited text', (file) => readCsvFile(file), SOUND.text],
    ['JSON', (file) => readJson(file, undefined), SOUND.json],
    ['workbooks', (file) => readXlsx(file, { limit: 1e7 }), SOUND.workbook],
    [
      'workbooks whose sheets are damaged before they are packed',
      async (file) => {
        const xml = await file.slice(0, file.size);
        return readXlsx(fileOf('x', workbook(SHEETS, { sheetBytes: () => xml })), { limit: 1e7 });
      },
      SOUND.sheet,
    ],
    ['Parquet', (file) => readParquet(file, [], undefined, 1e8), SOUND.parquet],
    ['all kinds, with their shapes', (file) => readFile(file, { leaveOut: ['totals', 'notes'] }), SOUND.text],
  ])('%s', async (_, read, sound) => {
    await fc.assert(
      fc.asyncProperty(bytesLike(sound), (bytes) => mustAnswer(read, bytes)),
      { numRuns: STRINGS },
    );
  });
});

test('each bit of a workbook that is turned over is found, or gives the same table', async () => {
  const read = async (bytes: Uint8Array) => {
    const { marks: _, ...table } = await readXlsx(fileOf('x', bytes), { limit: 1e7 });
    return JSON.stringify(table);
  };
  const sound = await read(SOUND.workbook);
  let found = 0;
  for (let at = 0; at < SOUND.workbook.length; at++) {
    const bytes = SOUND.workbook.slice();
    bytes[at]! ^= 1 << (at % 8);
    try {
      expect(await read(bytes), `byte ${at}`).toBe(sound);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      found++;
    }
  }
  expect(found).toBeGreaterThan(SOUND.workbook.length / 3);
});
