import fc from 'fast-check';
import { expect, test } from 'vitest';
import { Resvg } from '@resvg/resvg-js';
import { drawFigure } from '@bold-ruler/core/figure';
import { PLAIN, writeMarks, writeSvg, type Mark, type Paint, type Scene } from '@bold-ruler/core/scene';
import { openReport } from './files';

// On screens shapes are drawn together; a file has each by itself. Both are painted here and compared pixel by pixel.

const SIZE = { width: 128, height: 96 };

function pixelsOf(svg: string): Uint8Array {
  return new Resvg(svg, { font: { loadSystemFonts: false }, background: '#FAFAF7' }).render().pixels;
}

/** For each pixel how far its farthest colour is off, of 255. */
function differences(scene: Scene): number[] {
  const marks = scene.marks.filter(({ role }) => role !== 'cell');
  const apart = pixelsOf(writeSvg({ ...scene, marks }));
  const together = pixelsOf(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${scene.width}" height="${scene.height}">${writeMarks(scene)}</svg>`,
  );
  expect(together.length).toBe(apart.length);
  const off: number[] = [];
  for (let i = 0; i < apart.length; i += 4)
    off.push(Math.max(...[0, 1, 2].map((k) => Math.abs(apart[i + k]! - together[i + k]!))));
  return off;
}

// Edges lie between pixels, so that each pixel has one colour.
const across = fc.integer({ min: 0, max: SIZE.width - 8 });
const down = fc.integer({ min: 0, max: SIZE.height - 8 });
const length = fc.integer({ min: 1, max: 16 });
const color = fc.constantFrom('#16202B', '#C8452B');
const opacity = fc.constantFrom<{ opacity?: number }>({}, {}, {}, { opacity: 0.5 });
const filled: fc.Arbitrary<Paint> = fc
  .record({ color, opacity, edged: fc.boolean() })
  .map(({ color, opacity, edged }) => ({
    fill: color,
    ...opacity,
    ...(edged ? { stroke: '#E9C15B', strokeWidth: 2 } : {}),
  }));
const drawn: fc.Arbitrary<Paint> = fc
  .record({ color, opacity, dashed: fc.boolean() })
  .map(({ color, opacity, dashed }) => ({
    stroke: color,
    strokeWidth: 2,
    ...opacity,
    ...(dashed ? { dash: [4, 2] } : {}),
  }));

const mark: fc.Arbitrary<Mark> = fc.oneof(
  fc
    .record({ x: across, y: down, width: length, height: length, paint: filled })
    .map((box): Mark => ({ ...PLAIN, shape: 'rect', role: 'actual', ...box })),
  fc
    .record({ x: across, y: down, long: length, lies: fc.boolean(), paint: drawn })
    .map(({ x, y, long, lies, paint }): Mark => {
      const ends = { x1: x, y1: y, x2: lies ? x + long : x, y2: lies ? y : y + long };
      return { ...PLAIN, shape: 'line', role: 'tick', ...ends, paint };
    }),
  fc.record({ x: across, y: down, wide: length, high: length, paint: fc.oneof(filled, drawn) }).map((step): Mark => {
    const { x, y, wide, high, paint } = step;
    const points = [
      [x, y],
      [x + wide, y],
      [x + wide, y + high],
      [x + 2 * wide, y + high],
    ] as const;
    const d = points.map(([px, py], i) => `${i === 0 ? 'M' : 'L'}${px} ${py}`).join('');
    // Filled, it would have an edge that lies across pixels.
    const { fill, ...stroke } = paint;
    return {
      ...PLAIN,
      shape: 'path',
      role: 'path',
      d,
      points,
      paint: fill ? { stroke: fill, strokeWidth: 2 } : stroke,
    };
  }),
);

test('marks drawn together are painted as those drawn one by one, in any order and of any paint', () => {
  let fewer = 0;
  fc.assert(
    fc.property(fc.array(mark, { minLength: 8, maxLength: 30 }), (marks) => {
      const scene: Scene = { ...SIZE, title: '', description: '', rulers: [], marks, dropped: 0 };
      expect(differences(scene).findIndex((off) => off > 1)).toBe(-1);
      fewer += marks.length - (writeMarks(scene).match(/<(rect|line|path)/g) ?? []).length;
    }),
    { numRuns: 400 },
  );
  expect(fewer).toBeGreaterThan(400);
});

test('so are the figures of the demo, but for seams between shapes that meet within a pixel', async () => {
  const { report, source, vocabulary } = await openReport('demo/files/pellwether.ruler.json', []);
  let [shapes, elements] = [0, 0];
  for (const figure of report.figures) {
    const { scene } = await drawFigure({ source, report, vocabulary }, figure);
    const off = differences(scene);
    // A shape in front of what it should lie behind is off by its whole colour over many pixels.
    expect([figure.id, off.filter((one) => one > 96).length]).toEqual([figure.id, 0]);
    shapes += scene.marks.filter(({ role, shape }) => role !== 'cell' && shape !== 'text').length;
    elements += (writeMarks(scene).match(/<(rect|line|path|circle)/g) ?? []).length;
  }
  expect(elements).toBeLessThan(shapes / 4);
});
