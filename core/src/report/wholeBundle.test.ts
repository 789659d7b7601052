import fc from 'fast-check';
import { expect, test } from 'vitest';
import { fileOf, readFile } from '../reading';
import { cellText, makeTable } from '../table';
import { checkReport, readBundle, wholeBundle } from '.';
import { tries } from '../proof/tries.fixture';

const bytes = (text: string) => new TextEncoder().encode(text);

async function opened(packed: Uint8Array) {
  const { report, files } = readBundle(packed);
  const entry = report.tables[0]!;
  const { sheet, header, delimiter } = entry.source;
  const wish = {
    ...entry,
    ...(sheet === undefined ? {} : { sheet }),
    ...(header === undefined ? {} : { header }),
    ...(delimiter === undefined ? {} : { delimiter }),
  };
  const raw = await readFile(fileOf(entry.source.file, files.get(entry.source.file)!), wish);
  return { entry, table: makeTable(raw, entry) };
}

test('a table whose file is not kept is handed over as its rows, which are read as they were', () =>
  fc.assert(
    fc.asyncProperty(
      fc.array(
        fc.record({
          day: fc.constantFrom('03/04/2025', '25/12/2025', ''),
          name: fc.constantFrom('Nord', '"Süd"', ' a, b ', '=1+1', '00731', 'x\ny', ''),
          net: fc.constantFrom('1.234,5', '-7', '0', ''),
          ok: fc.constantFrom('yes', 'no', ''),
        }),
        { minLength: 1, maxLength: 12 },
      ),
      async (rows) => {
        const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`;
        const text = ['day;name;net;ok', ...rows.map((row) => Object.values(row).map(quoted).join(';'))].join('\n');
        const columns = [
          { name: 'day', type: 'date', read: 'dd/MM/yyyy' },
          { name: 'name', type: 'text', order: ['Nord', '"Süd"'] },
          { name: 'net', type: 'number', read: '1.234,5' },
          { name: 'ok', type: 'yesno' },
        ] as const;
        const source = { file: 'sales.txt', delimiter: ';', header: 1 };
        const report = checkReport({
          boldRuler: 1,
          name: 'r',
          tables: [{ id: 'sales', source, columns, leaveOut: ['notes'] }],
        });
        const file = fileOf('sales.txt', bytes(text));
        const before = makeTable(await readFile(file, { columns, delimiter: ';', header: 1 }), {
          id: 'sales',
          columns,
        });
        if (before.rows === 0) return;
        const { entry, table } = await opened(wholeBundle(report, new Map([['sales', before]]), new Map()));
        expect(entry.source).toEqual({ file: 'sales.csv' });
        expect(entry.leaveOut).toBeUndefined();
        expect(table.orders).toEqual(before.orders);
        expect(table.columns.map(({ name, kind }) => [name, kind])).toEqual(
          before.columns.map(({ name, kind }) => [name, kind]),
        );
        // A row of nothing but blanks is no row of a file.
        const linesOf = (one: typeof before) =>
          Array.from({ length: one.rows }, (_, row) => one.columns.map((column) => cellText(column, row))).filter(
            (line) => line.some((cell) => cell !== ''),
          );
        expect(linesOf(table)).toEqual(linesOf(before));
      },
    ),
    { numRuns: tries(60) },
  ));

test('a file that is kept goes as it is', async () => {
  const report = checkReport({ boldRuler: 1, name: 'r', tables: [{ id: 'sales', source: { file: 'a.csv' } }] });
  const kept = bytes('day,net\n2025-01-02,5\n');
  expect(readBundle(wholeBundle(report, new Map(), new Map([['a.csv', kept]]))).files.get('a.csv')).toEqual(kept);
  expect(() => wholeBundle(report, new Map(), new Map())).toThrow(/a\.csv, is not at hand/);
});
