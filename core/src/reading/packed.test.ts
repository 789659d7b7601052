import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { parquetWriteBuffer } from 'hyparquet-writer';
import { describe, expect, test } from 'vitest';
import { fileOf, sheetsOf } from '.';
import { left, table, typed } from './read.fixture';
import { xlsxSheets } from './readXlsx';
import { STYLE, workbook, type MadeSheet } from './workbook.fixture';

// What is read of workbooks and Parquet, whatever they hold, and what is refused.

describe('workbooks', () => {
  const book = (rows: MadeSheet['rows'], more: Partial<MadeSheet> = {}) => workbook([{ name: 'Sales', rows, ...more }]);
  test('real dates, percentages and texts of every kind', async () => {
    const rows: MadeSheet['rows'] = [
      ['day', 'booked', 'share', 'shop', 'ok', 'net'],
      [
        { v: 45717, s: STYLE.date },
        { v: 45717.75, s: STYLE.dayFirst },
        { v: 0.125, s: STYLE.percent },
        'N & "Ö"',
        true,
        1.5,
      ],
      [
        { v: 45718, s: STYLE.date },
        { v: 45748, s: STYLE.dayFirst },
        { v: 0.07, s: STYLE.percent },
        { v: 'in line', t: 'inlineStr' },
        false,
        { v: '2.25', t: 'n' },
      ],
      [{ v: 59, s: STYLE.date }, null, null, { v: '_x0041_b', t: 'str' }, null, { v: '#DIV/0!', t: 'e' }],
    ];
    expect(await typed('x.xlsx', book(rows))).toEqual({
      day: ['date', '2025-03-01', '2025-03-02', '1900-02-28'],
      booked: ['date', '2025-03-01', '2025-04-01', ''],
      share: ['number', '0.125', '0.070', ''],
      shop: ['text', 'N & "Ö"', 'in line', 'Ab'],
      ok: ['yesno', 'yes', 'no', ''],
      net: ['number', '1.50', '2.25', ''],
    });
    expect(await left('x.xlsx', book(rows))).toEqual([[4, 'net', '#DIV/0!', 'not a number']]);
  });
  test('months, times of day, and days counted from 1904', async () => {
    const rows: MadeSheet['rows'] = [
      ['m', 't', 'd'],
      [
        { v: 45717, s: STYLE.month },
        { v: 0.5, s: STYLE.time },
        { v: 44255, s: STYLE.date },
      ],
      [
        { v: 45748, s: STYLE.month },
        { v: 0.75, s: STYLE.time },
        { v: 44256, s: STYLE.date },
      ],
    ];
    expect(await typed('x.xlsx', workbook([{ name: 's', rows }], { since1904: true }))).toMatchObject({
      t: ['number', '0.50', '0.75'],
      d: ['date', '2025-03-01', '2025-03-02'],
    });
    expect(await typed('x.xlsx', book(rows))).toMatchObject({ m: ['date', '2025-03', '2025-04'] });
  });
  test('a header below merged titles, away from the corner, and cells merged downwards', async () => {
    const rows: MadeSheet['rows'] = [
      [null, 'Sales of March'],
      [null, 'in thousands'],
      [null, 'shop', 'kind', 'net'],
      [null, 'Nord', 'a', 1],
      [null, null, 'b', 2],
      [null, 'Süd', 'a', 3],
    ];
    const bytes = book(rows, { from: 3, merged: ['B3:D3', 'B6:B7'] });
    const read = await table('x.xlsx', bytes);
    expect(await typed('x.xlsx', bytes)).toEqual({
      shop: ['text', 'Nord', 'Nord', 'Süd'],
      kind: ['text', 'a', 'b', 'a'],
      net: ['number', '1', '2', '3'],
    });
    expect(read.leftOut.map(({ row, raw }) => [row, raw])).toEqual([
      [3, 'Sales of March'],
      [4, 'in thousands'],
    ]);
  });
  test('each sheet with rows is a table; hidden and empty ones are passed over', async () => {
    const rows: MadeSheet['rows'] = [['a'], [1]];
    const bytes = workbook([
      { name: 'Notes', rows: [] },
      { name: 'A & B', rows },
      { name: 'old', rows, hidden: true },
      { name: 'C', rows },
    ]);
    expect(await sheetsOf(fileOf('x.xlsx', bytes))).toEqual(['A & B', 'C']);
    expect(await typed('x.xlsx', bytes, { sheet: 'C' })).toEqual({ a: ['number', '1'] });
    await expect(table('x.xlsx', bytes, { sheet: 'D' })).rejects.toThrow(/no table “D”.*“A & B”/);
  });
  const edited = (change: (xml: string) => string) => (xml: Uint8Array) =>
    strToU8(change(new TextDecoder().decode(xml)));
  const strange = (xml: string) => xml.replace('<sheetData>', '<sheetData><!-- by hand -->');
  test.each([
    ['plainly', (xml: string) => xml],
    ['strangely', strange],
    ['strangely from the third row on', (xml: string) => xml.replace('<row r="3">', '<!-- by hand --><row r="3">')],
  ])('what cells lack is told, in a sheet that is written %s', async (_, how) => {
    const rows: MadeSheet['rows'] = [
      ['shop', 'net'],
      ['A', 1],
      ['B', 2],
      ['C', 3],
      ['D', 4],
    ];
    const sheetBytes = edited((xml) =>
      how(
        xml
          .replace('<c r="B3"><v>2</v></c>', '<c r="B3"><f>A1+1</f></c>')
          .replace('<c r="B5"><v>4</v></c>', '<c r="B5" t="str"><f>""</f><v></v></c>')
          .replace(/<c r="A4" t="s"><v>\d+<\/v><\/c>/, '<c r="A4" t="s"><v>99</v></c>'),
      ),
    );
    const raw = await table('x.xlsx', workbook([{ name: 's', rows }], { sheetBytes }));
    expect(raw.told).toEqual([
      { what: 'no result', count: 1, first: [{ line: 3, raw: 'B3' }] },
      { what: 'no text', count: 1, first: [{ line: 4, raw: 'A4' }] },
    ]);
  });
  test('cells that are merged downwards are meant for each row, however wide and wherever they are told', async () => {
    const rows: MadeSheet['rows'] = [
      ['shop', 'city', 'net'],
      ['A', null, 1],
      [null, 'x', 2],
      ['B', 'y', 3],
      [null, null, 4],
    ];
    const expected = {
      shop: ['text', 'A', 'A', 'B', 'B'],
      city: ['text', '', 'x', 'y', ''],
      net: ['number', '1', '2', '3', '4'],
    };
    const merged = ['A2:B3', 'A4:A5', 'C1:D1'];
    const quoted = edited((xml) => xml.replaceAll(/<mergeCell ref="([^"]+)"\/>/g, "<mergeCell  ref = '$1' />"));
    const far = edited((xml) => xml.replace('</worksheet>', `<note>${'n'.repeat(2 << 20)}</note></worksheet>`));
    for (const extra of [{}, { sheetBytes: quoted }, { sheetBytes: far }])
      expect(await typed('x.xlsx', workbook([{ name: 's', rows, merged }], extra))).toEqual(expected);
  });
  test('other zip files, damaged ones, and ones that unpack to too much are refused', async () => {
    await expect(table('x.xlsx', zipSync({ 'a.txt': strToU8('x') }))).rejects.toThrow(/no workbook/);
    await expect(table('x.xlsx', book([['a'], [1]]).slice(0, 200))).rejects.toThrow(/damaged/);
    const bomb = zipSync({ 'xl/workbook.xml': strToU8('<workbook/>'), 'xl/sharedStrings.xml': new Uint8Array(1) });
    // The size a zip file declares for a part is what is believed, and what is given room for.
    const view = new DataView(bomb.buffer, bomb.byteOffset);
    for (let i = 0; i + 30 < bomb.length; i++) {
      if (view.getUint32(i, true) === 0x02014b50) view.setUint32(i + 24, 3_000_000_000, true);
      if (view.getUint32(i, true) === 0x04034b50) view.setUint32(i + 22, 3_000_000_000, true);
    }
    await expect(table('x.xlsx', bomb)).rejects.toThrow(/unpacks to more than 1,000 MB/);
  });
});

describe('Parquet', () => {
  test('its own types are kept; texts are looked at', async () => {
    const bytes = new Uint8Array(
      parquetWriteBuffer({
        columnData: [
          { name: 'day', data: [new Date('2025-03-01T10:00:00Z'), new Date('2025-03-02'), null], type: 'TIMESTAMP' },
          { name: 'n', data: [1n, 2n, null], type: 'INT64' },
          { name: 'net', data: [1.5, -2.25, NaN], type: 'DOUBLE' },
          { name: 'shop', data: ['Nord', 'Süd', null], type: 'STRING' },
          { name: 'ok', data: [true, false, null], type: 'BOOLEAN' },
          { name: 'id', data: [9007199254740993n, 1n, 2n], type: 'INT64' },
          { name: 'sent', data: ['25/12/2025', '03/04/2025', ''], type: 'STRING' },
          { name: 'all', data: [{ x: 1 }, null, [2]], type: 'JSON' },
        ],
      }),
    );
    expect(await typed('x.parquet', bytes)).toEqual({
      day: ['date', '2025-03-01', '2025-03-02', ''],
      n: ['number', '1', '2', ''],
      net: ['number', '1.50', '-2.25', ''],
      shop: ['text', 'Nord', 'Süd', ''],
      ok: ['yesno', 'yes', 'no', ''],
      id: ['text', '9007199254740993', '1', '2'],
      sent: ['date', '2025-12-25', '2025-04-03', ''],
      all: ['text', '{"x":1}', '', '[2]'],
    });
  });
  test('a damaged file is refused', async () => {
    await expect(table('x.parquet', strToU8('PAR1garbagePAR1'))).rejects.toThrow(/damaged/);
  });
});

test.each([
  [[0xd0, 0xcf, 0x11, 0xe0, 1], /old binary kind.*save it as \.xlsx/],
  [[0x25, 0x50, 0x44, 0x46, 1], /this is a PDF/],
  [[0x1f, 0x8b, 1], /gzip.*unpack it first/],
  [[0x37, 0x7a, 0xbc, 0xaf, 0x27, 0x1c, 0, 4], /7z archive.*unpack it first/],
  [[0x4d, 0x5a, 0x90, 0, 3], /a program \(\.exe\)/],
  [[0x50, 0x4b, 5, 6, ...new Array<number>(18).fill(0)], /a zip file with nothing in it/],
  [[0xff, 0xfe, 0, 0, 0x61, 0, 0, 0, 0x2c, 0, 0, 0], /text in UTF-32.*save it as UTF-8/],
  [new Array<number>(600).fill(0), /nothing but empty bytes/],
  [Array.from({ length: 900 }, (_, i) => (i * 7919) % 256), /this is no text/],
  [[...Buffer.from('\n<!DOCTYPE html><html><table><tr><td>a</td></tr></table>')], /a web page \(HTML\)/],
  [[...Buffer.from('<?xml version="1.0"?><rows><row net="5"/></rows>')], /an XML file/],
])('files of other kinds are named: %j', async (bytes, message) => {
  await expect(table('x.csv', new Uint8Array(bytes))).rejects.toThrow(message);
});

describe('small files that would be large', () => {
  test('a few bytes of Parquet that say they are millions of rows', async () => {
    const data = Array.from({ length: 4_000_000 }, () => 7);
    const bytes = new Uint8Array(
      parquetWriteBuffer({ columnData: [{ name: 'n', data, type: 'INT32', encoding: 'RLE_DICTIONARY' }] }),
    );
    expect(bytes.length).toBeLessThan(6000);
    await expect(table('x.parquet', bytes)).rejects.toThrow(/unpack to 4,000,000 rows/);
  });
  test('sheets that are one part are unpacked once', async () => {
    const rows: MadeSheet['rows'] = [['a'], ...Array.from({ length: 3000 }, (_, i) => [i])];
    const bytes = workbook(['s', 't', 'u'].map((name) => ({ name, rows })));
    const zip = unzipSync(bytes);
    const relations = strFromU8(zip['xl/_rels/workbook.xml.rels']!).replaceAll(/sheet\d/g, 'sheet1');
    const one = zipSync({ ...zip, 'xl/_rels/workbook.xml.rels': strToU8(relations) });
    const size = zip['xl/worksheets/sheet1.xml']!.length;
    const room = size * 1.5;
    expect(await xlsxSheets(fileOf('x.xlsx', one), room)).toEqual(['s', 't', 'u']);
    await expect(xlsxSheets(fileOf('x.xlsx', bytes), room)).rejects.toThrow(/unpacks to more than/);
  });
  test('text without an end of a line, or of a quote', async () => {
    for (const letter of ['x', '"'])
      await expect(table('x.csv', `a,b\n1,${letter.repeat(9_000_000)}`)).rejects.toThrow(
        /line \d: a row has more than 8,388,608 characters/,
      );
  });
  test('a long text that many cells share is that of each', async () => {
    const long = `${' '.repeat(40_000)}${'x'.repeat(40_000)}`;
    const rows: MadeSheet['rows'] = [['a', 'n'], ...Array.from({ length: 2000 }, (_, i) => [i % 2 ? long : 'y', i])];
    const { columns } = await table('x.xlsx', workbook([{ name: 's', rows }]));
    expect(columns[0]).toMatchObject({ kind: 'text', members: ['', 'y', 'x'.repeat(40_000)] });
  });
  test('rows of one cell far to the right', async () => {
    const far = {
      sheetBytes: (xml: Uint8Array) =>
        strToU8(strFromU8(xml).replaceAll(/<row r="(\d+)"><c r="A/g, '<row r="$1"><c r="XFD')),
    };
    const rows: MadeSheet['rows'] = [['a', 'b'], ...Array.from({ length: 2000 }, (_, i) => [i])];
    await expect(table('x.xlsx', workbook([{ name: 's', rows }], far))).rejects.toThrow(
      /nearly all of its cells are empty/,
    );
  });
});
