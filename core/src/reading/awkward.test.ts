import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { cellText, columnOf, profileTable } from '../table';
import { fileOf, sheetsOf } from '.';
import { encodingFor } from './judgedEncoding';
import { tries } from '../proof/tries.fixture';
import { left, lines, table, typed, utf8 } from './read.fixture';

const require = createRequire(import.meta.url);
const utf16 = (text: string, big = false) => {
  const bytes = new Uint8Array(text.length * 2);
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    bytes[i * 2 + (big ? 1 : 0)] = code & 255;
    bytes[i * 2 + (big ? 0 : 1)] = code >> 8;
  }
  return bytes;
};
describe('delimited text', () => {
  const plain = { shop: ['text', 'Nord', 'Süd'], net: ['number', '1.50', '2.00'] };
  test.each<[string, string | Uint8Array]>([
    ['commas', 'shop,net\nNord,1.50\nSüd,2\n'],
    ['semicolons and decimal commas', 'shop;net\nNord;1,50\nSüd;2\n'],
    ['tabs', 'shop\tnet\nNord\t1.50\nSüd\t2\n'],
    ['bars', 'shop|net\nNord|1.50\nSüd|2\n'],
    ['carets', 'shop^net\nNord^1.50\nSüd^2\n'],
    ['a line that names the delimiter', 'sep=;\nshop;net\nNord;1,50\nSüd;2\n'],
    ['line ends of Windows', 'shop,net\r\nNord,1.50\r\nSüd,2\r\n'],
    ['line ends of old machines', 'shop,net\rNord,1.50\rSüd,2\r'],
    ['no line end at the end', 'shop,net\nNord,1.50\nSüd,2'],
    ['a byte order mark', '\uFEFFshop,net\nNord,1.50\nSüd,2\n'],
    ['UTF-16, little end first', utf16('\uFEFFshop,net\nNord,1.50\nSüd,2\n')],
    ['UTF-16, big end first', utf16('\uFEFFshop,net\nNord,1.50\nSüd,2\n', true)],
    ['UTF-16 without a mark', utf16('shop,net\nNord,1.50\nSüd,2\n')],
    ['Windows-1252', Uint8Array.from('shop,net\nNord,1.50\nS\u00fcd,2\n', (c) => c.charCodeAt(0))],
    ['empty lines and lines of nothing but delimiters', '\nshop,net\n\nNord,1.50\n,\nSüd,2\n\n\n'],
    ['every cell in quotes', '"shop","net"\n"Nord","1.50"\n"Süd","2"\n'],
    ['space around cells and names', ' shop , net \n Nord , 1.50 \n Süd , 2 \n'],
    ['a delimiter at the end of each line', 'shop;net;\nNord;1,50;\nSüd;2;\n'],
    ['a column without name and content at the left', ',shop,net\n,Nord,1.50\n,Süd,2\n'],
  ])('%s', async (_, content) => expect(await typed('x.csv', content)).toEqual(plain));

  test('Windows-1252 that shows only behind the first quarter of a megabyte', async () => {
    const text = `shop,net\n${'Nord,1.50\n'.repeat(40_000)}S\u00fcd,2\n`;
    const { columns } = await table(
      'x.csv',
      Uint8Array.from(text, (c) => c.charCodeAt(0)),
    );
    expect(columns[0]).toMatchObject({ members: ['', 'Nord', 'Süd'] });
  });
  test('one byte that means nothing does not spoil the rest of a UTF-8 file', async () => {
    const bytes = utf8(`shop,net\nSüd,1\n${'Nord,1.50\n'.repeat(40_000)}Öst!,2\n`);
    bytes[bytes.indexOf(33)] = 0xff;
    const raw = await table('x.csv', bytes);
    expect(raw.columns[0]).toMatchObject({ members: ['', 'Süd', 'Nord', 'Öst\uFFFD'] });
    expect(raw.told).toEqual([{ what: 'bad bytes', count: 1, first: [{ line: 40_003, raw: 'Öst\uFFFD,2' }] }]);
  });
  test('whole numbers of more digits than a number holds are names of things, in every format, and told', async () => {
    const ids = ['9007199254740993', '9007199254740992', '9007199254740994', '12'];
    const csv = `id,net\n${'7,1\n'.repeat(100)}${ids.map((id) => `${id},1`).join('\n')}\n`;
    const json = `[${ids.map((id) => `{"id": ${id}, "net": 1, "note": "as ${ids[0]!}, or 12345678901234567890"}`).join(',')}]`;
    for (const [name, content] of [
      ['x.csv', csv],
      ['x.json', json],
      ['x.ndjson', json.slice(1, -1).replaceAll('},{', '}\n{')],
    ] as const) {
      const raw = await table(name, content);
      const column = raw.columns[0]!;
      expect(column.kind === 'text' && column.members.filter((id) => id.length > 2).sort(), name).toEqual(
        ids.slice(0, 3).sort(),
      );
      expect(column.convention).toContain('more digits than can be added up');
      expect(raw.columns[1]!.kind).toBe('number');
    }
    // Whoever says that it is a number gets the nearest there is.
    const wished = await table('x.csv', csv, { columns: [{ name: 'id', type: 'number' }] });
    expect(wished.columns[0]).toMatchObject({ kind: 'number', tooLarge: true });
  });
  test('a number beyond the largest is not read, and told', async () => {
    const raw = await table('x.json', `[${'{"net": 1.5, "n": "e"},'.repeat(20)}{"net": 1e999, "n": "1e999"}]`);
    expect(raw.columns[0]).toMatchObject({ kind: 'number', blank: 1 });
    expect(raw.leftOut.map(({ raw: text }) => text)).toEqual(['1e999']);
  });
  const long = 'k'.repeat(500);
  const one = '[{"shop":"A","net":1}]';
  test.each<[string, string, Record<string, unknown>]>([
    [
      'two arrays appended',
      `${one}\n${one.replace('A', 'B')}`,
      { shop: ['text', 'A', 'B'], net: ['number', '1', '1'] },
    ],
    [
      'arrays appended behind a long one',
      `[${'{"shop":"A","net":1},'.repeat(9000)}{"shop":"C","net":1}] [{"shop":"B","net":2}]`,
      {},
    ],
    [
      'a key twice',
      '[{"shop":"A","net":1,"net":2},{"shop":"B","net":3}]',
      { shop: ['text', 'A', 'B'], net: ['number', '1', '3'], 'net (2)': ['number', '2', ''] },
    ],
    [
      'a key twice in an object of an object',
      '{"rows":[{"a":{"b":1,"b":2}},{"a":{"b":3}}]}',
      { 'a.b': ['number', '1', '3'], 'a.b (2)': ['number', '2', ''] },
    ],
    [
      'two ways to one name',
      '[{"a":{"b":1},"a.b":2},{"a.b":3}]',
      { 'a.b': ['number', '1', '3'], 'a.b (2)': ['number', '2', ''] },
    ],
    [
      'no name beside the name for none',
      '[{"":1,"value":2}]',
      { value: ['number', '1'], 'value (2)': ['number', '2'] },
    ],
    [
      'names that are equal for 500 letters',
      `[{"${long}a":1,"${long}b":2}]`,
      { [long]: ['number', '1'], [`${long} (2)`]: ['number', '2'] },
    ],
    ['a first line of more than 64 KB', `{"note":"${'x'.repeat(70_000)}","net":1}\n{"note":"y","net":2}\n`, {}],
  ])('JSON loses nothing: %s', async (_, content, expected) => {
    const raw = await table('x.json', content);
    if (Object.keys(expected).length > 0) {
      const cells = raw.columns.map(
        (column) =>
          [column.name, [column.kind, ...Array.from({ length: raw.rows }, (_, row) => cellText(column, row))]] as const,
      );
      expect(cells).toEqual(Object.entries(expected));
    } else expect(raw.rows).toBe(content.startsWith('[') ? 9002 : 2);
  });
  test.each([
    `${one} and more`,
    `${one}, {"shop":"B","net":2}`,
    `[${'{"shop":"A","net":1},'.repeat(40_000)}{"shop":"B"}]]`,
  ])('what stands behind the end of an array is not passed over: case %#', async (content) => {
    await expect(table('x.json', content)).rejects.toThrow(/JSON is broken/);
  });
  const letters = 'Zürich, Orléans, Århus';
  const filler = 'Nord,1.50\n'.repeat(40_000);
  test.each<[string, Uint8Array, string, number]>([
    [
      'UTF-8 behind a quarter of a megabyte of ASCII, with one bad byte',
      Uint8Array.from([...utf8(`shop,net\n${filler}"${letters}",2\nÖst`), 0xff, ...utf8(',3\n')]),
      letters,
      1,
    ],
    [
      'Windows-1252 with its one letter at the very end',
      Uint8Array.from('net,shop\n1,Nord\n2,Orl\u00e9', (c) => c.charCodeAt(0)),
      'Orlé',
      0,
    ],
    ['UTF-8 whose last letter is cut off', Uint8Array.from([...utf8('net,shop\n1,Nörd\n2,Orl'), 0xc3]), 'Nörd', 1],
    [
      'a bad byte before all letters',
      Uint8Array.from([...utf8('shop,net\nOst'), 0xff, ...utf8(`,1\n"${letters}",2\n`)]),
      letters,
      1,
    ],
  ])('all bytes tell the encoding: %s', async (_, bytes, member, bad) => {
    const raw = await table('x.csv', bytes);
    const column = raw.columns.find(({ name }) => name === 'shop')!;
    expect(column.kind === 'text' && column.members).toContain(member);
    expect(raw.told?.[0]?.count ?? 0).toBe(bad);
    const asJson = await table(
      'x.json',
      Uint8Array.from([...utf8('[{"net":1,"shop":"'), ...bytes.filter((byte) => byte >= 0x80), ...utf8('"}]')]),
    );
    expect(asJson.told?.[0]?.count ?? 0).toBe(bad);
  });
  test('law: bytes are judged as a decoder takes them', () =>
    fc.assert(
      fc.asyncProperty(fc.uint8Array({ minLength: 1, maxLength: 40 }), fc.nat(8), async (odd, n) => {
        // Enough letters that it is UTF-8 whatever else is in it.
        const bytes = Uint8Array.from([...utf8('é'.repeat(60)), ...odd, ...utf8('é'.repeat(n))]);
        const { encoding, bad } = await encodingFor(fileOf('x', bytes));
        const isValid =
          Buffer.compare(
            Buffer.from(new TextDecoder('utf-8', { ignoreBOM: true }).decode(bytes)),
            Buffer.from(bytes),
          ) === 0;
        expect([encoding, bad === null]).toEqual(['utf-8', isValid]);
      }),
      { numRuns: tries(300) },
    ));
  test('line ends and quotes inside cells', async () =>
    expect(await typed('x.csv', 'a,b\n"two\nlines","say ""x"""\n')).toEqual({
      a: ['text', 'two\nlines'],
      b: ['text', 'say "x"'],
    }));
  test('names that are empty or stand twice, thrice, or like a number that was given', async () =>
    expect(Object.keys(await typed('x.csv', 'a,a,,a,a (2)\n1,2,3,4,5\n'))).toEqual([
      'a',
      'a (2)',
      'column 3',
      'a (3)',
      'a (2) (2)',
    ]));
  test('short rows are filled, long ones keep what is too much', async () => {
    const content = lines('a,b', '1', '2,3,4', '5,6');
    expect(await typed('x.csv', content)).toEqual({ a: ['number', '1', '2', '5'], b: ['number', '', '3', '6'] });
    expect(await left('x.csv', content)).toEqual([[3, null, '4', 'more cells than the header names']]);
  });
  test('a header that is one name short', async () =>
    expect(await typed('x.csv', lines('a,b', 'r1,1,2', 'r2,3,4'))).toEqual({
      a: ['text', 'r1', 'r2'],
      b: ['number', '1', '3'],
      'column 3': ['number', '2', '4'],
    }));
  test('titles above the header are set aside', async () => {
    const content = lines('Sales report', 'Printed 3 Mar 2025,', '', 'shop,kind,net', 'Nord,a,1', 'Süd,b,2', 'Ost,c,3');
    expect(await typed('x.csv', content)).toMatchObject({
      shop: ['text', 'Nord', 'Süd', 'Ost'],
      net: ['number', '1', '2', '3'],
    });
    expect(await left('x.csv', content)).toEqual([
      [1, null, 'Sales report', 'a title above the header'],
      [2, null, 'Printed 3 Mar 2025', 'a title above the header'],
    ]);
  });
  test('a header that is told, and none', async () => {
    const content = lines('x,1', 'shop,net', 'Nord,2');
    expect(await typed('x.csv', content, { header: 2 })).toEqual({ shop: ['text', 'Nord'], net: ['number', '2'] });
    expect(Object.keys(await typed('x.csv', content, { header: 0 }))).toEqual(['column 1', 'column 2']);
    await expect(table('x.csv', content, { header: 9 })).rejects.toThrow(/no row on line 9/);
  });
  test('a delimiter that is told', async () =>
    expect(await typed('x.csv', 'a;b,c\n1;2,3\n', { delimiter: ',' })).toEqual({
      'a;b': ['text', '1;2'],
      c: ['number', '3'],
    }));
  test('rows that begin again like a header are data', async () =>
    expect(await typed('x.csv', 'shop\nNord\nshop\n')).toEqual({ shop: ['text', 'Nord', 'shop'] }));
});

describe('totals and notes', () => {
  const content = lines(
    'day,shop,net',
    '2025-01-01,Nord,1',
    '2025-01-02,Süd,2',
    '2025-01-03,Nord,3',
    'Total,,6',
    'Source: the till,,',
  );
  test('are pointed at and stay until someone says otherwise', async () => {
    const profile = profileTable(await table('x.csv', content), 'x.csv');
    expect([profile.totalsRows, profile.noteRows, profile.rows]).toEqual([[5], [6], 5]);
  });
  test('are left out when that is wanted, each with its text', async () => {
    const read = await table('x.csv', content, { leaveOut: ['totals', 'notes'] });
    expect([read.rows, read.date]).toEqual([3, 'day']);
    expect(read.leftOut.map(({ row, raw, reason }) => [row, raw, reason])).toEqual([
      [5, 'Total · 6', 'a totals row'],
      [6, 'Source: the till', 'a note below the table'],
    ]);
    expect(cellText(columnOf(read, 'net')!, 2)).toBe('3');
  });
  test('a sum without a word, and a note under a table of texts', async () => {
    const unnamed = lines('shop,kind,net', 'Nord,a,1', 'Süd,b,2', 'Ost,a,3', ',,6', 'as of Friday,,');
    const profile = profileTable(await table('x.csv', unnamed), 'x.csv');
    expect([profile.totalsRows, profile.noteRows]).toEqual([[5], [6]]);
    expect((await table('x.csv', unnamed, { leaveOut: ['totals', 'notes'] })).rows).toBe(3);
  });
  test('subtotals in between, and a member that only sounds like one', async () => {
    const between = lines('shop,net', 'Nord,1', 'Nord Total,1', 'Süd,2', 'Totally Tea,3', 'Ost,1', 'Grand total,4');
    expect(profileTable(await table('x.csv', between), 'x').totalsRows).toEqual([3, 7]);
  });
});

describe('JSON', () => {
  const plain = { shop: ['text', 'Nord', 'Süd'], net: ['number', '1.50', '2.25'] };
  test.each([
    ['an array of objects', '[{"shop":"Nord","net":1.5},{"shop":"Süd","net":2.25}]'],
    ['one object a line', '{"shop":"Nord","net":1.5}\n{"shop":"Süd","net":2.25}\n'],
    ['objects over several lines, one after another', '{\n "shop":"Nord",\n "net":1.5}\n{\n"shop":"Süd","net":2.25}'],
    ['an array of arrays', '[["shop","net"],["Nord",1.5],["Süd",2.25]]'],
    ['one array a line', '["shop","net"]\n["Nord",1.5]\n["Süd",2.25]\n'],
    ['an array under a key', '{"made":"2025","rows":[{"shop":"Nord","net":1.5},{"shop":"Süd","net":2.25}]}'],
    ['columns as arrays', '{"shop":["Nord","Süd"],"net":[1.5,2.25]}'],
    ['nothing among the objects', '[null,{"shop":"Nord","net":1.5},{},{"shop":"Süd","net":2.25}]'],
  ])('%s', async (_, text) => expect(await typed('x.json', text)).toEqual(plain));
  test('inner objects become columns, lists stay text, keys may come late', async () =>
    expect(await typed('x.json', '[{"a":{"b":1}},{"a":{"b":2},"tags":["x","y"],"ok":true}]')).toEqual({
      'a.b': ['number', '1', '2'],
      tags: ['text', '', '["x","y"]'],
      ok: ['yesno', '', 'yes'],
    }));
  test('several arrays are several tables, the longest first', async () => {
    const text = '{"shops":[{"a":1}],"sales":{"rows":[{"b":1},{"b":2}]}}';
    expect(await sheetsOf(fileOf('x.json', utf8(text)))).toEqual(['sales.rows', 'shops']);
    expect(await typed('x.json', text, { sheet: 'shops' })).toEqual({ a: ['number', '1'] });
    await expect(table('x.json', text, { sheet: 'none' })).rejects.toThrow(/no table “none”.*“sales.rows”/);
  });
  test('what is broken is told with its place', async () => {
    await expect(table('x.json', '[{"a":1},{"a":}]')).rejects.toThrow(/broken in value 2/);
    await expect(table('x.json', '[{"a":1},{"a":2')).rejects.toThrow(/ends in the middle/);
    await expect(table('x.json', 'shop')).rejects.toThrow(/begins with neither/);
    await expect(table('x.json', '[]')).rejects.toThrow(/no rows/);
  });
});

describe('files that others made', () => {
  const spectrum = dirname(require.resolve('csv-spectrum/package.json'));
  test.each(readdirSync(join(spectrum, 'csvs')))('csv-spectrum: %s reads as its JSON twin says', async (name) => {
    // One twin is a bare object, and gives another telephone number than its CSV does.
    const text = new TextDecoder().decode(readFileSync(join(spectrum, 'json', name.replace('.csv', '.json'))));
    const twin = [JSON.parse(text.replace('1234567890', '2095257564')) as Record<string, string>].flat();
    const bytes = new Uint8Array(readFileSync(join(spectrum, 'csvs', name)));
    const columns = Object.keys(twin[0]!).map((column) => ({ name: column, type: 'text' as const }));
    const read = await table(name, bytes, { columns });
    expect(read.columns.map((column) => column.name)).toEqual(columns.map((column) => column.name));
    const rows = Array.from({ length: read.rows }, (_, row) =>
      Object.fromEntries(read.columns.map((column) => [column.name, cellText(column, row)])),
    );
    expect(rows).toEqual(
      twin.map((row) => Object.fromEntries(Object.entries(row).map(([key, value]) => [key, value.trim()]))),
    );
  });
});
