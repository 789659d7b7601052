import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Form } from '../brief';
import type { Look } from '../report';
import { place } from '../ruler';
import type { Mark } from '../scene';
import { aim, box, drawn, members, sized } from './drawn.fixture';
import { tries } from '../proof/tries.fixture';

// What holds for every form, whatever the members, the numbers and the paper.

const FORMS_DRAWN: readonly Form[] = ['bullet', 'bars', 'pairs', 'dial', 'headline'];
const against = fc.constantFrom(' against target', '');
const layout = fc.record<Look>(
  { layout: fc.constantFrom('text', 'over', 'beside'), references: fc.constant(['average']) },
  { requiredKeys: ['layout'] },
);
const dust = 1e-6;
const sameRow = (a: Mark, b: Mark) => JSON.stringify(a.key) === JSON.stringify(b.key);

describe.each(FORMS_DRAWN)('laws of %s', (form) => {
  const figure = fc
    .tuple(members, sized, layout, aim, against, fc.boolean())
    .map(([list, look, more, goal, held, inParts]) => ({
      list,
      look: {
        ...look,
        ...(form === 'headline' ? more : {}),
        ...(inParts && held ? { scale: 'of benchmark' as const } : {}),
      },
      goal,
      brief: `actual by member${held} as ${form}`,
    }));

  test('nothing leaves the frame, no two labels touch, and no label is smaller than eleven pixels', () =>
    fc.assert(
      fc.asyncProperty(figure, async ({ list, look, goal, brief }) => {
        const scene = await drawn(list, look, goal, brief);
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
      { numRuns: tries(40) },
    ));

  test('each member that is shown answers to the pointer, in words', () =>
    fc.assert(
      fc.asyncProperty(figure, async ({ list, look, goal, brief }) => {
        const scene = await drawn(list, look, goal, brief);
        const cells = scene.marks.filter(({ role }) => role === 'cell');
        const names = new Set(
          list.filter((m) => m.actual !== null || (m.target !== null && brief.includes('against'))).map((m) => m.name),
        );
        if (look.height === undefined) expect(cells.length).toBeGreaterThanOrEqual(names.size);
        for (const cell of cells) expect(cell.words).toContain(cell.key.member ?? '');
      }),
      { numRuns: tries(20) },
    ));
});

test.each<Form>(['bars', 'pairs'])(
  '%s are as long as their values, and rules stand at theirs, exactly as wide as their bars',
  (form) =>
    fc.assert(
      fc.asyncProperty(members, sized, aim, async (list, look, goal) => {
        const scene = await drawn(list, look, goal, `actual by member against target as ${form}`);
        const ruler = scene.rulers[0]!;
        const across = ruler.axis === 'x';
        const at = (value: number) => place(ruler, value);
        const along = (mark: Mark) =>
          (across ? [box(mark).x0, box(mark).x1] : [box(mark).y0, box(mark).y1]) as [number, number];
        const width = (mark: Mark) => (across ? [box(mark).y0, box(mark).y1] : [box(mark).x0, box(mark).x1]);
        const bars = scene.marks.filter(({ role }) => role === 'actual' || (form === 'pairs' && role === 'benchmark'));
        for (const bar of bars) {
          const [from, to] = along(bar);
          expect(to - from).toBeCloseTo(Math.abs(at(bar.value!) - at(0)), 6);
        }
        if (form === 'pairs') return;
        for (const rule of scene.marks.filter(({ role }) => role === 'benchmark')) {
          const [from, to] = along(rule);
          expect((from + to) / 2).toBeCloseTo(at(rule.value!), 6);
          const bar = bars.find((one) => sameRow(one, rule));
          if (bar) width(rule).forEach((end, i) => expect(end).toBeCloseTo(width(bar)[i]!, 6));
        }
      }),
      { numRuns: tries(40) },
    ),
);

test.each<Form>(['bullet', 'bars', 'pairs'])(
  '%s on a ruler with fixed ends are drawn to its end, with a sign where they go on',
  async (form) => {
    const list = [
      { name: 'a', actual: 5, target: 8 },
      { name: 'b', actual: 50, target: 20 },
      { name: 'c', actual: -3, target: 1 },
    ];
    const scene = await drawn(list, { domain: [0, 10] }, 'raise', `actual by member against target as ${form}`);
    const [r0, r1] = scene.rulers[0]!.range;
    expect(scene.rulers[0]!.domain).toEqual([0, 10]);
    const bars = scene.marks
      .filter(({ role }) => role === 'actual')
      .map((mark) => [mark.key.member, box(mark).x0, box(mark).x1]);
    expect(bars).toEqual([
      ['a', r0, r0 + (r1 - r0) / 2],
      ['b', r0, r1],
      ['c', r0, r0],
    ]);
    expect(scene.marks.filter(({ role }) => role === 'break').map(({ key, value }) => [key.member, value])).toEqual([
      ['b', 50],
      ['c', -3],
    ]);
  },
);

describe('a dial', () => {
  const arcs = (marks: readonly Mark[]) =>
    marks.flatMap((mark) => (mark.shape === 'arc' && mark.role === 'actual' ? [mark] : []));
  test('turns from zero to its value, all on one ruler', () =>
    fc.assert(
      fc.asyncProperty(members, sized, async (list, look) => {
        const scene = await drawn(list, look, 'raise', 'actual by member against target as dial');
        const ruler = scene.rulers[0];
        for (const arc of arcs(scene.marks)) {
          const ends = [place(ruler!, 0), place(ruler!, arc.value!)].sort((a, b) => a - b);
          expect(arc.a0).toBeCloseTo(ends[0]!, 9);
          expect(arc.a1).toBeCloseTo(ends[1]!, 9);
        }
      }),
      { numRuns: tries(30) },
    ));
  test('has stops of its own, which follow its members, and shows what lies beyond them', async () => {
    const list = [
      { name: 'a', actual: 5, target: 10 },
      { name: 'b', actual: 50, target: 20 },
    ];
    const scene = await drawn(list, { stops: { low: 0, high: 'target' } }, 'raise', 'actual by member as dial');
    expect(scene.rulers.map(({ domain }) => domain)).toEqual([
      [0, 10],
      [0, 20],
    ]);
    const beyond = scene.marks.filter(({ role }) => role === 'break');
    expect(beyond.map(({ key, value }) => [key.member, value])).toEqual([['b', 50]]);
    expect(scene.marks.filter(({ role }) => role === 'value').map((mark) => 'text' in mark && mark.text)).toEqual([
      '5',
      '50',
    ]);
    const together = await drawn(list, { stops: { high: 'target' } }, 'raise', 'actual as dial');
    expect(together.rulers[0]!.domain).toEqual([0, 30]);
  });
});

test.each<Form>(['bars', 'dial', 'headline'])(
  'names that differ in their ends only can be told apart as %s',
  async (form) => {
    const name = 'An account of which the name goes on and on, much longer than any paper is wide, and that ends in ';
    const list = [1, 2, 3, 4].map((n) => ({ name: `${name}${n}`, actual: n, target: 2 }));
    const scene = await drawn(list, { width: 480 }, 'raise', `actual by member against target as ${form}`);
    const names = scene.marks.flatMap((mark) =>
      mark.shape === 'text' && mark.text.startsWith('An ac') ? [mark.text] : [],
    );
    expect(names.map((text) => text.slice(-1))).toEqual(['1', '2', '3', '4']);
  },
);

test('each headline has the scale of its own number', async () => {
  const list = [
    { name: 'a', actual: 1_250_000, target: 1 },
    { name: 'b', actual: 900, target: 1 },
  ];
  const scene = await drawn(list, {}, 'raise', 'actual by member as headline');
  const values = scene.marks.flatMap((mark) => (mark.role === 'value' && mark.shape === 'text' ? [mark.text] : []));
  expect(values).toEqual(['1.25M', '900']);
});

test('a headline names each reference, how much it changed and when', async () => {
  const scene = await drawn(
    [{ name: 'a', actual: 90, target: 100 }],
    { references: ['average'], change: 'percent' },
    'raise',
    'actual by member against target as headline',
  );
  const texts = scene.marks.flatMap((mark) => (mark.shape === 'text' ? [mark.text] : []));
  expect(texts).toEqual(expect.arrayContaining(['90', '−10.0%', 'to target 100', '±0.0%', 'to average 90']));
});
