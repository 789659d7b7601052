import { createHash } from 'node:crypto';
import { describe, expect, test } from 'vitest';
import { answerFigure, drawFigure, figureNamed } from '@bold-ruler/core/figure';
import { numbersOf } from '@bold-ruler/core/figure';
import { type Numbers } from '@bold-ruler/core/query';
import { fileOf } from '@bold-ruler/core/reading';
import { readTable, workspaceFor } from '@bold-ruler/core/workspace';
import { LINES_HEADER, lineRows } from './lines';
import { followingLines, ORDERS_HEADER, orderLines } from './orders';
import { PLAN_HEADER, planRows } from './plan';
import { pellwetherReport } from './report';
import { RETURN } from './scenario';
import { STOCK_HEADER, stockRows } from './stock';

const csv = (header: readonly string[], lines: Iterable<readonly string[]>) =>
  [header, ...lines].map((line) => line.join(',')).join('\n');
const files: Record<string, string> = {
  'orders.csv': csv(ORDERS_HEADER, orderLines()),
  'plan.csv': csv(PLAN_HEADER, planRows()),
  'stock.csv': csv(STOCK_HEADER, stockRows()),
  'lines.csv': csv(LINES_HEADER, lineRows()),
};
const report = pellwetherReport();
const tables = new Map(
  await Promise.all(
    report.tables.map(async (entry) => {
      const bytes = new TextEncoder().encode(files[entry.source.file]);
      return [entry.id, await readTable(entry, fileOf(entry.source.file, bytes))] as const;
    }),
  ),
);
const desk = workspaceFor(report, tables);
const numbers = async (id: string): Promise<Numbers> =>
  numbersOf(await answerFigure({ source: desk.source, report, vocabulary: desk.vocabulary }, figureNamed(report, id)));
const brief = async (text: string): Promise<Numbers> =>
  numbersOf(
    await answerFigure(
      { source: desk.source, report, vocabulary: desk.vocabulary },
      { id: 'x', brief: text, look: {} },
    ),
  );
const of = (n: Numbers, name: string) => n.rows.find((row) => Object.values(row.key).includes(name))!;

test('the same seed makes the same rows, and another number of rows another table', () => {
  const hash = (text: string) => createHash('sha256').update(text).digest('hex');
  expect(hash(csv(ORDERS_HEADER, orderLines()))).toBe(hash(files['orders.csv']!));
  const few = [...orderLines(1000)].length;
  expect(few).toBeGreaterThan(900);
  expect(few).toBeLessThan(1100);
});

test('every row of the demo is read, and the as-of date lies inside a month', async () => {
  for (const table of tables.values()) expect(table.leftOutCounts).toEqual([]);
  expect((await numbers('territories')).asOf).toBe('2026-03-18');
});

test('its lookup finds every order and changes no sum, its second spelling is read as the first', async () => {
  const whole = (await brief('net sales during fiscal 2026 to date')).total.actual!;
  const byFamily = await brief('net sales by family during fiscal 2026 to date');
  expect(byFamily.rows.map(({ key }) => key['family'])).not.toContain(null);
  expect(byFamily.rows.reduce((sum, { actual }) => sum + Math.round(actual! * 100), 0)).toBe(Math.round(whole * 100));
  expect(desk.tables.get('orders')!.joined![0]!.notFound()).toBeNull();
  const lines = desk.tables.get('stock')!.columns.find(({ name }) => name === 'product line')!;
  expect(lines.kind === 'text' && lines.members).toContain('Accessories');
  expect(lines.kind === 'text' && lines.members).not.toContain('Accessory');
});

test('a month to add goes on where its orders end, and tells a few of their last days otherwise', async () => {
  const more = [...followingLines()];
  const days = more.map(([day]) => day!);
  expect([days[0]!.slice(0, 7), [...days].sort().at(-1)]).toEqual(['2026-03', '2026-04-18']);
  const known = new Set([...orderLines()].map((line) => line.join(',')));
  const before = more.filter(([day]) => day! <= '2026-03-18');
  const restated = before.filter((line) => !known.has(line.join(',')));
  expect(restated.length).toBeGreaterThan(3);
  expect(restated.every(([day]) => day! >= '2026-03-16')).toBe(true);
});

describe('the demo has its stories', () => {
  test('a territory rises from last to first', async () => {
    const ranks = await Promise.all(
      [2023, 2026].map(
        async (year) => of(await brief(`rank of net sales by territory during fiscal ${year}`), 'Larkmoor').rank,
      ),
    );
    expect(ranks).toEqual([8, 1]);
  });
  test('one product line far behind plan is hidden by another', async () => {
    const n = await numbers('product-lines');
    expect(of(n, 'Keys').gapPercent).toBeLessThan(-0.25);
    expect(of(n, 'Percussion').gapPercent).toBeGreaterThan(0.25);
    expect(Math.abs(n.total.gapPercent!)).toBeLessThan(0.03);
  });
  test('an account sends back a whole delivery', async () => {
    const n = await brief('net sales by account during 2026-02, keep 1 lowest');
    expect(n.rows[0]!.key.account).toBe(RETURN.account);
    expect(n.rows[0]!.actual).toBeLessThan(-60_000);
  });
  test('a rep has a perfect score and few orders', async () => {
    const [score, orders] = [
      await brief('delivery score by rep during fiscal 2026 to date'),
      await brief('order lines by rep during fiscal 2026 to date'),
    ];
    expect(of(score, 'Yara Dell')).toMatchObject({ actual: 10, rank: 1 });
    expect(of(orders, 'Yara Dell').rank).toBe(24);
  });
});

test('every figure of the demo is drawn, with a finding for its title and no label lost', async () => {
  for (const figure of report.figures) {
    const { scene } = await drawFigure({ source: desk.source, report, vocabulary: desk.vocabulary }, figure);
    expect(scene.title.length).toBeGreaterThan(10);
    expect(scene.dropped).toBe(0);
    // Headlines as text and tables measure nothing; panels may have a ruler each.
    if (/ as (?:headline|league|table)/.test(figure.brief)) expect(scene.rulers).toEqual([]);
    else if (figure.look.panels === undefined) expect(scene.rulers).toHaveLength(1);
    else expect(scene.rulers.length).toBeGreaterThan(1);
  }
});
