import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Form } from '../../brief';
import { patternsOf, writeSvg, type Mark, type Scene } from '../../scene';
import { place } from '../../ruler';
import { box, drawn, drawnFrom, members, sized } from '../drawn.fixture';
import { tries } from '../../proof/tries.fixture';

const marksOf = ({ marks }: Scene, role: Mark['role']) => marks.filter((mark) => mark.role === role);
const textsOf = ({ marks }: Scene, role: Mark['role']) =>
  marks.flatMap((mark) => (mark.shape === 'text' && mark.role === role ? [mark.text] : []));

describe.each<Form>(['bullet', 'bars', 'pairs'])('%s with every benchmark at 100 %', (form) => {
  test('bars are as long as their part of it, and rules stand on one line', () =>
    fc.assert(
      fc.asyncProperty(members, sized, async (list, look) => {
        const scene = await drawn(
          list,
          { ...look, scale: 'of benchmark' },
          'raise',
          `actual by member against target as ${form}`,
        );
        const ruler = scene.rulers[0]!;
        expect(ruler.kind).toBe('of benchmark');
        const targets = new Map(list.map(({ name, target }) => [name, target]));
        const ends = (mark: Mark) => (ruler.axis === 'x' ? [box(mark).x0, box(mark).x1] : [box(mark).y0, box(mark).y1]);
        for (const bar of marksOf(scene, 'actual')) {
          const target = targets.get(bar.key.member!)!;
          expect(target).toBeGreaterThan(0);
          const [from, to] = ends(bar) as [number, number];
          expect(to - from).toBeCloseTo(Math.abs(place(ruler, bar.value! / target) - place(ruler, 0)), 4);
        }
        if (form === 'pairs') return;
        for (const rule of marksOf(scene, 'benchmark')) {
          const [from, to] = ends(rule) as [number, number];
          expect((from + to) / 2).toBeCloseTo(place(ruler, 1), 6);
        }
      }),
      { numRuns: tries(30) },
    ));
});

test('of two numbers on a bar it is clear which is which: the other is named', () =>
  fc.assert(
    fc.asyncProperty(members, sized, async (list, look) => {
      const { marks } = await drawn(
        list,
        { ...look, orientation: 'horizontal' },
        'raise',
        'actual by member against target as bars',
      );
      const bars = new Map(marks.flatMap((mark) => (mark.role === 'actual' ? [[mark.key.member, box(mark)]] : [])));
      for (const mark of marks) {
        if (mark.shape !== 'text' || mark.role !== 'value' || mark.weight === 600) continue;
        const [bar, text] = [bars.get(mark.key.member), box(mark)];
        if (bar && text.x0 < bar.x1 && text.x1 > bar.x0) expect(mark.text).toMatch(/^target /);
      }
    }),
    { numRuns: tries(30) },
  ));

const SHOP = [
  'day,shop,line,net,cost',
  '2024-01-10,A,x,100,40',
  '2024-01-20,B,x,50,30',
  '2024-01-21,B,y,10,5',
  '2025-01-05,A,x,60,50',
  '2025-01-06,B,x,90,60',
  '2025-01-07,C,y,40,10',
].join('\n');
const MEASURES = [
  { name: 'net', table: 't', expression: 'sum(net)' },
  { name: 'rate', table: 't', expression: '(sum(net) - sum(cost)) / sum(net)', format: { style: 'percent' } },
];
const shop = { date: 'day', measures: MEASURES, calendar: { fiscalYearStart: 1, asOf: '2025-12-31' } } as const;

test('several measures without a field are rows of their own, each in its unit', async () => {
  const { scene, rows } = await drawnFrom(SHOP, 'net, rate during fiscal 2025 against last year as bullet', shop);
  expect(textsOf(scene, 'value')).toEqual(['190', '36.8%']);
  expect(scene.rulers[0]!.kind).toBe('of benchmark');
  expect(marksOf(scene, 'cell').map(({ words }) => words)).toEqual([
    'net: 190; last year 160; +30 (+18.8%), ahead of last year',
    'rate: 36.8%; last year 53.1%; −16.3\u00a0pp (−30.7%), behind last year',
  ]);
  expect(rows.count).toBe(2);
  const alike = await drawnFrom(SHOP, 'net, cost during fiscal 2025 as bars', {
    ...shop,
    measures: [MEASURES[0]!, { name: 'cost', table: 't', expression: 'sum(cost)' }],
  });
  expect(alike.scene.rulers[0]!.kind).toBe('linear');
});

test('panels hold the rows of their member, all on one ruler', async () => {
  const { scene } = await drawnFrom(SHOP, 'net by shop, line as bars', {
    ...shop,
    look: { panels: 'line', width: 900 },
  });
  expect(scene.rulers).toHaveLength(2);
  expect(new Set(scene.rulers.map(({ domain }) => domain.join())).size).toBe(1);
  const [left, right] = scene.rulers.map(({ strip }) => strip);
  for (const mark of marksOf(scene, 'actual')) {
    const strip = mark.key.line === 'x' ? left! : right!;
    expect(box(mark).x0).toBeGreaterThan(strip.x);
    expect(box(mark).x1).toBeLessThan(strip.x + strip.width);
  }
  expect(textsOf(scene, 'label').filter((text) => text === 'B')).toHaveLength(2);
});

test('a running period shows where each row will land: at its pace, or with the rest as planned', async () => {
  const csv = ['day,shop,net', '2025-01-10,A,30', '2025-01-10,B,10'].join('\n');
  const landing = async (kept: 'as so far' | 'as planned') => {
    const { scene, cells } = await drawnFrom(csv, 'net by shop during 2025-01 against goal as bullet', {
      date: 'day',
      calendar: { fiscalYearStart: 1, asOf: '2025-01-10' },
      measures: [MEASURES[0]!],
      benchmarks: [{ name: 'goal', kind: 'fixed', value: 62, per: ['member', 'month'] }],
      look: { landing: kept },
    });
    return { ghosts: marksOf(scene, 'forecast').map(({ value }) => value), cells, scene };
  };
  // 20 of 62 are due by the tenth: A is at 1.5 times that pace, B at half of it.
  const { ghosts, scene } = await landing('as so far');
  expect(ghosts).toEqual([93, 31]);
  const [ghost] = marksOf(scene, 'forecast').map(box);
  const [bar] = marksOf(scene, 'actual').map(box);
  expect(ghost!.x0).toBeCloseTo(bar!.x1, 9);
  expect((await landing('as planned')).ghosts).toEqual([72, 52]);
});

test('bands may have edges that are expressions of each row', async () => {
  const { scene } = await drawnFrom(SHOP, 'net by shop during fiscal 2025 as bullet', {
    ...shop,
    look: { bands: { of: 'expression', edges: ['sum(cost)', '2 * sum(cost)'] } },
  });
  const first = scene.marks.filter(({ role, key }) => role === 'band' && key.shop === 'A');
  expect(first.map(({ value }) => value)).toEqual([50, 100, scene.rulers[0]!.domain[1]]);
  expect(textsOf(scene, 'legend').join()).toContain('far off: below sum(cost)');
  await expect(
    drawnFrom(SHOP, 'net by shop as bullet', { ...shop, look: { bands: { of: 'expression', edges: ['sum(nett)'] } } }),
  ).rejects.toThrow(/bands of the figure.*nett/);
});

describe('a highlight', () => {
  const lit = async (brief: string, highlight: object) =>
    (await drawnFrom(SHOP, `${brief} as bars, lit by own`, { ...shop, highlights: [{ name: 'own', ...highlight }] }))
      .scene;
  const inked = (scene: Scene) =>
    marksOf(scene, 'actual').map(({ key, paint, rule }) => [key.shop, rule ?? paint.fill]);
  const rules = (when: object, encode: object = {}) => ({ rules: [{ id: 'r', when, encode }] });

  test('may look at places won since the period before', async () => {
    // Before: A 100, B 60. Now: B 90, A 60, C 40.
    const scene = await lit('net by shop during fiscal 2025 against last year', {
      on: 'rank change',
      ...rules({ from: 1 }),
    });
    expect(inked(scene)).toEqual([
      ['A', '#16202B'],
      ['B', 'r'],
      ['C', '#16202B'],
    ]);
    expect(textsOf(scene, 'legend')).toContain('places won');
  });
  test('may look at an expression', async () => {
    const scene = await lit('net by shop during fiscal 2025', {
      on: 'expression',
      expression: 'sum(cost) / sum(net)',
      ...rules({ to: 0.5 }),
    });
    expect(inked(scene)).toEqual([
      ['A', '#16202B'],
      ['B', '#16202B'],
      ['C', 'r'],
    ]);
  });
  test('finds the highest of each row’s own steps', async () => {
    const scene = await lit('net by shop each year', { on: 'value', ...rules({ highest: 1, within: 'row' }) });
    expect(
      marksOf(scene, 'actual')
        .filter(({ rule }) => rule)
        .map(({ key, step }) => [key.shop, step]),
    ).toEqual([
      ['A', '2024'],
      ['B', '2025'],
      ['C', '2025'],
    ]);
  });
  test('lays its ink in patterns, which the picture defines once each', async () => {
    const scene = await lit('net by shop', { on: 'value', ...rules({}, { pattern: 'hatch', ink: '#147560' }) });
    expect(patternsOf(scene)).toEqual([{ id: 'hatch-147560', kind: 'hatch', ink: '#147560' }]);
    const svg = writeSvg(scene);
    expect(svg.match(/<pattern /g)).toHaveLength(1);
    expect(svg.match(/url\(#hatch-147560\)/g)!.length).toBeGreaterThanOrEqual(3);
  });
  test('mixes the inks of a ramp, and its legend names its ends', async () => {
    const scene = await lit('net by shop during fiscal 2025', {
      on: 'value',
      rules: [],
      ramp: { low: '#C6D3CA', high: '#0A4638' },
    });
    const [a, b, c] = inked(scene).map(([, ink]) => ink);
    expect([b, c]).toEqual(['#0A4638', '#C6D3CA']);
    expect([b, c]).not.toContain(a);
    expect(textsOf(scene, 'legend')).toEqual(['40 to 90']);
  });
});

test('a legend tells of a benchmark and its bands only where a row has one', async () => {
  const legend = async (year: number) => {
    const { scene } = await drawnFrom(SHOP, `net by shop during fiscal ${year} against last year as bullet`, {
      ...shop,
      look: { bands: { of: 'benchmark', edges: [0.8, 1] } },
    });
    return textsOf(scene, 'legend').join(' ');
  };
  expect(await legend(2025)).toMatch(/behind last year .*last year .*short: 80% to 100%/);
  expect(await legend(2024)).toBe('net');
});
