import { describe, expect, test } from 'vitest';
import { readBrief, writeBrief } from '../brief';
import { readCsv } from '../reading';
import { factsIn, makeTable, type Table } from '../table';
import {
  benchmarksOf,
  checkReport,
  firstBrief,
  reportFor,
  vocabularyOf,
  withColumns,
  writeReport,
  type KnownTable,
} from '.';

async function known(id: string, text: string): Promise<{ table: Table; known: KnownTable }> {
  const table = makeTable(await readCsv(id, text), { id });
  return { table, known: { entry: { id, source: { file: `${id}.csv` } }, table } };
}

const SALES = 'day,shop,net,cost\n2024-01-05,Nord,10,4\n2025-02-05,Süd,20,5\n';
const GOALS = 'month,shop,goal\n2025-01,Nord,15\n2025-02,Süd,15\n';

describe('a report for data without one', () => {
  test('measures each number column, and holds against those of further tables', async () => {
    const [sales, goals] = [await known('sales', SALES), await known('goals', GOALS)];
    const report = reportFor('sales', [sales.known, goals.known]);
    expect(report.measures.map(({ name, expression }) => [name, expression])).toEqual([
      ['net', 'sum("net")'],
      ['cost', 'sum("cost")'],
    ]);
    expect(benchmarksOf(report).map(({ name }) => name)).toEqual([
      'goal',
      'goals',
      'net',
      'cost',
      'previous period',
      'previous day',
      'last year',
      'average',
    ]);
    expect(checkReport(JSON.parse(writeReport(report)))).toEqual(JSON.parse(writeReport(report)));
  });
  test('begins with a brief that its own vocabulary reads', async () => {
    const [sales, goals] = [await known('sales', SALES), await known('goals', GOALS)];
    const tables = new Map([
      ['sales', sales.table],
      ['goals', goals.table],
    ]);
    const text = (report: ReturnType<typeof reportFor>) => {
      const facts = factsIn(tables, report.calendar);
      const vocabulary = vocabularyOf(report, facts);
      return writeBrief(
        readBrief(
          firstBrief(report, facts, (id) => tables.get(id))!,
          vocabulary,
        ),
        vocabulary,
      );
    };
    expect(text(reportFor('x', [sales.known, goals.known]))).toBe(
      'net by shop during year to date against goal as bullet',
    );
    expect(text(reportFor('x', [sales.known]))).toBe('net by shop during year to date against last year as bullet');
  });
  test('has no first brief where there is nothing to add up', async () => {
    const words = await known('words', 'a,b\nx,y\n');
    const report = reportFor('words', [words.known]);
    expect(
      firstBrief(report, factsIn(new Map([['words', words.table]]), report.calendar), () => words.table),
    ).toBeNull();
  });
});

test('the vocabulary knows members in their order, and a benchmark defined again wins', async () => {
  const sizes = await known('sizes', 'size,n\nFull,1\nSmall,2\nHalf,3\n');
  const table = { ...sizes.table, orders: { size: ['Small', 'Half', 'Full'] } };
  const report = {
    ...reportFor('sizes', [sizes.known]),
    benchmarks: [{ name: 'last year', kind: 'fixed', value: 1, per: [] } as const],
  };
  expect(vocabularyOf(report, factsIn(new Map([['sizes', table]]), report.calendar)).members('size')).toEqual([
    'Small',
    'Half',
    'Full',
  ]);
  expect(benchmarksOf(report).filter(({ name }) => name === 'last year')).toEqual([report.benchmarks[0]]);
});

test('a table with other columns keeps what figures use, drops what only added up what is gone, and offers what is new', async () => {
  const sales = await known('sales', 'shop,net,cost\nNord,1,2');
  const plan = await known('plan', 'shop,Jan 2025,Feb 2025\nNord,1,2');
  const report = {
    ...reportFor('x', [sales.known, plan.known]),
    figures: [{ id: 'f', brief: 'net by shop', look: {} }],
  };
  const next = withColumns(report, 'plan', { lost: ['Jan 2025', 'Feb 2025'], newNumbers: [{ name: 'value' }] });
  expect(next.benchmarks.map(({ name }) => name)).toEqual(['net', 'cost', 'value', 'plan']);
  const turned = withColumns(report, 'sales', { lost: ['net', 'cost'], newNumbers: [{ name: 'margin', unit: 'EUR' }] });
  expect(turned.measures.map(({ name, format }) => [name, format.currency])).toEqual([
    ['net', undefined],
    ['margin', 'EUR'],
  ]);
});
