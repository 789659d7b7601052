import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { PLAIN, writeMarks, type Mark, type Paint, type Scene } from '.';
import { legsOf } from './legs';
import { PathText } from './pathText';

/** Path data as SVG 2 (9.3.9) has it, read by its grammar: every point it leads to, with its letter. */
function pointsOf(d: string): [string, ...number[]][] {
  const tokens = d.match(/[a-zA-Z]|[-+]?(?:\d+(?:\.\d*)?|\.\d+)/g) ?? [];
  const points: [string, ...number[]][] = [];
  let [x, y, startX, startY] = [0, 0, 0, 0];
  let letter = '';
  const next = () => Number(tokens.shift());
  while (tokens.length > 0) {
    if (/[a-z]/i.test(tokens[0]!)) letter = tokens.shift()!;
    const [fromX, fromY] = [x, y];
    if (letter === 'z') [x, y] = [startX, startY];
    else if (letter === 'h') x += next();
    else if (letter === 'v') y += next();
    else {
      const numbers = Array.from({ length: { m: 2, l: 2, q: 4, c: 6, a: 7 }[letter]! }, next);
      if (letter === 'q' || letter === 'c')
        points.push([`${letter} by`, ...numbers.slice(0, -2).map((n, i) => n + (i % 2 === 0 ? fromX : fromY))]);
      if (letter === 'a') points.push(['a by', ...numbers.slice(0, 5)]);
      [x, y] = [fromX + numbers.at(-2)!, fromY + numbers.at(-1)!];
      if (letter === 'm') [startX, startY] = [x, y];
    }
    points.push([letter, x, y]);
    // SVG 2, 9.3.3: pairs behind a move are lines.
    if (letter === 'm') letter = 'l';
  }
  return points.map(([l, ...numbers]) => [l, ...numbers.map((n) => Math.round(n * 100) / 100 + 0)]);
}

const near = fc.integer({ min: -30_000, max: 30_000 }).map((n) => n / 100);
const point = fc.tuple(near, near);

describe('path data by distances', () => {
  test('leads to the same points as it was asked for, one after the other', () => {
    const leg = fc.oneof(
      fc.tuple(fc.constantFrom('M', 'L'), point),
      fc.tuple(fc.constant('C'), fc.tuple(near, near, near, near, near, near)),
      fc.tuple(fc.constant('Q'), fc.tuple(near, near, near, near)),
      fc.tuple(fc.constant('Z'), fc.constant([])),
    );
    fc.assert(
      fc.property(point, fc.array(leg, { maxLength: 12 }), (start, legs) => {
        const all: [string, readonly number[]][] = [['M', start], ...legs];
        const d = all.map(([letter, numbers]) => `${letter}${numbers.join(' ')}`).join('');
        const written = pointsOf(new PathText().legs(legsOf(d)).d);
        let [x, y, startX, startY] = [0, 0, 0, 0];
        for (const [letter, numbers] of all) {
          if (letter === 'Z') [x, y] = [startX, startY];
          const by = numbers.slice(0, -2);
          // A curve that stays on its height may be a line.
          if (by.length > 0 && written[0]![0].endsWith(' by')) expect(written.shift()!.slice(1)).toEqual(by);
          else expect(by.every((n, i) => i % 2 === 0 || n === y)).toBe(true);
          if (letter !== 'Z') [x, y] = numbers.slice(-2) as [number, number];
          if (letter === 'M') [startX, startY] = [x, y];
          expect(written.shift()!.slice(1)).toEqual([x + 0, y + 0]);
        }
        expect(written).toEqual([]);
      }),
    );
  });

  test('is as short as it goes', () => {
    expect(new PathText().rect(10, 20.5, 3, 0.25).rect(14, 20.5, 0.5, 0.25).d).toBe(
      'm10 20.75v-.25h3v.25zm4 0v-.25h.5v.25z',
    );
    // Side by side: on one line, hanging from one, and first above a line, then below it.
    expect(new PathText().rect(0, 5, 2, 4).rect(2, 3, 2, 6).rect(4, 3, 1, 6).d).toBe('m0 9v-4h2v-2h2 1v6z');
    expect(new PathText().rect(0, 5, 2, 4).rect(2, 5, 2, 4).rect(4, 5, 1, 1).d).toBe('m5 5v1h-1v3h-2-2v-4z');
    expect(new PathText().rect(0, 5, 2, 4).rect(2, 1, 2, 8).rect(4, 9, 1, 1).d).toBe('m0 9v-4h2v-4h2v8zm4 1v-1h1v1z');
    expect(new PathText().legs(legsOf('M1 1L1.5 1.25L2 1.75L2.5 1.5')).d).toBe('m1 1l.5.25.5.5.5-.25');
    expect(new PathText().dot(5, 5).dot(9, 4).d).toBe('m5 5h.01m3.99-1h.01');
    expect(pointsOf(new PathText().circle(10, 10, 2.5).d)).toEqual([
      ['m', 7.5, 10],
      ['a by', 2.5, 2.5, 0, 1, 0],
      ['a', 12.5, 10],
      ['a by', 2.5, 2.5, 0, 1, 0],
      ['a', 7.5, 10],
      ['z', 7.5, 10],
    ]);
  });

  test('distances do not add up: the last of ten thousand points is where it was asked for', () => {
    const path = new PathText().move(0, 0);
    for (let i = 1; i <= 10_000; i++) path.line(i / 3, i / 7);
    expect(pointsOf(path.d).at(-1)).toEqual(['l', 3333.33, 1428.57]);
  });
});

const scene = (marks: readonly Mark[]): Scene => ({
  width: 400,
  height: 300,
  title: '',
  description: '',
  rulers: [],
  marks,
  dropped: 0,
});
const rect = (x: number, y: number, paint: Paint, width = 10, height = 10): Mark => ({
  ...PLAIN,
  shape: 'rect',
  role: 'actual',
  x,
  y,
  width,
  height,
  paint,
});
const text = (words: string, x: number, y: number): Mark => ({
  ...PLAIN,
  shape: 'text',
  role: 'label',
  text: words,
  x,
  y,
  size: 12,
  weight: 400,
  anchor: 'start',
  paint: { fill: '#000000' },
});
const elements = (...marks: Mark[]) => [...writeMarks(scene(marks)).matchAll(/<(\w+)/g)].map(([, tag]) => tag);
const [RED, BLUE] = [{ fill: '#FF0000' }, { fill: '#0000FF' }];

describe('shapes painted alike', () => {
  test('are one element, also with others between them that they do not touch', () => {
    expect(elements(rect(0, 0, RED), rect(10, 0, RED), rect(30, 0, RED))).toEqual(['path']);
    expect(elements(rect(0, 0, RED), rect(0, 20, BLUE), rect(20, 0, RED), rect(20, 20, BLUE))).toEqual([
      'path',
      'path',
    ]);
  });
  test('stay where they are behind what they would be moved in front of: shapes, texts, and what lies nobody knows where', () => {
    expect(elements(rect(0, 0, RED), rect(22, 0, BLUE), rect(20, 0, RED))).toEqual(['path', 'path', 'path']);
    expect(elements(rect(0, 0, RED), text('Larkmoor', 20, 9), rect(25, 0, RED))).toEqual(['path', 'text', 'path']);
    const somewhere: Mark = { ...PLAIN, shape: 'path', role: 'note', d: 'M0 0l9 9', points: [], paint: RED };
    expect(elements(rect(0, 0, RED), somewhere, rect(25, 0, RED))).toEqual(['path', 'path', 'path']);
  });
  test('are not one where they would be seen otherwise: seen through, or with edges, and on one another', () => {
    const dim = { ...RED, opacity: 0.5 };
    expect(elements(rect(0, 0, dim), rect(20, 0, dim))).toEqual(['path']);
    expect(elements(rect(0, 0, dim), rect(5, 0, dim))).toEqual(['path', 'path']);
    expect(elements(rect(0, 0, RED), rect(5, 0, RED), rect(9.999999999, 0, RED))).toEqual(['path']);
    const edged = { ...RED, stroke: '#000000' };
    expect(elements(rect(0, 0, edged), rect(11, 0, edged))).toEqual(['path', 'path']);
    expect(elements(rect(0, 0, RED), rect(20, 0, edged), rect(40, 0, { ...RED, pattern: 'hatch' as const }))).toEqual([
      ...['defs', 'pattern', 'rect', 'rect'],
      ...['path', 'path', 'path'],
    ]);
  });
  test('with words of their own, or without a size, stay by themselves', () => {
    expect(elements(rect(0, 0, RED), { ...rect(20, 0, RED), words: 'one' })).toEqual(['path', 'rect', 'title']);
    expect(elements(rect(0, 0, RED), rect(20, 0, RED, 0))).toEqual(['path', 'rect']);
  });
});
