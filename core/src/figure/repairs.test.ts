import { expect, test } from 'vitest';
import { readBrief } from '../brief';
import { Refusal } from '../query';
import { readCsv } from '../reading';
import { checkReport, type Look } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { drawFigure, numbersOf, repairsFor } from '.';

// A refusal says what would be drawn; the first button beside it draws that.

const SALES = ['month,shop,net,pieces', '2024-01,A,4,1', '2024-02,B,6,3', '2025-01,A,5,1', '2025-02,B,7,2'];
const PRICES = ['shop,price', 'A,2', 'B,3'];
const GOALS = ['quarter,goal', '2025-01-01,8', '2025-04-01,9'];
const PLANS = ['quarter,shop,plan', '2025-01-01,A,4', '2025-01-01,B,5', '2025-04-01,A,4', '2025-04-01,B,5'];
const UNDATED = ['shop,aim', 'A,3', 'B,4'];
const FILES = { sales: SALES, prices: PRICES, goals: GOALS, plans: PLANS, aims: UNDATED };

const REPORT = checkReport({
  boldRuler: 1,
  name: 'shops',
  tables: [
    { id: 'sales', source: { file: 'sales.csv' }, date: 'month', grain: 'month' },
    { id: 'prices', source: { file: 'prices.csv' } },
    { id: 'goals', source: { file: 'goals.csv' }, date: 'quarter', grain: 'quarter' },
    { id: 'plans', source: { file: 'plans.csv' }, date: 'quarter', grain: 'quarter' },
    { id: 'aims', source: { file: 'aims.csv' } },
  ],
  measures: [
    { name: 'net', table: 'sales', expression: 'sum(net)' },
    { name: 'pieces', table: 'sales', expression: 'sum(pieces)' },
    { name: 'price', table: 'prices', expression: 'avg(price)' },
  ],
  benchmarks: [
    { name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)', spread: 'none' },
    { name: 'plan', kind: 'table', table: 'plans', expression: 'sum(plan)', spread: 'none' },
    { name: 'aim', kind: 'table', table: 'aims', expression: 'sum(aim)' },
  ],
});

async function opened() {
  const tables = await Promise.all(
    REPORT.tables.map(async ({ id, date }) => {
      const { [id as keyof typeof FILES]: lines } = FILES;
      return [id, makeTable(await readCsv(id, lines.join('\n')), { id, ...(date ? { date } : {}) })] as const;
    }),
  );
  return workspaceFor(REPORT, new Map(tables));
}

const CASES: [brief: string, change: string, look: Look][] = [
  ['net by shop each day', 'says “each month”', {}],
  ['net by shop during 2025-01-10 to 2025-02-03', 'says “during 2025-01-01 to 2025-02-28”', {}],
  ['price by shop during fiscal 2025', 'leaves out “during fiscal 2025”', {}],
  ['net by shop during fiscal 2025 against goal', 'leaves out “by shop”', {}],
  ['net each month during fiscal 2025 against goal', 'says “each quarter”', {}],
  ['net during 2025-02 to 2025-05 against goal', 'says “during 2025-01-01 to 2025-06-30”', {}],
  ['net by shop during 2025-01-01 to 2025-06-30 against plan as waterfall', 'leaves out “against plan”', {}],
  ['net each month against aim', 'leaves out “each month”', {}],
  ['net during 2025-01 to 2025-02 as waterfall', 'adds “by shop”, adds “against last year”', { quantity: 'pieces' }],
];

test.each(CASES)('“%s” is refused; the first button: %s', async (text, change, look) => {
  const workspace = await opened();
  const figure = { id: 'f', brief: text, look };
  await expect(drawFigure(workspace, figure)).rejects.toThrow(Refusal);
  const [first] = await repairsFor(workspace, figure, readBrief(text, workspace.vocabulary));
  expect(first?.change).toBe(change);
  await drawFigure(workspace, { ...figure, brief: first!.text });
});

test('a target that is not spread is known for its whole periods; before one is over nothing is held against it', async () => {
  const workspace = await opened();
  const brief = 'net during 2025-01-01 to 2025-06-30 against goal';
  const { rows, scene } = await drawFigure(workspace, { id: 'f', brief, look: {} });
  expect(numbersOf(rows).rows[0]).toMatchObject({ actual: 12, benchmark: 17, gap: null, standing: null });
  // No note speaks of gaps that there are not.
  expect(rows.checks.map(({ code }) => code)).toEqual(['due-not-known']);
  expect(rows.due).toBeNull();
  const steps = await drawFigure(workspace, {
    id: 'f',
    brief: 'net each quarter during fiscal 2025 against goal',
    look: {},
  });
  expect(steps.rows.checks.map(({ code }) => code)).toContain('due-not-known');
  expect(numbersOf(steps.rows).rows[0]).toMatchObject({ actual: 12, benchmark: 8, gap: null });
  expect(scene.title).toBe('Net: 12');
  const texts = scene.marks.flatMap((mark) => (mark.shape === 'text' ? [mark.text] : [])).join(' ');
  expect(texts).toContain('nothing is held against it while it runs');
});
