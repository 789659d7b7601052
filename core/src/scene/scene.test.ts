import fc from 'fast-check';
import { expect, test } from 'vitest';
import { elementOf, PLAIN, rounded, shorten, textWidth, wrap, writeSvg, type Mark, type Scene } from '.';

const size = fc.integer({ min: 11, max: 24 });
const width = fc.integer({ min: 5, max: 400 });

test('a text is as wide as its letters, and tabular digits are all of one width', () => {
  expect(textWidth('', 12)).toBe(0);
  expect(textWidth('ab', 20)).toBeCloseTo(textWidth('a', 20) + textWidth('b', 20), 9);
  expect(new Set([...'0123456789'].map((digit) => textWidth(digit, 12))).size).toBe(1);
  expect(textWidth('Larkmoor', 12, 600)).toBeGreaterThan(textWidth('Larkmoor', 12));
});

test('a shortened text fits and is a beginning of the whole', () => {
  fc.assert(
    fc.property(fc.string(), width, size, (text, room, s) => {
      const short = shorten(text, room, s);
      expect(textWidth(short, s)).toBeLessThanOrEqual(room);
      expect(short === text || short === '' || text.startsWith(short.slice(0, -1))).toBe(true);
    }),
  );
});

test('a shortened text keeps the accents of its letters, also those that stand behind them', () => {
  const name = 'Ström & Söhne, Agnès';
  for (let room = 0; room < textWidth(name, 13); room++)
    expect(shorten(name.normalize('NFD'), room, 13)).toBe(shorten(name, room, 13));
});

test('wrapped lines fit, are no more than asked for, and lose nothing when there is room', () => {
  fc.assert(
    fc.property(
      fc.array(fc.string({ minLength: 1, maxLength: 12 }), { maxLength: 10 }).map((words) => words.join(' ')),
      width,
      size,
      fc.integer({ min: 1, max: 4 }),
      (text, room, s, most) => {
        const lines = wrap(text, room, s, 400, most);
        expect(lines.length).toBeLessThanOrEqual(most);
        for (const line of lines) expect(textWidth(line, s)).toBeLessThanOrEqual(room);
        if (!lines.some((line) => line === '' || line.endsWith('…')))
          expect(lines.join(' ')).toBe(text.split(/\s+/).filter(Boolean).join(' '));
      },
    ),
  );
});

const scene = (...marks: Mark[]): Scene => ({
  width: 100,
  height: 50,
  title: 'A & B',
  description: '',
  rulers: [],
  marks,
  dropped: 0,
});

test('drawings round to hundredths, never write −0, and carry a cell’s words as its title', () => {
  expect([rounded(1.005), rounded(-0.001), rounded(2), rounded(1 / 3)]).toEqual(['1', '0', '2', '0.33']);
  const cell: Mark = {
    ...PLAIN,
    shape: 'rect',
    role: 'cell',
    x: 1 / 3,
    y: 0,
    width: 10,
    height: 5,
    paint: {},
    words: 'a < b',
  };
  const svg = writeSvg(scene(cell), { background: null });
  expect(svg).toContain('<title id="title">A &amp; B</title>');
  expect(svg).toContain(
    '<rect x="0.33" y="0" width="10" height="5" fill="none" pointer-events="all"><title>a &lt; b</title></rect>',
  );
});

test('an arc is a ring segment that begins at twelve o’clock and runs clockwise', () => {
  const quarter = elementOf({
    ...PLAIN,
    shape: 'arc',
    role: 'actual',
    cx: 0,
    cy: 0,
    r0: 5,
    r1: 10,
    a0: 0,
    a1: Math.PI / 2,
    paint: { fill: '#000000' },
  });
  expect(quarter.attributes[0]).toEqual(['d', 'M0 -10A10 10 0 0 1 10 0L5 0A5 5 0 0 0 0 -5Z']);
});

test('characters that XML cannot hold are left away', () => {
  const label: Mark = {
    ...PLAIN,
    shape: 'text',
    role: 'label',
    x: 0,
    y: 0,
    text: 'a\u0000b\u001fc',
    anchor: 'start',
    size: 12,
    weight: 400,
    paint: {},
  };
  expect(writeSvg(scene(label))).toContain('>abc</text>');
});
