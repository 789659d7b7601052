import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { tries } from '../../proof/tries.fixture';
import { place } from '../../ruler';
import type { Mark } from '../../scene';
import { csvOf, dated, marksOf, textsOf, world } from '../change.fixture';
import { box, drawnFrom, type Drawing } from '../drawn.fixture';

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
  test('is whole on a ruler that is given and begins at zero, and broken on one that leaves zero out', async () => {
    const little = csv.replace('A,x,100', 'A,x,9100').replace('A,x,70', 'A,x,9070');
    const on = (ruler: object) =>
      drawnFrom(little, `${brief} on common`, { ...years, rulers: [{ id: 'common', kind: 'linear', ...ruler }] });
    const told = ({ scene }: Awaited<ReturnType<typeof on>>) => [
      marksOf(scene, 'break').length,
      textsOf(scene, 'legend').includes('broken: the ruler does not begin at zero'),
    ];
    expect(told(await on({ fit: 'zero' }))).toEqual([0, false]);
    expect(told(await on({ fit: 'fixed', domain: [0, 9500] }))).toEqual([0, false]);
    expect(told(await on({ fit: 'fixed', domain: [9000, 9500] }))).toEqual([4, true]);
    expect(told(await drawnFrom(little, brief, { ...years, look: { domain: [9000, 9500] } }))).toEqual([4, true]);
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
