import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Form } from '../brief';
import { drawFigure, rowKey, type Drawn } from '../figure';
import { readCsv } from '../reading';
import { checkReport, type Look } from '../report';
import { makeTable, type Table } from '../table';
import { workspaceFor, type OpenReport } from '../workspace';
import { reckon, WHOLE } from '.';
import { tries } from '../proof/tries.fixture';

const SHOPS = ['North', 'South', 'East', ''];
/** Order lines over two fiscal years, with returns, blanks and days without orders; the shops a brief names have one. */
const orders = fc
  .array(
    fc.record({
      day: fc.integer({ min: 0, max: 700 }),
      shop: fc.constantFrom(...SHOPS),
      channel: fc.constantFrom('Web', 'Schools'),
      net: fc.option(fc.integer({ min: -5000, max: 20_000 }), { freq: 8 }),
      cost: fc.integer({ min: 1, max: 9000 }),
    }),
    { minLength: 12, maxLength: 60 },
  )
  .map((lines) =>
    [
      'day,shop,channel,net,cost,goal',
      '2024-03-01,North,Web,12.50,3.00,6.00',
      '2025-03-01,South,Schools,7.25,2.00,4.00',
      ...lines.map(({ day, shop, channel, net, cost }) => {
        const date = new Date(Date.UTC(2024, 0, 1 + day)).toISOString().slice(0, 10);
        return `${date},${shop},${channel},${net === null ? '' : (net / 100).toFixed(2)},${(cost / 100).toFixed(2)},${(cost / 50).toFixed(2)}`;
      }),
    ].join('\n'),
  );

const BRIEFS: readonly (readonly [Form, string])[] = [
  ['bullet', 'net by shop during fiscal 2025 to date against goal as bullet'],
  ['bars', 'margin by shop, channel during fiscal 2025 to date against last year as bars'],
  ['pairs', 'net by shop during fiscal 2025 against flat as pairs, only channel is Web'],
  ['dial', 'net by shop against goal as dial'],
  ['headline', 'net during fiscal 2025 to date against last year as headline'],
  ['waterfall', 'net by shop during fiscal 2025 to date against last year as waterfall'],
  ['pace', 'cumulative net each month during fiscal 2025 against goal as pace'],
  ['bump', 'rank of net by shop each month as bump'],
  ['trend', 'change in net each month during last 18 months as trend'],
  ['league', 'net by shop each month as league, keep 2 highest'],
  ['table', 'share of net by shop against average as table'],
  ['bars', 'share of net by shop as bars, only shop is North or South'],
  ['table', 'net, margin by shop, channel during fiscal 2025 to date as table'],
  ['table', 'net, share of net, rank of net by shop as table'],
];

const TYPES = [
  { name: 'net', type: 'number' },
  { name: 'cost', type: 'number' },
] as const;

async function drawnFrom(
  csv: string,
  brief: string,
  look: Look = {},
): Promise<{ desk: OpenReport; table: Table; drawn: Drawn }> {
  const report = checkReport({
    boldRuler: 1,
    name: 'r',
    tables: [{ id: 'orders', source: { file: 'orders.csv' }, date: 'day' }],
    measures: [
      { name: 'net', table: 'orders', expression: 'sum(net)' },
      { name: 'margin', table: 'orders', expression: '(sum(net) - sum(cost)) / sum(cost)' },
    ],
    benchmarks: [
      { name: 'goal', kind: 'expression', expression: 'sum(goal)' },
      { name: 'flat', kind: 'fixed', value: 120, per: [] },
    ],
    figures: [{ id: 'f', brief, look }],
  });
  const table = makeTable(await readCsv('orders', csv, TYPES), { id: 'orders', date: 'day' });
  const desk = workspaceFor(report, new Map([['orders', table]]));
  return {
    desk,
    table,
    drawn: await drawFigure({ source: desk.source, report, vocabulary: desk.vocabulary }, report.figures[0]!),
  };
}

/** What an arithmetic comes to, worked out by the engine and not by us. */
function workedOut(text: string): number {
  expect(text).toMatch(/^[\d\s.+\-*/()eE]+$/);
  return Number(new Function(`return (${text.replaceAll('--', '- -')})`)());
}

const near = (a: number, b: number) => Math.abs(a - b) <= 1e-9 * Math.max(1, Math.abs(a), Math.abs(b));

/** Forms that show every value by a bar of its length. */
const WITH_BARS: ReadonlySet<Form> = new Set<Form>(['bullet', 'bars', 'pairs', 'dial', 'waterfall']);

/** Every pixel (or angle) at which a mark of a row begins, ends or has its middle. */
function coordinatesOf({ rows: cells, scene }: Drawn, row: number): number[] {
  const { key, step } = rowKey(cells, row);
  return scene.marks
    .filter((mark) => mark.step === step && JSON.stringify(mark.key) === JSON.stringify(key))
    .flatMap((mark) => {
      if (mark.shape === 'rect')
        return [
          mark.x,
          mark.x + mark.width,
          mark.x + mark.width / 2,
          mark.y,
          mark.y + mark.height,
          mark.y + mark.height / 2,
        ];
      if (mark.shape === 'line') return [mark.x1, mark.y1, Math.atan2(mark.x2 - mark.x1, mark.y1 - mark.y2)];
      if (mark.shape === 'circle') return [mark.cx, mark.cy];
      return mark.shape === 'arc' ? [mark.a0, mark.a1] : [];
    });
}

describe.each(BRIEFS)('the reckoning of a %s: %s', (form, brief) => {
  test('its arithmetic comes to the numbers and the pixels that are shown, and its rows are those it names', () =>
    fc.assert(
      fc.asyncProperty(orders, fc.nat(), async (csv, pick) => {
        const { desk, drawn } = await drawnFrom(csv, brief);
        const { rows: cells } = drawn;
        if (cells.count === 0) return;
        const row = pick % cells.count;
        const { sentences, behind, rows } = await reckon(desk, drawn, row);
        for (const { sum, text } of sentences) {
          expect(text).not.toMatch(/NaN|undefined|\[object/);
          if (sum && !near(workedOut(sum.text), sum.value)) throw new Error(`${sum.text} is not ${sum.value}`);
        }
        const actual = cells.actual[row]!;
        const shows = sentences
          .filter(({ about }) => about === 'value' || about === 'view')
          .map(({ sum }) => sum?.value);
        if (!Number.isNaN(actual) && cells.state[row] === 'actual' && brief.startsWith('net by'))
          expect(shows[shows.length - 1]).toBe(actual);
        for (const { about, sum } of sentences)
          if (about === 'gap' && sum)
            expect(
              [cells.gap![row], cells.gapPercent![row], cells.dueGap?.[row], cells.dueGapPercent?.[row]].some((one) =>
                near(one ?? NaN, sum.value),
              ),
            ).toBe(true);
        if (brief.startsWith('net') || brief.startsWith('cumulative')) {
          const whole = await reckon(desk, drawn, WHOLE);
          for (const { sum } of whole.sentences) if (sum) expect(near(workedOut(sum.text), sum.value)).toBe(true);
          const told = whole.sentences.find(({ about }) => about === 'value')!.sum?.value ?? NaN;
          expect(told).toBe(drawn.rows.shown.actual);
        }
        const columns = sentences.filter(({ about }) => about === 'column');
        const margin = cells.values.find(({ measure }) => measure.name === 'margin')?.of[row] ?? NaN;
        if (!Number.isNaN(margin)) {
          expect(columns).toHaveLength(1);
          expect(columns[0]!.sum!.value).toBe(margin);
        }
        // Its rows, found by looking at the file's text.
        if (behind) {
          const found = await desk.source.rows(behind, { from: 0, count: Infinity });
          expect([found.rows, found.lines.length]).toEqual([rows, rows]);
          const place = (field: string) => found.columns.findIndex(({ name }) => name === field);
          for (const line of found.lines)
            cells.fields.forEach((field, f) => expect(line[place(field)]).toBe(cells.members[f]![row]));
        }
        const stands = coordinatesOf(drawn, row);
        const places = sentences.filter(({ about }) => about === 'place');
        for (const { sum } of places)
          expect(stands.some((at) => Math.abs(at - workedOut(sum!.text)) < 0.02)).toBe(true);
        if (WITH_BARS.has(form) && actual !== 0 && !Number.isNaN(actual)) expect(places.length).toBeGreaterThan(0);
      }),
      { numRuns: tries(40) },
    ));
});

test('a mean of the steps before one without rows is not said to be 0', async () => {
  const csv = [
    'day,shop,channel,net,cost,goal',
    '2024-01-31,North,Web,80,1,1',
    '2024-02-29,North,Web,100,1,1',
    '2024-03-31,South,Web,7,1,1',
  ].join('\n');
  const brief = 'smoothed 2 net by shop each month during 2024-01 to 2024-03 against flat';
  const { desk, drawn } = await drawnFrom(csv, brief, { window: 'preceding' });
  const row = drawn.rows.actual.findIndex((value) => value === 90);
  const said = (await reckon(desk, drawn, row)).sentences.map(({ text }) => text).join('\n');
  expect(said).toContain('0 rows of orders.csv');
  expect(said).toContain('net is sum(net): there is none');
  expect(said).not.toContain('counts as');
});

test('bars, rules and points say where they stand', async () => {
  const csv = 'day,shop,channel,net,cost,goal\n2024-01-05,North,Web,80,1,100\n2024-02-05,South,Web,150,1,100';
  const { desk, drawn } = await drawnFrom(csv, 'net by shop against goal as bullet');
  const { title, sentences } = await reckon(desk, drawn, 0);
  const said = sentences.map(({ text }) => text).join('\n');
  expect(title).toBe('North');
  expect(said).toContain('1 row of orders.csv where shop is North.');
  expect(said).toContain('net is sum(net): 80');
  expect(said).toContain('It is held against goal, 100: sum(goal) over the same rows.');
  expect(said).toContain('That is −20.00% of goal.');
  expect(said).toContain('more is better: it is behind');
  expect(said).toContain('rule “behind”');
  const places = sentences.filter(({ about }) => about === 'place');
  expect(places).toHaveLength(2);
  const bar = drawn.scene.marks.find(({ role, key }) => role === 'actual' && key['shop'] === 'North')!;
  const rule = drawn.scene.marks.find(({ role, key }) => role === 'benchmark' && key['shop'] === 'North')!;
  expect(workedOut(places[0]!.sum!.text)).toBeCloseTo(
    (bar as { x: number; width: number }).x + (bar as { width: number }).width,
    6,
  );
  expect(workedOut(places[1]!.sum!.text)).toBeCloseTo((rule as { x1: number }).x1, 6);
});
