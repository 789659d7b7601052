import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { tries } from '../proof/tries.fixture';
import { fileOf } from '../reading';
import { workbook, type MadeSheet } from '../reading/workbook.fixture';
import { checkReport, readBundle, readReport, wholeBundle, writeReport, type TableEntry } from '../report';
import { cellText, columnOf, fileOfRow, lineOf, profileTable, rowOnLine, type Table } from '../table';
import { readTable } from '.';

// Months as a company has them: each a file with a title, rows, perhaps a total and a note. They are one table, and stay these files.

interface Month {
  readonly title: boolean;
  readonly amounts: readonly number[];
  readonly total: 'none' | 'said' | 'sum';
  readonly note: boolean;
  readonly as: 'csv' | 'xlsx';
}

const month: fc.Arbitrary<Month> = fc.record({
  title: fc.boolean(),
  // Enough rows for what is below them to be told from them.
  amounts: fc.array(fc.integer({ min: 1, max: 900 }), { minLength: 4, maxLength: 9 }),
  total: fc.constantFrom('none', 'said', 'sum'),
  note: fc.boolean(),
  as: fc.constantFrom('csv', 'xlsx'),
});

type Line = readonly (string | number | null)[];

/** The lines of a month’s file, and which of them (from 1) are rows, totals and notes. */
function linesOfMonth({ title, amounts, total, note }: Month, m: number) {
  const lines: { readonly cells: Line; readonly kind: 'title' | 'header' | 'row' | 'total' | 'note' }[] = [];
  if (title) lines.push({ cells: [`Sales ${m + 1}`, null, null], kind: 'title' });
  lines.push({ cells: ['shop', 'line', 'net'], kind: 'header' });
  for (const [i, net] of amounts.entries()) lines.push({ cells: [`Shop ${(i % 3) + 1}`, 'keys', net], kind: 'row' });
  const sum = amounts.reduce((all, one) => all + one, 0);
  if (total !== 'none') lines.push({ cells: [total === 'said' ? 'Total' : null, null, sum], kind: 'total' });
  if (note) lines.push({ cells: ['Printed by Ines Vale', null, null], kind: 'note' });
  return lines;
}

const nameOf = ({ as }: Month, m: number) => `Sales 2026-0${m + 1}.${as}`;

function bytesOf(month: Month, m: number): Uint8Array {
  const rows = linesOfMonth(month, m).map(({ cells }) => cells);
  if (month.as === 'xlsx') return workbook([{ name: 'Sales', rows } as MadeSheet]);
  return new TextEncoder().encode(rows.map((cells) => cells.map((cell) => cell ?? '').join(',')).join('\n'));
}

const entryFor = (files: readonly string[], more: Partial<TableEntry> = {}): TableEntry =>
  checkReport({ boldRuler: 1, name: 'r', tables: [{ id: 'sales', source: { files }, ...more }] }).tables[0]!;

const readMonths = (months: readonly Month[], more?: Partial<TableEntry>): Promise<Table> =>
  readTable(
    entryFor(months.map(nameOf), more),
    months.map((one, m) => fileOf(nameOf(one, m), bytesOf(one, m))),
  );

const netOf = (table: Table): number => {
  const column = columnOf(table, 'net')!;
  if (column.kind !== 'number') throw new Error('net is no number');
  return column.values.reduce((all, value) => all + (Number.isNaN(value) ? 0 : value), 0);
};

describe('law: of files below one another', () => {
  const several = fc.array(month, { minLength: 2, maxLength: 4 });

  test('totals and notes are seen in each, told by line and file, and left out they leave the rows alone', () =>
    fc.assert(
      fc.asyncProperty(several, async (months) => {
        const wanted = (kind: 'total' | 'note') =>
          months.flatMap((one, m) =>
            linesOfMonth(one, m).flatMap((line, i) => (line.kind === kind ? [`${i + 1} of ${nameOf(one, m)}`] : [])),
          );
        const profile = profileTable(await readMonths(months), 'sales');
        const told = (lines: readonly number[], files: readonly string[] = []) =>
          lines.map((line, i) => `${line} of ${files[i]}`);
        expect(told(profile.totalsRows, profile.totalsFiles)).toEqual(wanted('total'));
        expect(told(profile.noteRows, profile.noteFiles)).toEqual(wanted('note'));

        const clean = await readMonths(months, { leaveOut: ['totals', 'notes'] });
        const sum = months.reduce((all, { amounts }) => all + amounts.reduce((one, net) => one + net, 0), 0);
        expect(netOf(clean)).toBe(sum);
        expect(profileTable(clean, 'sales').files).toEqual(
          months.map((one, m) => ({ file: nameOf(one, m), rows: one.amounts.length })),
        );
      }),
      { numRuns: tries(60) },
    ));

  test('rows that are read and lines that are left out are the lines of each file', () =>
    fc.assert(
      fc.asyncProperty(several, fc.boolean(), async (months, cleaned) => {
        const table = await readMonths(months, cleaned ? { leaveOut: ['totals', 'notes'] } : {});
        const found = new Map<string, number[]>();
        const put = (file: string, line: number) => found.set(file, [...(found.get(file) ?? []), line]);
        for (let row = 0; row < table.rows; row++) {
          const [file, line] = [fileOfRow(row, table)!, lineOf(row, table)];
          expect(rowOnLine(line, file, table)).toBe(row);
          put(file, line);
        }
        for (const { row, file, column } of table.leftOut) if (column === null) put(file!, row);
        for (const [m, one] of months.entries()) {
          const lines = linesOfMonth(one, m);
          const header = lines.findIndex(({ kind }) => kind === 'header');
          const all = lines.map((_, i) => i + 1).filter((line) => line !== header + 1);
          expect(found.get(nameOf(one, m))!.sort((a, b) => a - b)).toEqual(all);
        }
        // What stands in a row is what stands on its line.
        for (let row = 0; row < table.rows; row++) {
          const m = months.findIndex((one, i) => nameOf(one, i) === fileOfRow(row, table));
          const { cells } = linesOfMonth(months[m]!, m)[lineOf(row, table) - 1]!;
          const shown = table.columns.map((column) => cellText(column, row));
          expect(shown).toEqual(cells.map((cell) => String(cell ?? '')));
        }
      }),
      { numRuns: tries(60) },
    ));
});

describe('a report of several files', () => {
  const plain: Month = { title: false, amounts: [1, 2, 3, 4], total: 'none', note: false, as: 'csv' };
  const report = checkReport({
    boldRuler: 1,
    name: 'r',
    tables: [{ id: 'sales', source: { files: ['north/Sales 2026-01.csv', 'south/Sales 2026-01.csv'] } }],
    measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
  });

  test('names them as they were named, also when it is written again', () => {
    const text = writeReport(report);
    expect(JSON.parse(text).tables[0].source).toEqual({
      files: ['north/Sales 2026-01.csv', 'south/Sales 2026-01.csv'],
    });
    expect(readReport(text, 'r')).toEqual(report);
    expect(report.tables[0]!.source.file).toBe('north/Sales 2026-01.csv and 1 more file');
  });

  test.each([
    [{ files: [] }, 'tables[0].source.files'],
    [{ files: ['a.csv', 'a.csv'] }, 'names a file twice'],
    [{ files: 'a.csv' }, 'must name several files'],
    [{ file: 'a.csv', files: ['b.csv'] }, 'one of them says it'],
  ])('is refused with %j', (source, words) => {
    const text = JSON.stringify({ boldRuler: 1, name: 'r', tables: [{ id: 'sales', source }] });
    expect(() => readReport(text, 'r')).toThrow(words);
  });

  test('of which there is one is that file, whatever is made of its rows', async () => {
    const text = 'shop,Jan 2026,Feb 2026,Mar 2026\nAlder,1,2,3\nAlder,1,2,3\nBirch,1,1,1\n';
    const more: Partial<TableEntry> = { repeats: { by: 'row' }, long: { name: 'month', value: 'net' } };
    const file = fileOf('a.csv', new TextEncoder().encode(text));
    const listed = await readTable(entryFor(['a.csv'], more), [file]);
    const alone = await readTable({ ...entryFor(['a.csv'], more), source: { file: 'a.csv' } }, file);
    expect([listed.rows, listed]).toEqual([6, alone]);
  });

  test('takes each of them into its bundle under a name of its own, and is read from there', async () => {
    const files = new Map([
      ['north/Sales 2026-01.csv', bytesOf(plain, 0)],
      ['south/Sales 2026-01.csv', bytesOf({ ...plain, amounts: [10, 20, 30, 40] }, 0)],
    ]);
    const inside = readBundle(wholeBundle(report, new Map(), files));
    const [entry] = inside.report.tables;
    expect(entry!.source.files).toEqual(['Sales 2026-01.csv', 'Sales 2026-01-2.csv']);
    const table = await readTable(
      entry!,
      entry!.source.files!.map((name) => fileOf(name, inside.files.get(name)!)),
    );
    expect([table.rows, netOf(table)]).toEqual([8, 110]);
  });
});
