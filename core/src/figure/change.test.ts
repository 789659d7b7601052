import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Form } from '../brief';
import type { Look } from '../report';
import { place } from '../ruler';
import type { Mark } from '../scene';
import { csvOf, dated, DUST, marksOf, textsOf, world, type World } from './change.fixture';
import { box, drawnFrom } from './drawn.fixture';
import { extremesOf } from './incell/spark';
import { spread } from './time/endLabels';
import { tries } from '../proof/tries.fixture';

// What holds for the figures of change and the tables, whatever the members, the days and the numbers.

const BRIEFS: readonly (readonly [Form, string])[] = [
  ['waterfall', 'net by shop during fiscal 2025 to date against last year as waterfall'],
  ['pace', 'cumulative net each month during fiscal 2025 against goal as pace'],
  ['pace', 'cumulative net by shop each week during fiscal 2025 against last year as pace'],
  ['bump', 'rank of net by shop each month during fiscal 2025 to date as bump'],
  ['trend', 'net each week during fiscal 2025 against last year as trend'],
  ['trend', 'net by shop each month during last 14 months against goal as trend'],
  ['league', 'net by shop each month during fiscal 2025 to date against last year as league, keep 10 highest'],
  ['table', 'net, share of net, rank of net by shop during fiscal 2025 to date against last year as table'],
];
const look = fc.record<Look>(
  {
    width: fc.integer({ min: 460, max: 1500 }),
    height: fc.option(fc.integer({ min: 80, max: 1100 }), { nil: undefined as never }),
    orientation: fc.constantFrom('horizontal', 'vertical'),
    zoom: fc.constant(true),
    draw: fc.constantFrom('line', 'bars', 'both', 'pairs'),
    panels: fc.constant('shop'),
    smooth: fc.constant(3),
  },
  { requiredKeys: ['width'] },
);

describe.each(BRIEFS)('laws of %s: %s', (_form, brief) => {
  test('nothing leaves the frame, no two labels touch, and everything that answers is spoken', () =>
    fc.assert(
      fc.asyncProperty(world, look, async (w, l) => {
        const { height, ...rest } = l;
        const { scene } = await drawnFrom(csvOf(w), brief, dated(w, height === undefined ? rest : { ...rest, height }));
        const boxes = scene.marks.map((mark) => ({ mark, ...box(mark) }));
        for (const b of boxes)
          if (!(b.x0 >= -DUST && b.x1 <= scene.width + DUST && b.y0 >= -DUST && b.y1 <= scene.height + DUST))
            throw new Error(`${JSON.stringify(b.mark)} leaves ${scene.width} × ${scene.height}`);
        const texts = boxes.filter(({ mark }) => mark.shape === 'text').sort((a, b) => a.y0 - b.y0);
        texts.forEach((a, i) => {
          for (let j = i + 1; j < texts.length && texts[j]!.y0 < a.y1; j++) {
            const b = texts[j]!;
            if (a.x0 < b.x1 - DUST && b.x0 < a.x1 - DUST && b.y0 < a.y1 - DUST)
              throw new Error(`“${(a.mark as { text: string }).text}” touches “${(b.mark as { text: string }).text}”`);
          }
        });
        for (const cell of marksOf(scene, 'cell')) expect(cell.words).toMatch(/: /);
      }),
      { numRuns: tries(25) },
    ));
});

describe('a pace', () => {
  test('never goes past the as-of date, and its gap neither', () =>
    fc.assert(
      fc.asyncProperty(world, fc.constantFrom('day', 'week', 'month'), async (w, grain) => {
        const { scene, cells } = await drawnFrom(
          csvOf(w),
          `cumulative net each ${grain} during fiscal 2025 against goal as pace`,
          dated(w),
        );
        const steps = cells.count;
        const [path] = marksOf(scene, 'path');
        const over = Array.from(cells.steps!).filter((step) => step <= cells.asOf).length;
        if (path?.shape === 'path') expect(path.points.length).toBeLessThanOrEqual(over);
        const [held] = marksOf(scene, 'benchmark', 'forecast').filter(({ shape }) => shape === 'path');
        if (path && held) expect(box(path).x1).toBeLessThanOrEqual(Math.max(box(held).x1, box(path).x0) + DUST);
        expect(marksOf(scene, 'gap').every(({ step }) => step !== null)).toBe(true);
        expect(marksOf(scene, 'gap').length).toBeLessThanOrEqual(over);
        expect(marksOf(scene, 'cell')).toHaveLength(steps);
      }),
      { numRuns: tries(25) },
    ));
  test('lands on the benchmark’s own shape, and says what each day needs', async () => {
    const csv = ['day,net', '2025-01-05,40', '2025-01-10,20'].join('\n');
    const { scene } = await drawnFrom(csv, 'cumulative net each day during 2025-01 against goal as pace', {
      date: 'day',
      calendar: { fiscalYearStart: 1, asOf: '2025-01-10' },
      measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
      benchmarks: [{ name: 'goal', kind: 'fixed', value: 310, per: ['month'] }],
    });
    // 100 are due by the tenth: 60 of them are there.
    const landing = marksOf(scene, 'node').map(({ value }) => value);
    expect(landing).toEqual([60, 186]);
    expect(textsOf(scene, 'legend')).toContain('11.90 a day for 21 days reaches goal');
  });
  test('is held against the whole of last year, the running step against what was due of it', async () => {
    const csv = ['day,net', '2024-01-05,10', '2024-01-20,30', '2024-05-01,60', '2025-01-10,25'].join('\n');
    const { cells } = await drawnFrom(csv, 'cumulative net each month during fiscal 2025 against last year as pace', {
      date: 'day',
      calendar: { fiscalYearStart: 1, asOf: '2025-01-10' },
      measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
    });
    expect(Array.from(cells.benchmarks!.slice(0, 5))).toEqual([40, 40, 40, 40, 100]);
    expect([cells.due![0], cells.dueGap![0]]).toEqual([10, 15]);
  });
});

test.each<Form>(['bump', 'trend'])(
  'of many members a few stand out by themselves in a %s, the rest when they are pressed',
  async (form) => {
    const w: World = { shops: ['Nord'], many: 30, amounts: Array.from({ length: 60 }, (_, i) => 10 + i), asOf: 200 };
    const view = form === 'bump' ? 'rank of net' : 'net';
    const strong = async (look: Look) => {
      const { scene } = await drawnFrom(
        csvOf(w),
        `${view} by shop each year during all time as ${form}`,
        dated(w, look),
      );
      const lines = marksOf(scene, 'path', 'link', 'emphasis').filter(
        ({ shape, paint }) => shape === 'path' && paint.opacity === undefined,
      );
      return new Set(lines.map(({ key }) => key.shop));
    };
    expect((await strong({})).size).toBe(3);
    expect(await strong({ emphasis: ['Nord 4'] })).toEqual(new Set(['Nord 4']));
    expect(await strong({ emphasis: ['nobody'] })).toEqual(await strong({}));
  },
);

describe('a trend', () => {
  test('bars are as long as their values, lines pass through them, and rules stand at theirs', () =>
    fc.assert(
      fc.asyncProperty(world, fc.constantFrom<Look['draw']>('line', 'bars', 'both', 'pairs'), async (w, draw) => {
        const { scene, cells } = await drawnFrom(
          csvOf(w),
          'net each month during fiscal 2025 against goal as trend',
          dated(w, { draw: draw! }),
        );
        const ruler = scene.rulers[0]!;
        for (const bar of marksOf(scene, 'actual'))
          expect(box(bar).y1 - box(bar).y0).toBeCloseTo(Math.abs(place(ruler, bar.value!) - place(ruler, 0)), 6);
        for (const rule of marksOf(scene, 'benchmark'))
          if (rule.shape === 'line') expect(rule.y1).toBeCloseTo(place(ruler, rule.value!), 6);
        const there = Array.from(cells.actual).filter((value) => !Number.isNaN(value));
        const points = marksOf(scene, 'path').flatMap((mark) =>
          mark.shape === 'path' ? mark.points.map(([, y]) => y) : [],
        );
        for (const y of points) expect(there.some((value) => Math.abs(place(ruler, value) - y) < 1e-6)).toBe(true);
      }),
      { numRuns: tries(20) },
    ));
  test('says how well a straight line fits, and marks what is not over', async () => {
    const csv = ['day,net', '2025-01-05,10', '2025-02-05,20', '2025-03-05,30', '2025-04-02,12'].join('\n');
    const { scene } = await drawnFrom(csv, 'net each month during 2025-01-01 to 2025-03-31 as trend', {
      date: 'day',
      calendar: { fiscalYearStart: 1, asOf: '2025-04-02' },
      measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
      look: { trend: true },
    });
    expect(textsOf(scene, 'legend')).toContain('straight line through 3 whole months: +10 a month, R² 1.00');
    const running = await drawnFrom(csv, 'net each month during fiscal 2025 as trend', {
      date: 'day',
      calendar: { fiscalYearStart: 1, asOf: '2025-04-02' },
      measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
      look: { draw: 'bars' },
    });
    expect(marksOf(running.scene, 'actual').map(({ step, paint }) => [step, paint.pattern])).toEqual([
      ['2025-01', undefined],
      ['2025-02', undefined],
      ['2025-03', undefined],
      ['2025-04', 'hatch'],
    ]);
  });
  test('refuses a brief without steps, and says what to add', async () => {
    const w: World = { shops: ['Ö'], many: undefined, amounts: [1, 2, 3], asOf: 40 };
    await expect(drawnFrom(csvOf(w), 'net by shop as trend', dated(w))).rejects.toThrow(/add a grain/);
    await expect(drawnFrom(csvOf(w), 'net each month during fiscal 2025 as pace', dated(w))).rejects.toThrow(
      /cumulative net/,
    );
  });
});

describe('tables', () => {
  const csv = [
    'day,shop,net',
    '2025-01-05,A,10',
    '2025-02-05,A,40',
    '2025-03-05,A,-5',
    '2025-01-06,B,60',
    '2025-02-06,B,20',
    '2025-03-07,C,7',
  ].join('\n');
  const made = (brief: string, look: Look = {}) =>
    drawnFrom(csv, brief, {
      date: 'day',
      look,
      calendar: { fiscalYearStart: 1, asOf: '2025-03-31' },
      measures: [
        { name: 'net', table: 't', expression: 'sum(net)' },
        { name: 'size', table: 't', expression: 'avg(net)' },
      ],
    });
  test('a league is in the order of its ranks, with the course of each beside it', async () => {
    const { scene } = await made('net by shop each month during fiscal 2025 to date as league');
    expect(textsOf(scene, 'label').slice(-6)).toEqual(['1', 'B', '2', 'A', '3', 'C']);
    const columns = marksOf(scene, 'path').filter(({ shape }) => shape === 'rect');
    expect(columns.map(({ value }) => value)).toEqual([60, 20, 10, 40, -5, 7]);
    // On one scale a column is as high as its value.
    const high = (mark: Mark) => box(mark).y1 - box(mark).y0;
    expect(high(columns[0]!) / high(columns[3]!)).toBeCloseTo(1.5, 6);
    const inked = columns.filter(({ paint }) => paint.fill === '#16202B').map(({ value }) => value);
    expect(inked).toEqual([60, 40]);
  });
  test('a row may have a scale of its own', async () => {
    const { scene } = await made('net by shop each month during fiscal 2025 to date as league', {
      columns: [{ of: 'net', cell: 'spark columns', scale: 'row' }],
    });
    const columns = marksOf(scene, 'path').filter(({ shape }) => shape === 'rect');
    const high = (mark: Mark) => box(mark).y1 - box(mark).y0;
    expect(high(columns[0]!)).toBeCloseTo(high(columns[5]!), 6);
  });
  test.each(['column', 'shared'] as const)('bars of a table share their scale: %s', async (scale) => {
    const { scene } = await made('net, size by shop as table', {
      columns: [
        { of: 'net', cell: 'bar', scale },
        { of: 'size', cell: 'bar', scale },
      ],
    });
    const bars = marksOf(scene, 'actual');
    const part = (mark: Mark) => (box(mark).x1 - box(mark).x0) / mark.value!;
    const [netA, sizeA, netB, sizeB] = bars.map(part) as [number, number, number, number];
    expect(netA).toBeCloseTo(netB, 6);
    expect(sizeA).toBeCloseTo(sizeB, 6);
    if (scale === 'shared') expect(netA).toBeCloseTo(sizeA, 6);
    else expect(sizeA).toBeGreaterThan(netA);
  });
  test('steps are rows with their names where there is no field', async () => {
    const { scene } = await made('net each month during fiscal 2025 to date as table');
    expect(textsOf(scene, 'label')).toEqual(expect.arrayContaining(['month', 'Jan 2025', 'Feb 2025', 'Mar 2025']));
    expect(textsOf(scene, 'total')).toEqual(['all', '132']);
    expect(textsOf((await made('net as table')).scene, 'label')).toContain('net');
  });
  test('has the whole at its foot, and cells of every kind', async () => {
    for (const cell of [
      'number',
      'bar',
      'share bar',
      'bullet',
      'delta',
      'dot',
      'face',
      'ramp',
      'spark line',
    ] as const) {
      const { scene } = await made('net, share of net by shop each month as table', { columns: [{ of: 'net', cell }] });
      expect(textsOf(scene, 'total')).toEqual(['all', '132', '100.0%']);
      const rows = marksOf(scene, 'cell').map(box);
      // No picture makes a row grow.
      for (const row of rows) expect(row.y1 - row.y0).toBe(28);
    }
  });
});

test('the extremes of a row are its extremes, the first where there are several', () =>
  fc.assert(
    fc.property(fc.array(fc.oneof(fc.integer({ min: -9, max: 9 }), fc.constant(NaN)), { maxLength: 12 }), (values) => {
      const there = values.filter((value) => !Number.isNaN(value));
      const found = extremesOf(values);
      if (there.length === 0 || Math.min(...there) === Math.max(...there)) expect(found).toBeNull();
      else
        expect(found).toEqual({
          highest: values.indexOf(Math.max(...there)),
          lowest: values.indexOf(Math.min(...there)),
        });
    }),
  ));

test('labels beside lines keep their order and their distance, and stay within', () =>
  fc.assert(
    fc.property(fc.array(fc.double({ min: -50, max: 400, noNaN: true }), { maxLength: 40 }), (heights) => {
      const placed = spread(
        heights.map((y) => ({ y })),
        14,
        [0, 300],
      );
      const kept = placed.flatMap((y, i) => (y === null ? [] : [{ y, wish: heights[i]! }])).sort((a, b) => a.y - b.y);
      expect(kept.length).toBe(Math.min(heights.length, 22));
      kept.forEach(({ y, wish }, i) => {
        expect(y >= -1e-9 && y <= 300 + 1e-9).toBe(true);
        if (i === 0) return;
        expect(y - kept[i - 1]!.y).toBeGreaterThanOrEqual(14 - 1e-6);
        expect(wish).toBeGreaterThanOrEqual(kept[i - 1]!.wish);
      });
    }),
  ));
