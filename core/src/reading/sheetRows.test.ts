import fc from 'fast-check';
import { expect, test } from 'vitest';
import { tries } from '../proof/tries.fixture';
import { cellText } from '../table';
import { fileOf } from '.';
import { readXlsx } from './readXlsx';
import { Lost, plainRows } from './sheetRows';
import { openWorkbook } from './workbook';
import { STYLE, workbook, type MadeSheet } from './workbook.fixture';

// Sheets are mostly read without a parser of XML. Whatever a sheet holds, and wherever that way ends, the table is the parser's.

const cell = fc.oneof(
  fc.constantFrom('Brass', 'a & b', '"quoted" <it>', '_x0041_', 'Ömer 🎺', '', null, true, false),
  fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e9, max: 1e9 }),
  fc.integer({ min: -1e6, max: 1e9 }),
  fc.constantFrom(0.1, 1e-7, 123456789012345680, 5e300, 45000),
  fc.record({ v: fc.integer({ min: 0, max: 60_000 }), s: fc.constantFrom(...Object.values(STYLE)) }),
  fc.record({
    v: fc.constantFrom('in line', 'x &  y', '', '#DIV/0!', '2025-03-01T00:00'),
    t: fc.constantFrom('inlineStr', 'str', 'e', 'd'),
  }),
);
const sheet = fc.record({
  name: fc.constant('sales'),
  from: fc.integer({ min: 1, max: 9 }),
  rows: fc
    .array(fc.array(cell, { maxLength: 5 }), { minLength: 2, maxLength: 30 })
    .map((rows) => [['a', 'b', 'c', 'd'], ...rows]),
  merged: fc.constantFrom([], ['B3:B6']),
});

const edited = (change: (xml: string) => string) => (xml: Uint8Array) =>
  new TextEncoder().encode(change(new TextDecoder().decode(xml)));
/** With a prefix that the quick way does not know. */
const prefixed = (xml: string) => xml.replace(/<(\/?)(sheetData|row|c|v|is|t|f)(?=[ />])/g, '<$1x:$2');
/** As other programs write it: formulas, white space, other attributes. */
const withFormulas = (xml: string) =>
  xml
    .replace(/<v>/g, '<f t="shared" si="0">A1*2</f>\n<v>')
    .replace(/<row r/g, ' <row spans="1:4" r')
    .replace(/<c r/g, '<c cm="1" r');

const read = (made: MadeSheet, change: (xml: string) => string) =>
  readXlsx(fileOf('it.xlsx', workbook([made], { sheetBytes: edited(change) })), {});

test('the table of a sheet is the same whether a parser reads it, or only what is behind some place', async () => {
  await fc.assert(
    fc.asyncProperty(sheet, fc.nat(40), async (made, at) => {
      const parsed = await read(made, prefixed);
      const remarkBefore = (xml: string) => {
        let row = 0;
        return xml.replace(/<row /g, (open) => (row++ === at ? `<!-- remark -->${open}` : open));
      };
      for (const change of [(xml: string) => xml, withFormulas, remarkBefore])
        expect(await read(made, change)).toEqual(parsed);
    }),
    { numRuns: tries(60) },
  );
});

test('what most programs write needs no parser, and what is strange is left to it', () => {
  const made: MadeSheet = {
    name: 'sales',
    rows: [
      ['a', 'b'],
      [1.5, { v: 45_000, s: STYLE.date }],
      [null, { v: 'in line', t: 'inlineStr' }],
    ],
  };
  const bytes = workbook([made]);
  const rowsOf = (change: (xml: string) => string) => {
    const xml =
      '<worksheet><sheetData><row r="1"><c r="A1"><v>1</v></c></row><row r="4"/><row r="5"><c r="B5" t="b"><v>1</v></c></row></sheetData></worksheet>';
    const rows = [];
    const plain = plainRows(new TextEncoder().encode(change(xml)), openWorkbook(bytes, 'it.xlsx'), new Lost());
    let next = plain.next();
    for (; !next.done; next = plain.next()) rows.push([next.value.line, ...next.value.cells]);
    return { rows, isWhole: next.value };
  };
  const all = [[1, 1], [4], [5, '', 'true']];
  expect(rowsOf((xml) => xml)).toEqual({ rows: all, isWhole: true });
  expect(rowsOf(withFormulas)).toEqual({ rows: all, isWhole: true });
  expect(rowsOf(prefixed)).toEqual({ rows: [], isWhole: false });
  expect(rowsOf((xml) => xml.replace('<row r="4"', '<?note?><row r="4"'))).toEqual({
    rows: all.slice(0, 1),
    isWhole: false,
  });
  expect(rowsOf((xml) => xml.slice(0, 70))).toEqual({ rows: all.slice(0, 1), isWhole: false });
  expect(rowsOf((xml) => xml.replace('<v>1</v></c></row></sheet', '<v>&odd;</v></c></row></sheet')).isWhole).toBe(
    false,
  );
});

test('law: a number is the double nearest to its digits, however many there are before and behind the point', () =>
  fc.assert(
    fc.asyncProperty(
      fc.array(
        fc
          .tuple(fc.boolean(), fc.bigInt({ min: 1n, max: 10n ** 17n }), fc.nat(17))
          .map(([isNegative, digits, decimals]) => {
            const text = String(digits).padStart(decimals + 1, '0');
            const whole = text.slice(0, text.length - decimals);
            return `${isNegative ? '-' : ''}${whole}${decimals > 0 ? `.${text.slice(-decimals)}` : ''}`;
          }),
        { minLength: 1, maxLength: 40 },
      ),
      async (written) => {
        const rows: MadeSheet['rows'] = [['n', 'm'], ...written.map((v) => [{ v, t: 'n' }, 1])];
        const { columns } = await read({ name: 'sales', rows }, (xml) => xml.replaceAll(' t="n"', ''));
        const [column] = columns;
        if (column?.kind === 'number')
          expect(written.map((_, row) => Number(cellText(column, row)))).toEqual(written.map(Number));
        else expect(column).toMatchObject({ convention: expect.stringContaining('more digits') as string });
      },
    ),
    { numRuns: tries(60) },
  ));
