import { describe, expect, test } from 'vitest';
import { readCsv } from '../reading';
import { checkReport, type Report } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { compareReports, isFigureChanged } from './compare';

const ORDERS = ['day,shop,net', '2025-01-05,Alder,10', '2025-02-06,Birch,20'];
const GOALS = ['shop,goal', 'Alder,12', 'Birch,14'];
const base = checkReport({
  boldRuler: 1,
  name: 'Pellwether',
  tables: [
    { id: 'orders', source: { file: 'orders.csv' } },
    { id: 'goals', source: { file: 'goals.csv' } },
  ],
  measures: [{ name: 'net', table: 'orders', expression: 'sum(net)' }],
  benchmarks: [{ name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)' }],
  figures: [
    { id: 'alone', brief: '"net" by "shop" during year to date' },
    { id: 'held', brief: '"net" by "shop" during year to date against "goal"' },
    { id: 'broken', brief: '"net" by "shop" during year to date against "nothing"' },
  ],
});

async function over(orders: readonly string[], goals: readonly string[], report: Report = base) {
  const rows = { orders, goals };
  const tables = await Promise.all(
    Object.entries(rows).map(
      async ([id, lines]) => [id, makeTable(await readCsv(id, lines.join('\n')), { id })] as const,
    ),
  );
  return workspaceFor(report, new Map(tables));
}
const compared = async (orders: readonly string[], goals: readonly string[], report?: Report) =>
  compareReports(await over(ORDERS, GOALS), await over(orders, goals, report));
const changedIn = ({ figures }: Awaited<ReturnType<typeof compared>>) =>
  figures.filter(isFigureChanged).map(({ id }) => id);

describe('figures before and after', () => {
  test('the same rows change nothing, also in a figure that cannot be answered', async () => {
    const same = await compared(ORDERS, GOALS);
    expect(changedIn(same)).toEqual([]);
    expect(same.figures.find(({ id }) => id === 'broken')!.problem!.before).toMatch(/nothing/);
    expect([same.restated, same.gone, same.come]).toEqual([[], [], []]);
  });

  test('another plan changes what is held against it alone', async () => {
    const { figures, restated, ...rest } = await compared(ORDERS, GOALS.with(1, 'Alder,13'));
    expect(changedIn({ figures, restated, ...rest })).toEqual(['held']);
    expect(figures[0]).toMatchObject({
      total: { before: 30, restated: 30, after: 30 },
      benchmark: { before: 26, restated: 27, after: 27 },
      rows: [{ key: { shop: 'Alder' }, before: 10, after: 10 }],
    });
    expect(restated).toEqual([]);
  });

  test('what changed of the past is told apart from what is new', async () => {
    const { figures, restated, asOf } = await compared(
      [...ORDERS.with(1, '2025-01-05,Alder,11'), '2025-02-09,Mill,5'],
      GOALS,
    );
    expect(asOf).toEqual(['2025-02-06', '2025-02-09']);
    expect(figures.find(({ id }) => id === 'alone')!.total).toEqual({ before: 30, restated: 31, after: 36 });
    expect(restated).toEqual([{ measure: 'net', month: '2025-01', before: 10, after: 11 }]);
  });

  test('what is broken afterwards comes first', async () => {
    const { figures } = await compared(['day,store,net', ...ORDERS.slice(1)], GOALS);
    expect(figures.map(({ id }) => id).slice(0, 2)).toEqual(['alone', 'held']);
    expect(figures[0]!.problem).toMatchObject({ before: null, after: expect.stringContaining('shop') as string });
  });

  test('figures of one of both are named', async () => {
    const fewer = { ...base, figures: base.figures.slice(1) };
    const { gone, come } = await compared(ORDERS, GOALS, fewer);
    expect([gone, come]).toEqual([['"net" by "shop" during year to date'], []]);
  });
});
