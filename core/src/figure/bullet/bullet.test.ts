import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { place } from '../../ruler';
import { writeSvg, type Mark } from '../../scene';
import { aim, box, drawn, drawnFrom, members, sized } from '../drawn.fixture';
import { rowBands } from './bands';
import { tries } from '../../proof/tries.fixture';

const sameRow = (a: Mark, b: Mark) => JSON.stringify(a.key) === JSON.stringify(b.key);

describe('laws of every bullet figure', () => {
  test('bars are as long as their values, rules stand at theirs, bands cover the row without gap', async () => {
    await fc.assert(
      fc.asyncProperty(members, sized, aim, async (list, l, a) => {
        const scene = await drawn(list, l, a);
        const ruler = scene.rulers[0]!;
        const horizontal = ruler.axis === 'x';
        const at = (value: number) => place(ruler, value);
        for (const bar of scene.marks.filter((m) => m.role === 'actual')) {
          const b = box(bar);
          const [from, to] = horizontal ? [b.x0, b.x1] : [b.y0, b.y1];
          expect(to - from).toBeCloseTo(Math.abs(at(bar.value!) - at(0)), 6);
          const bands = scene.marks.filter((m) => m.role === 'band' && sameRow(m, bar)).map(box);
          const across = horizontal ? b.y1 - b.y0 : b.x1 - b.x0;
          for (const band of bands)
            expect(across * 3).toBeCloseTo(horizontal ? band.y1 - band.y0 : band.x1 - band.x0, 6);
        }
        for (const rule of scene.marks.filter((m) => m.role === 'benchmark')) {
          const b = box(rule);
          expect(horizontal ? b.x0 : b.y0).toBeCloseTo(at(rule.value!), 6);
          const bands = scene.marks
            .filter((m) => m.role === 'band' && sameRow(m, rule))
            .map(box)
            .map((x) => (horizontal ? [x.x0, x.x1] : [x.y0, x.y1]) as [number, number]);
          bands.sort((x, y) => x[0] - y[0] || x[1] - y[1]);
          const ends = [Math.min(...ruler.range), Math.max(...ruler.range)];
          expect(bands[0]![0]).toBeCloseTo(ends[0]!, 6);
          expect(bands[bands.length - 1]![1]).toBeCloseTo(ends[1]!, 6);
          for (let i = 1; i < bands.length; i++) expect(bands[i]![0]).toBeCloseTo(bands[i - 1]![1], 6);
        }
      }),
      { numRuns: tries(60) },
    );
  });
});

describe('bands', () => {
  const covered = (bands: { from: number; to: number; name: string }[]) =>
    bands.map(({ from, to, name }) => `${from}–${to} ${name}`);
  test('rise to the target, fall to it, or lie around it', () => {
    const edges = { of: 'benchmark', edges: [0.75, 0.9] } as const;
    expect(covered(rowBands(edges, 100, 'raise', [0, 120]))).toEqual([
      '0–75 far off',
      '75–90 short',
      '90–120 in reach',
    ]);
    expect(covered(rowBands({ of: 'benchmark', edges: [1.5, 1.25] }, 100, 'cut', [0, 200]))).toEqual([
      '0–125 in reach',
      '125–150 short',
      '150–200 far off',
    ]);
    expect(covered(rowBands({ of: 'benchmark', edges: [0.5, 0.25] }, 100, 'hold', [0, 200]))).toEqual([
      '0–50 far off',
      '50–75 short',
      '75–125 in reach',
      '125–150 short',
      '150–200 far off',
    ]);
  });
  test('hang on the size of a negative benchmark, so that edges still rise', () => {
    expect(covered(rowBands({ of: 'benchmark', edges: [0.75, 0.9] }, -100, 'raise', [-200, 0]))).toEqual([
      '-200–-125 far off',
      '-125–-110 short',
      '-110–0 in reach',
    ]);
  });
  test('of a period that runs lie at shares of what is due by now, and the legend says so', async () => {
    // 31 of the 90 days of a quarter have gone by.
    const csv = ['day,shop,net,goal', '2025-01-01,North,10,900', '2025-01-31,North,250,', '2024-12-01,North,1,'].join(
      '\n',
    );
    const { scene, rows } = await drawnFrom(csv, 'net by shop during fiscal 2025 Q1 against goal as bullet', {
      date: 'day',
      measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
      benchmarks: [{ name: 'goal', kind: 'fixed', value: 900, per: ['quarter'] }],
    });
    const due = (900 * 31) / 90;
    expect(rows.due![0]).toBeCloseTo(due, 9);
    const ends = scene.marks.filter(({ role }) => role === 'band').map(({ value }) => value!);
    expect(ends.slice(0, 2).map((end) => Number((end / due).toFixed(6)))).toEqual([0.75, 0.9]);
    const texts = scene.marks.flatMap((mark) => (mark.shape === 'text' ? [mark.text] : []));
    expect(texts).toContain('far off: below 75% of the goal due by now');
  });
  test('lie where the members’ values have them, in the order of the aim', async () => {
    const members = [10, 20, 30, 40].map((actual, i) => ({ name: `m${i}`, actual, target: 25 }));
    const scene = await drawn(members, { bands: { of: 'members', edges: ['mean', 25] } });
    const words = scene.marks.flatMap((mark) => (mark.role === 'legend' && 'text' in mark ? [mark.text] : []));
    expect(words).toEqual(
      expect.arrayContaining([
        'weak: below the 25th percentile (18)',
        'middle: the 25th percentile (18) to the mean (25)',
        'strong: from the mean (25)',
      ]),
    );
  });
  test('edges in the wrong order are refused with the aim that they contradict', async () => {
    await expect(
      drawn([{ name: 'a', actual: 1, target: 2 }], { bands: { of: 'benchmark', edges: [0.9, 0.8] } }),
    ).rejects.toThrow(/do not rise.*aim raise/);
  });
});

test('a title states the finding and follows the numbers', async () => {
  const title = async (actual: number, template?: string) =>
    (await drawn([{ name: 'a', actual, target: 100 }], template === undefined ? {} : { title: template })).title;
  expect(await title(90)).toBe('Actual 90, 10 (10.0%) behind target');
  expect(await title(100)).toBe('Actual 100, level with target');
  expect(await title(125, '{measure}: {gap} {ahead of|behind} {benchmark}')).toBe('Actual: 25 ahead of target');
  await expect(title(1, '{measur}')).rejects.toThrow(/no value “measur” — did you mean “measure”/);
});

test('the SVG writer rounds to hundredths and leaves text from data as text', async () => {
  const svg = writeSvg(await drawn([{ name: '<script>alert("x")</script>&', actual: 1 / 3, target: 1 }]));
  expect(svg).not.toContain('<script');
  expect(svg).toContain('&lt;script&gt;');
  expect(svg.match(/="-?\d+\.\d{3,}"/)).toBeNull();
});
