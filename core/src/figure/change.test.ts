import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Form } from '../brief';
import { isoDay } from '../calendar';
import type { Look } from '../report';
import { place } from '../ruler';
import type { Mark, Scene } from '../scene';
import { box, drawnFrom, type Drawing } from './drawn.fixture';
import { extremesOf } from './incell/spark';
import { spread } from './time/endLabels';
import { tries } from '../proof/tries.fixture';

// What holds for the figures of change and the tables, whatever the members, the days and the numbers.

const DUST = 1e-6;
const marksOf = ({ marks }: Scene, ...roles: Mark['role'][]) => marks.filter(({ role }) => roles.includes(role));
const textsOf = ({ marks }: Scene, role: Mark['role']) =>
  marks.flatMap((mark) => (mark.shape === 'text' && mark.role === role ? [mark.text] : []));

/** Rows of some shops over two years that end within a month; the goals go on. */
const world = fc.record({
  shops: fc.array(fc.constantFrom('Nord', 'Süd', 'A shop of which the name goes on and on and on', 'Ö'), {
    minLength: 1,
    maxLength: 4,
  }),
  many: fc.option(fc.integer({ min: 20, max: 60 }), { freq: 1, nil: undefined }),
  amounts: fc.array(
    fc.oneof(fc.integer({ min: -300, max: 900 }), fc.constant(0), fc.double({ min: -1e6, max: 1e7, noNaN: true })),
    {
      minLength: 3,
      maxLength: 60,
    },
  ),
  asOf: fc.integer({ min: 0, max: 364 }),
});
type World = typeof world extends fc.Arbitrary<infer W> ? W : never;

const START = 19_723; // 2024-01-01
function csvOf({ shops, many, amounts }: World): string {
  const names = Array.from({ length: many ?? shops.length }, (_, i) => `${shops[i % shops.length]!} ${i}`);
  const lines = amounts.flatMap((amount, i) => {
    const day = START + ((i * 37) % 730);
    return [
      `${isoDay(day)},${names[(i * 7) % names.length]!},${Math.round(amount * 100) / 100},${Math.round(Math.abs(amount) * 90) / 100 + 1}`,
    ];
  });
  return ['day,shop,net,goal', ...lines].join('\n');
}
const dated = ({ asOf }: World, look: Look = {}): Drawing => ({
  date: 'day',
  look,
  calendar: { fiscalYearStart: 1, asOf: isoDay(START + 366 + asOf) },
  measures: [{ name: 'net', table: 't', expression: 'sum(net)', aim: 'raise' }],
  benchmarks: [{ name: 'goal', kind: 'fixed', value: 100, per: ['member', 'month'] }],
  types: [
    { name: 'day', type: 'date' },
    { name: 'shop', type: 'text' },
    { name: 'net', type: 'number' },
    { name: 'goal', type: 'number' },
  ],
});

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

describe('a waterfall', () => {
  test.each(['horizontal', 'vertical'] as const)('ties out in numbers and in pixels, %s', (orientation) =>
    fc.assert(
      fc.asyncProperty(world, fc.boolean(), async (w, zoom) => {
        const { scene } = await drawnFrom(
          csvOf(w),
          'net by shop during fiscal 2025 to date against last year as waterfall',
          dated(w, { orientation, ...(zoom ? { zoom: true as const } : {}) }),
        );
        const ruler = scene.rulers[0]!;
        const steps = marksOf(scene, 'total', 'rise', 'fall', 'rest');
        const far = (mark: Mark) =>
          (ruler.axis === 'x' ? [box(mark).x0, box(mark).x1] : [box(mark).y1, box(mark).y0]) as [number, number];
        let at = steps[0]!.value!;
        for (const [i, step] of steps.slice(1, -1).entries()) {
          const value = step.value ?? 0;
          const [from, to] = far(step);
          const [a, b] = value < 0 ? [to, from] : [from, to];
          // The end of a step is the start of the next, on the ruler.
          expect(a).toBeCloseTo(place(ruler, at), 4);
          at = Math.round((at + value) * 100) / 100;
          expect(b).toBeCloseTo(place(ruler, at), 4);
          expect(scene.marks.filter(({ role }) => role === 'connector')[i + 1]?.value).toBeCloseTo(at, 6);
        }
        expect(steps[steps.length - 1]!.value).toBeCloseTo(at, 6);
      }),
      { numRuns: tries(25) },
    ),
  );

  const csv = [
    'day,shop,line,net',
    '2024-01-02,A,x,100',
    '2024-01-02,B,x,50',
    '2025-01-02,A,x,70',
    '2025-01-02,A,y,60',
    '2025-01-02,C,y,5',
  ].join('\n');
  const years: Drawing = {
    date: 'day',
    calendar: { fiscalYearStart: 1, asOf: '2025-12-31' },
    measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
  };
  const brief = 'net by shop during fiscal 2025 against last year as waterfall';
  test('names what is new and what is gone, and states the sum', async () => {
    const { scene } = await drawnFrom(csv, brief, years);
    expect(textsOf(scene, 'label').slice(2)).toEqual(['last year', 'A', 'B (gone)', 'C (new)', 'net']);
    expect(textsOf(scene, 'value')).toEqual(['150', '+30', '−50', '+5', '135']);
    expect(textsOf(scene, 'legend')).toContain('last year 150 −15 in 3 steps = net 135');
  });
  test('opens a step by another field, its parts in its place', async () => {
    const { scene } = await drawnFrom(csv, brief, { ...years, look: { opened: { member: 'A', by: 'line' } } });
    expect(textsOf(scene, 'value')).toEqual(['150', '−30', '+60', '−50', '+5', '135']);
    const [x] = marksOf(scene, 'fall');
    expect(x!.key).toEqual({ shop: 'A', line: 'x' });
  });
  test('takes the largest steps first, whatever their sign', async () => {
    const { scene } = await drawnFrom(csv, brief, { ...years, look: { order: 'size' } });
    expect(textsOf(scene, 'value')).toEqual(['150', '−50', '+30', '+5', '135']);
  });
  test('has a ruler about its steps where they could not be read beside whole totals, and says so', async () => {
    const little = csv.replace('A,x,100', 'A,x,9100').replace('A,x,70', 'A,x,9070');
    const [large, zoomed, whole] = await Promise.all([
      drawnFrom(csv, brief, years),
      drawnFrom(little, brief, years),
      drawnFrom(little, brief, { ...years, look: { zoom: false } }),
    ]);
    const told = ({ scene }: typeof large) => [
      marksOf(scene, 'break').length,
      scene.rulers[0]!.domain[0] === 0,
      textsOf(scene, 'legend').includes('broken: the ruler does not begin at zero'),
    ];
    expect([told(large), told(zoomed), told(whole)]).toEqual([
      [0, true, false],
      [4, false, true],
      [0, true, false],
    ]);
  });
  test('has steps that fill its own ruler at every size, as few ticks as it may bear', async () => {
    const little = csv.replace('A,x,100', 'A,x,9100').replace('A,x,70', 'A,x,9070');
    for (const [width, height] of [
      [240, 160],
      [300, 260],
      [420, 300],
      [900, 500],
    ] as const)
      for (const orientation of ['horizontal', 'vertical'] as const) {
        const { scene } = await drawnFrom(little, brief, { ...years, look: { width, height, orientation } });
        const [low, high] = scene.rulers[0]!.domain;
        const steps = marksOf(scene, 'rise', 'fall').map(({ value }) => Math.abs(value!));
        // They go from 9,130 to 9,180 and back: a ruler much longer would show next to nothing of them.
        expect(Math.max(...steps) / (high - low)).toBeGreaterThan(0.3);
      }
  });
  test('breaks its totals with a sign where steps have a ruler of their own', async () => {
    const { scene } = await drawnFrom(csv, brief, { ...years, look: { zoom: true } });
    expect(scene.rulers[0]!.domain[0]).toBeGreaterThan(0);
    expect(marksOf(scene, 'break')).toHaveLength(4);
  });
});

describe('a bump', () => {
  const ranked = (shops: number) =>
    drawnFrom(
      [
        'day,shop,net',
        ...Array.from(
          { length: shops * 3 },
          (_, i) => `2025-0${1 + Math.floor(i / shops)}-02,S${i % shops},${(i * 7) % 11}`,
        ),
      ].join('\n'),
      'rank of net by shop each month as bump',
      { date: 'day', measures: [{ name: 'net', table: 't', expression: 'sum(net)' }] },
    );
  test('has coarser steps where its own would be a scribble, says so, and keeps notes in place', async () => {
    const months = Array.from(
      { length: 24 },
      (_, m) => `${2024 + Math.floor(m / 12)}-${String((m % 12) + 1).padStart(2, '0')}`,
    );
    const lines = months.flatMap((month, m) =>
      ['A', 'B', 'C'].map((shop, s) => `${month}-03,${shop},${((m + 1) * (s + 2) * 7) % 23}`),
    );
    const at = (width: number, height: number) =>
      drawnFrom(['day,shop,net', ...lines].join('\n'), 'rank of net by shop each month as bump', {
        look: { width, height, notes: [{ text: 'strike', at: { key: { shop: 'B' }, step: '2024-08' } }] },
        date: 'day',
        calendar: { fiscalYearStart: 1, asOf: '2025-12-31' },
        measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
      });
    const [small, large] = await Promise.all([at(240, 220), at(760, 400)]);
    const stepsOf = ({ scene }: typeof small) => [...new Set(marksOf(scene, 'cell').map(({ step }) => step))];
    expect(stepsOf(large)).toEqual(months);
    expect(stepsOf(small)).toEqual([
      '2024-Q1',
      '2024-Q2',
      '2024-Q3',
      '2024-Q4',
      '2025-Q1',
      '2025-Q2',
      '2025-Q3',
      '2025-Q4',
    ]);
    expect(small.scene.description).toContain('each quarter');
    for (const { scene, rows } of [small, large]) {
      expect(rows.checks.filter(({ code }) => code === 'note-adrift')).toEqual([]);
      const node = marksOf(scene, 'node').find(
        ({ key, step }) => key['shop'] === 'B' && ['2024-08', '2024-Q3'].includes(step!),
      );
      const note = scene.marks.find((mark) => mark.role === 'note' && mark.key['shop'] === 'B')!;
      expect(Math.abs(box(note).x0 - box(node!).x0)).toBeLessThan(120);
    }
    // Ranks of quarters are those of what came together in them.
    const sums = new Map<string, number>();
    for (const line of lines) {
      const [day, shop, net] = line.split(',') as [string, string, string];
      const key = `${day.slice(0, 4)}-Q${Math.ceil(Number(day.slice(5, 7)) / 3)} ${shop}`;
      sums.set(key, (sums.get(key) ?? 0) + Number(net));
    }
    for (const { key, step, at: rank } of marksOf(small.scene, 'cell')) {
      const own = sums.get(`${step} ${key['shop']}`)!;
      expect(rank).toBe(1 + ['A', 'B', 'C'].filter((shop) => sums.get(`${step} ${shop}`)! > own).length);
    }
  });
  test('gives each of at most six lines an ink, at its line and its name; more have none', async () => {
    for (const shops of [2, 6, 7]) {
      const { marks } = (await ranked(shops)).scene;
      const inks = new Map(
        marks.flatMap((mark) => (mark.role === 'link' ? [[mark.key['shop'], mark.paint.stroke]] : [])),
      );
      expect(inks.size).toBe(shops);
      expect(new Set(inks.values()).size).toBe(shops > 6 ? 1 : shops);
      for (const mark of marks)
        if (mark.role === 'label' && mark.key['shop'] !== undefined)
          expect(mark.paint.fill).toBe(inks.get(mark.key['shop']));
    }
  });
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

test('in a bump the height says the rank and nothing else; ties stand beside one another', () =>
  fc.assert(
    fc.asyncProperty(world, fc.constantFrom('competition', 'dense', 'ordinal'), async (w, kind) => {
      const { scene, cells } = await drawnFrom(
        csvOf(w),
        'rank of net by shop each quarter during last 6 quarters as bump',
        dated(w, { rank: kind }),
      );
      const ruler = scene.rulers[0]!;
      const places = new Set<string>();
      for (const node of marksOf(scene, 'node')) {
        if (node.shape !== 'circle') continue;
        expect(node.cy).toBeCloseTo(place(ruler, node.value!), 6);
        const at = `${node.cx} ${node.cy}`;
        expect(places.has(at)).toBe(false);
        places.add(at);
      }
      const ranked = Array.from(cells.rank!).filter((rank) => !Number.isNaN(rank)).length;
      expect(places.size).toBe(ranked);
      if (kind === 'ordinal') {
        // Each rank is held once in each step.
        const held = Array.from(cells.rank!, (rank, i) => `${cells.steps![i]} ${rank}`).filter(
          (one) => !one.endsWith('NaN'),
        );
        expect(new Set(held).size).toBe(held.length);
      }
    }),
    { numRuns: tries(25) },
  ));

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
