import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { place } from '../../ruler';
import { checkReport, type Look } from '../../report';
import { textWidth, writeSvg, type Mark, type Scene } from '../../scene';
import { readCsv } from '../../reading';
import { makeTable } from '../../table';
import { workspaceFor } from '../../workspace';
import { drawFigure } from '..';
import { rowBands } from './bands';

interface Member {
  readonly name: string;
  readonly actual: number | null;
  readonly target: number | null;
}

/** The figure of some members' actuals and targets. */
async function drawn(
  members: readonly Member[],
  look: Look = {},
  aim = 'raise',
  brief = 'actual by member against target',
): Promise<Scene> {
  const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`;
  const text = [
    'member,actual,target',
    ...members.map((m) => `${quoted(m.name)},${m.actual ?? ''},${m.target ?? ''}`),
  ].join('\n');
  const types = [
    { name: 'member', type: 'text' as const },
    { name: 'actual', type: 'number' as const },
    { name: 'target', type: 'number' as const },
  ];
  const table = makeTable(await readCsv('t', text, types), { id: 't' });
  const report = checkReport({
    boldRuler: 1,
    name: 't',
    tables: [{ id: 't', source: { file: 't.csv' } }],
    measures: [{ name: 'actual', table: 't', expression: 'sum(actual)', aim }],
    benchmarks: [{ name: 'target', kind: 'expression', expression: 'sum(target)' }],
    figures: [{ id: 'f', brief, look }],
  });
  const desk = workspaceFor(report, new Map([['t', table]]));
  return (await drawFigure(desk.source, report, report.figures[0]!, desk.vocabulary)).scene;
}

const amount = fc
  .oneof(fc.integer({ min: -500, max: 5000 }), fc.double({ min: -1e7, max: 1e8, noNaN: true }), fc.constant(0))
  .map((x) => (Math.abs(x) < 1e-9 ? 0 : Number(x.toPrecision(6))));
const member = fc.record<Member>({
  name: fc.oneof(
    fc.constantFrom('Nord', 'A territory with a name that goes on for quite a while and then some', 'Ö'),
    fc.string({ minLength: 1, maxLength: 30 }),
  ),
  actual: fc.option(amount, { freq: 6 }),
  target: fc.option(amount, { freq: 6 }),
});
const members = fc
  .oneof(
    { weight: 4, arbitrary: fc.array(member, { minLength: 1, maxLength: 14 }) },
    { weight: 1, arbitrary: fc.array(member, { minLength: 80, maxLength: 300 }) },
  )
  .map((list) => list.map((m, i) => ({ ...m, name: `${m.name.replace(/[\s\p{Cc}]+/gu, ' ').trim() || 'x'} ${i}` })));
const look = fc.record<Look>(
  {
    width: fc.integer({ min: 420, max: 1600 }),
    orientation: fc.constantFrom('horizontal', 'vertical'),
  },
  { requiredKeys: ['width', 'orientation'] },
);
const sized = fc
  .tuple(look, fc.option(fc.integer({ min: 360, max: 1200 }), { nil: undefined }))
  .map(([l, height]): Look => (height === undefined ? l : { ...l, height }));
const aim = fc.constantFrom('raise', 'cut', 'hold');

/** The box a mark takes. */
function box(mark: Mark): { x0: number; x1: number; y0: number; y1: number } {
  switch (mark.shape) {
    case 'rect':
      return { x0: mark.x, x1: mark.x + mark.width, y0: mark.y, y1: mark.y + mark.height };
    case 'line':
      return {
        x0: Math.min(mark.x1, mark.x2),
        x1: Math.max(mark.x1, mark.x2),
        y0: Math.min(mark.y1, mark.y2),
        y1: Math.max(mark.y1, mark.y2),
      };
    case 'text': {
      const width = textWidth(mark.text, mark.size, mark.weight);
      const x0 = mark.anchor === 'start' ? mark.x : mark.anchor === 'middle' ? mark.x - width / 2 : mark.x - width;
      return { x0, x1: x0 + width, y0: mark.y - mark.size * 0.72, y1: mark.y + mark.size * 0.2 };
    }
    case 'path': {
      const xs = mark.points.map(([x]) => x);
      const ys = mark.points.map(([, y]) => y);
      return { x0: Math.min(...xs), x1: Math.max(...xs), y0: Math.min(...ys), y1: Math.max(...ys) };
    }
    default:
      throw new Error(`bullets have no ${mark.shape}`);
  }
}

const sameRow = (a: Mark, b: Mark) => JSON.stringify(a.key) === JSON.stringify(b.key);
const dust = 1e-6;

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
      { numRuns: 60 },
    );
  });

  test('nothing leaves the frame, no two labels touch, and no label is smaller than eleven pixels', async () => {
    await fc.assert(
      fc.asyncProperty(members, sized, async (list, l) => {
        const scene = await drawn(list, l);
        const boxes = scene.marks.map((mark) => ({ mark, ...box(mark) }));
        for (const b of boxes) {
          const inside = b.x0 >= -dust && b.x1 <= scene.width + dust && b.y0 >= -dust && b.y1 <= scene.height + dust;
          if (!inside)
            throw new Error(`${b.mark.role} ${JSON.stringify(b.mark)} leaves ${scene.width} × ${scene.height}`);
        }
        const texts = boxes.filter(({ mark }) => mark.shape === 'text').sort((a, b) => a.y0 - b.y0);
        for (let i = 0; i < texts.length; i++) {
          const a = texts[i]!;
          if (a.mark.shape === 'text') expect(a.mark.size).toBeGreaterThanOrEqual(11);
          for (let j = i + 1; j < texts.length && texts[j]!.y0 < a.y1; j++) {
            const b = texts[j]!;
            if (a.x0 < b.x1 - dust && b.x0 < a.x1 - dust && b.y0 < a.y1 - dust)
              throw new Error(`“${(a.mark as { text: string }).text}” touches “${(b.mark as { text: string }).text}”`);
          }
        }
      }),
      { numRuns: 60 },
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
