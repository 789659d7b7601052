import { describe, expect, test } from 'vitest';
import { forms } from '../form';
import { type Form } from '../brief';
import type { Look } from '../report';
import type { Mark, Role, Scene } from '../scene';
import { box, drawnFrom } from './drawn.fixture';

// One example of each form, worked out by hand. Five rows of two shops in three months:
// Alder 10, 30 and 5, held against 8, 20 and 10; Birch 20 and 15, held against 30 and 10.
// Together 45 against 38 and 35 against 40, 80 against 78; January 30 against 38, February 45 against 30, March 5 against 10.

const CSV = [
  'day,shop,net,goal',
  '2025-01-10,Alder,10,8',
  '2025-01-20,Birch,20,30',
  '2025-02-10,Alder,30,20',
  '2025-02-20,Birch,15,10',
  '2025-03-05,Alder,5,10',
].join('\n');

async function sceneOf(brief: string, look: Look = {}): Promise<Scene> {
  const { scene } = await drawnFrom(CSV, brief, {
    look,
    date: 'day',
    measures: [{ name: 'net', table: 't', expression: 'sum(net)', tolerance: 0.05 }],
    benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
  });
  return scene;
}

const of = ({ marks }: Scene, role: Role, shape?: Mark['shape']) =>
  marks.filter((mark) => mark.role === role && (shape === undefined || mark.shape === shape));
/** Marks as they are named, and the numbers they carry. */
const told = (marks: readonly Mark[]) =>
  marks.map(({ key, step, value }) => [...Object.values(key), ...(step === null ? [] : [step]), value]);
const textsOf = (marks: readonly Mark[]) => marks.map((mark) => (mark as { text: string }).text);

/** Where a number lies on the first ruler, computed from its ends. */
function at({ rulers: [ruler] }: Scene, value: number): number {
  const [low, high] = ruler!.domain;
  const [from, to] = ruler!.range;
  return from + ((value - low) / (high - low)) * (to - from);
}

const WORKED: Record<Form, () => Promise<void>> = {
  async bullet() {
    const scene = await sceneOf('net by shop against goal as bullet');
    expect(scene.title).toBe('Net 80, level with goal; 1 of 2 behind');
    expect(scene.rulers[0]!.domain).toEqual([0, 45]);
    const bars = of(scene, 'actual');
    expect(told(bars)).toEqual([
      ['Alder', 45],
      ['Birch', 35],
    ]);
    bars.forEach((bar) => {
      expect(box(bar).x0).toBeCloseTo(at(scene, 0), 9);
      expect(box(bar).x1).toBeCloseTo(at(scene, bar.value!), 9);
    });
    const rules = of(scene, 'benchmark');
    expect(told(rules)).toEqual([
      ['Alder', 38],
      ['Birch', 40],
    ]);
    rules.forEach((rule) => expect(box(rule).x0).toBeCloseTo(at(scene, rule.value!), 9));
    // Bands end at 75 and 90 hundredths of each benchmark, and at the ruler's end.
    expect(told(of(scene, 'band'))).toEqual([
      ['Alder', 28.5],
      ['Alder', 34.2],
      ['Alder', 45],
      ['Birch', 30],
      ['Birch', 36],
      ['Birch', 45],
    ]);
    // 7 of 38, and 5 of 40.
    expect(textsOf(of(scene, 'gap'))).toEqual(['+18.4%', '−12.5%']);
  },

  async bars() {
    const scene = await sceneOf('net by shop as bars');
    expect(scene.title).toBe('Net by shop: 80 together');
    const bars = of(scene, 'actual');
    expect(told(bars)).toEqual([
      ['Alder', 45],
      ['Birch', 35],
    ]);
    const [alder, birch] = bars.map((bar) => box(bar).x1 - box(bar).x0);
    expect(birch! / alder!).toBeCloseTo(35 / 45, 9);
    expect(textsOf(of(scene, 'value'))).toEqual(['45', '35']);
  },

  async pairs() {
    const scene = await sceneOf('net by shop against goal as pairs');
    const width = (mark: Mark) => box(mark).x1 - box(mark).x0;
    const [alder, birch] = of(scene, 'actual').map(width);
    const [own, other] = of(scene, 'benchmark').map(width);
    expect([own! / alder!, birch! / alder!, other! / alder!].map((part) => part.toFixed(9))).toEqual(
      [38 / 45, 35 / 45, 40 / 45].map((part) => part.toFixed(9)),
    );
  },

  async dial() {
    const scene = await sceneOf('net by shop against goal as dial');
    const { domain, range } = scene.rulers[0]!;
    expect([domain, range[0] + range[1]]).toEqual([[0, 50], 0]);
    const arcs = of(scene, 'actual', 'arc') as (Mark & { shape: 'arc' })[];
    const turn = range[1] - range[0];
    expect(arcs.map(({ a0 }) => a0)).toEqual([range[0], range[0]]);
    arcs.forEach(({ a1 }, i) => expect(a1 - range[0]).toBeCloseTo((turn * [45, 35][i]!) / 50, 9));
    // The pointer of the benchmark has the angle of 38 and of 40.
    (of(scene, 'benchmark') as (Mark & { shape: 'line' })[]).forEach(({ x1, y1 }, i) => {
      const { cx, cy } = arcs[i]!;
      expect(Math.atan2(x1 - cx, cy - y1)).toBeCloseTo(range[0] + (turn * [38, 40][i]!) / 50, 9);
    });
  },

  async headline() {
    const scene = await sceneOf('net against goal as headline');
    expect(scene.title).toBe('Net 80, level with goal');
    expect(textsOf(of(scene, 'value'))).toEqual(['80']);
    // 2 of 78.
    expect(textsOf(of(scene, 'gap'))).toEqual(['+2.6% (+2)']);
    const change = await sceneOf('net against goal as headline', { change: 'absolute' });
    expect(textsOf(of(change, 'gap'))).toEqual(['+2']);
  },

  async league() {
    const scene = await sceneOf('net by shop as league');
    const bars = of(scene, 'actual').map((bar) => box(bar).x1 - box(bar).x0);
    expect(bars[1]! / bars[0]!).toBeCloseTo(35 / 45, 9);
    const rows = scene.marks.filter((mark) => mark.shape === 'text' && mark.role === 'label') as (Mark & {
      shape: 'text';
    })[];
    const ranks = rows.filter(({ text }) => /^\d$/.test(text)).map(({ text }) => text);
    expect(ranks).toEqual(['1', '2']);
  },

  async table() {
    const scene = await sceneOf('net, share of net by shop against goal as table');
    // 45 and 35 of 80 are 56.25 and 43.75 hundredths: rounded so that they add up to 100.
    expect(textsOf(of(scene, 'value', 'text'))).toEqual(['45', '38', '56.3%', '35', '40', '43.7%']);
    expect(textsOf(of(scene, 'total', 'text'))).toEqual(['all', '80', '78', '+2.6%', '100.0%']);
    const shares = of(scene, 'actual').filter(({ value }) => value! < 1);
    const whole = box(of(scene, 'band')[0]!);
    shares.forEach((bar) => expect((box(bar).x1 - box(bar).x0) / (whole.x1 - whole.x0)).toBeCloseTo(bar.value!, 9));
  },

  async waterfall() {
    const scene = await sceneOf('net by shop against goal as waterfall');
    expect(told(of(scene, 'total', 'rect'))).toEqual([[78], [80]]);
    const [rise] = of(scene, 'rise');
    const [fall] = of(scene, 'fall');
    expect(told([rise!, fall!])).toEqual([
      ['Alder', 7],
      ['Birch', -5],
    ]);
    // From 78 up to 85, and from there down to 80.
    expect([box(rise!).x0, box(rise!).x1]).toEqual([at(scene, 78), at(scene, 85)].map((x) => expect.closeTo(x, 9)));
    expect([box(fall!).x0, box(fall!).x1]).toEqual([at(scene, 80), at(scene, 85)].map((x) => expect.closeTo(x, 9)));
    expect(of(scene, 'connector').map((line) => box(line).x0)).toEqual(
      [78, 85, 80].map((value) => expect.closeTo(at(scene, value), 9)),
    );
  },

  async trend() {
    const scene = await sceneOf('net each month against goal as trend');
    const nodes = of(scene, 'node') as (Mark & { shape: 'circle' })[];
    expect(told(nodes)).toEqual([
      ['2025-01', 30],
      ['2025-02', 45],
      ['2025-03', 5],
    ]);
    nodes.forEach(({ cy, value }) => expect(cy).toBeCloseTo(at(scene, value!), 9));
    const [jan, feb, mar] = nodes.map(({ cx }) => cx);
    expect(feb! - jan!).toBeCloseTo(mar! - feb!, 9);
    const held = of(scene, 'benchmark');
    expect(told(held)).toEqual([
      ['2025-01', 38],
      ['2025-02', 30],
      ['2025-03', 10],
    ]);
    held.forEach((line) => expect(box(line).y0).toBeCloseTo(at(scene, line.value!), 9));
    // Smoothed over two steps there is one mean, of 30 and 45: March still runs and is no part of any.
    const smooth = await sceneOf('net each month as trend', { smooth: 2 });
    const means = of(smooth, 'smoothed', 'path').flatMap((mark) => (mark as Mark & { shape: 'path' }).points);
    expect([...new Set(means.map(([, y]) => y.toFixed(6)))]).toEqual([at(smooth, 37.5).toFixed(6)]);
  },

  async pace() {
    const scene = await sceneOf('cumulative net each month against goal as pace');
    const ys = (role: Role) => (of(scene, role, 'path')[0] as Mark & { shape: 'path' }).points.map(([, y]) => y);
    expect(ys('path')).toEqual([30, 75, 80].map((value) => expect.closeTo(at(scene, value), 6)));
    expect(ys('benchmark')).toEqual([38, 68, 78].map((value) => expect.closeTo(at(scene, value), 6)));
    expect(told(of(scene, 'gap', 'rect'))).toEqual([
      ['2025-01', -8],
      ['2025-02', 7],
      ['2025-03', 2],
    ]);
    // All gaps are drawn to one scale, below their line and above it.
    const [jan, feb, mar] = of(scene, 'gap', 'rect').map(box);
    const unit = (jan!.y1 - jan!.y0) / 8;
    expect([feb!.y1 - feb!.y0, mar!.y1 - mar!.y0]).toEqual([expect.closeTo(7 * unit, 6), expect.closeTo(2 * unit, 6)]);
    expect(jan!.y0).toBeCloseTo(feb!.y1, 6);
  },

  async bump() {
    const scene = await sceneOf('rank of net by shop each month as bump');
    expect(scene.title).toBe('Alder first in net');
    expect(told(of(scene, 'node'))).toEqual([
      ['Alder', '2025-01', 2],
      ['Alder', '2025-02', 1],
      ['Alder', '2025-03', 1],
      ['Birch', '2025-01', 1],
      ['Birch', '2025-02', 2],
    ]);
    for (const node of of(scene, 'node') as (Mark & { shape: 'circle' })[])
      expect(node.cy).toBeCloseTo(at(scene, node.value!), 9);
    // Birch sold nothing in March: its line ends in February.
    const ends = of(scene, 'link').map((link) => box(link).x1);
    expect(ends[1]!).toBeLessThan(ends[0]!);
  },
};

describe('worked out by hand', () => {
  test('there is an example of each form', () => expect(Object.keys(WORKED).sort()).toEqual([...forms()].sort()));
  test.each(Object.entries(WORKED))('%s', (_, example) => example());
});
