import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { numbersOf } from '../figure';
import { answerBrief } from '../query';
import { fileOf } from '../reading';
import { checkReport, type KnownTable, type TableEntry } from '../report';
import { isStackable } from '../table';
import { readTable, stacked, workspaceFor } from '.';

const read = async (entry: TableEntry, text: string): Promise<KnownTable> => ({
  entry,
  table: await readTable(entry, fileOf(entry.source.file, new TextEncoder().encode(text))),
});
const sheet = (id: string, text: string, more: Partial<TableEntry> = {}) =>
  read({ id, source: { file: 'shops.xlsx', sheet: id }, ...more }, text);

/** The numbers of a brief over rows that were put together, read from the file they are kept in. */
async function numbers(parts: readonly KnownTable[], text: string) {
  const { entry, csv } = stacked(parts);
  const report = checkReport({
    boldRuler: 1,
    name: 'r',
    tables: [entry],
    measures: [{ name: 'net', table: entry.id, expression: 'sum(net)' }],
  });
  const table = await readTable(report.tables[0]!, fileOf(entry.source.file, new TextEncoder().encode(csv)));
  const desk = workspaceFor(report, new Map([[entry.id, table]]));
  const { rows, total } = numbersOf(await answerBrief(desk, readBrief(text, desk.vocabulary)));
  return { total: total.actual, rows: rows.map(({ key, actual }) => [...Object.values(key), actual]) };
}

describe('tables of the same columns', () => {
  test('law: under one another they hold all their rows, and each row knows its table', async () => {
    const rows = fc.array(
      fc.tuple(fc.constantFrom('Keys', 'Brass', 'Café, “new”'), fc.integer({ min: -999, max: 999 })),
      { minLength: 1, maxLength: 8 },
    );
    await fc.assert(
      fc.asyncProperty(fc.array(rows, { minLength: 2, maxLength: 4 }), async (sheets) => {
        const parts = await Promise.all(
          sheets.map((some, i) =>
            sheet(
              `Shop ${i + 1}`,
              `day,line,net\n${some.map(([line, net]) => `2025-01-05,"${line}",${net}`).join('\n')}\n`,
            ),
          ),
        );
        const { total, rows: found } = await numbers(parts, 'net by sheet as bars, sorted by name');
        expect(found).toEqual(sheets.map((some, i) => [`Shop ${i + 1}`, some.reduce((sum, [, net]) => sum + net, 0)]));
        expect(total).toBe(sheets.flat().reduce((sum, [, net]) => sum + net, 0));
      }),
      { numRuns: 30 },
    );
  });

  test('a third one is put under two that are together already, and names that are read as others stay so', async () => {
    const [north, south, west] = await Promise.all([
      sheet('North', 'day,rep,net\n2025-01-05,N. Ohara,1\n', { same: { rep: { 'N. Ohara': 'Nils Ohara' } } }),
      sheet('South', 'day,rep,net\n2025-01-05,Nils,2\n', { same: { rep: { Nils: 'Nils Ohara' } } }),
      sheet('West', 'day,rep,net\n2025-01-05,Ines,4\n'),
    ]);
    const two = stacked([north!, south!]);
    const brief = 'net by sheet, rep as bars, sorted by name';
    expect((await numbers([two, west!], brief)).rows).toEqual([
      ['North', 'Nils Ohara', 1],
      ['South', 'Nils Ohara', 2],
      ['West', 'Ines', 4],
    ]);
  });

  test('other columns and other kinds are told apart; what a file calls otherwise counts by its name in the report', async () => {
    const [a, b, c, d] = await Promise.all([
      sheet('a', 'day,net\n2025-01-05,1\n'),
      sheet('b', 'net,day\n2,2025-01-06\n'),
      sheet('c', 'day,net\n2025-01-05,much\n'),
      sheet('d', 'date,net\n2025-01-05,8\n', { columns: [{ name: 'day', header: 'date' }] }),
    ]);
    expect([isStackable(a!.table, b!.table), isStackable(a!.table, c!.table)]).toEqual([true, false]);
    expect(() => stacked([a!, c!])).toThrow('“c” has other columns than “a”');
    expect((await numbers([d!, a!, b!], 'net by sheet as bars, sorted by name')).rows).toEqual([
      ['a', 1],
      ['b', 2],
      ['d', 8],
    ]);
  });
});
