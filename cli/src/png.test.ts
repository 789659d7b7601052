import { gzipSync, inflateSync } from 'node:zlib';
import { Resvg } from '@resvg/resvg-js';
import { expect, test } from 'vitest';
import { PLAIN, writeSvg, type Mark, type Scene } from '@bold-ruler/core/scene';
import { paintedPng, writePng } from './png';

const dot = (cx: number, fill: string): Mark => ({
  ...PLAIN,
  shape: 'circle',
  role: 'actual',
  cx,
  cy: 11,
  r: 8,
  paint: { fill, opacity: 0.6 },
});
const scene: Scene = {
  width: 40,
  height: 23,
  title: 'Two dots',
  description: '',
  rulers: [],
  marks: [dot(12, '#C8452B'), dot(20, '#147560')],
  dropped: 0,
};

/** The chunks of a PNG; what gzip writes behind its content is their checksum reckoned elsewhere. */
function chunksOf(png: Buffer): Map<string, Buffer> {
  expect(png.subarray(0, 8).toString('latin1')).toBe('\x89PNG\r\n\x1a\n');
  const chunks = new Map<string, Buffer>();
  for (let at = 8; at < png.length;) {
    const end = at + 8 + png.readUInt32BE(at);
    const checked = gzipSync(png.subarray(at + 4, end));
    expect(png.readUInt32BE(end)).toBe(checked.readUInt32LE(checked.length - 8));
    chunks.set(png.toString('latin1', at + 4, at + 8), png.subarray(at + 8, end));
    at = end + 4;
  }
  return chunks;
}

test.each([1, 3])('a PNG holds what was painted, pixel by pixel, at a scale of %i', async (scale) => {
  const chunks = chunksOf(await paintedPng(scene, scale));
  expect([...chunks.keys()]).toEqual(['IHDR', 'IDAT', 'IEND']);
  const head = chunks.get('IHDR')!;
  const [width, height] = [40 * scale, 23 * scale];
  expect([head.readUInt32BE(0), head.readUInt32BE(4), ...head.subarray(8)]).toEqual([width, height, 8, 6, 0, 0, 0]);
  const rows = inflateSync(chunks.get('IDAT')!);
  const painted = new Resvg(writeSvg(scene), { fitTo: { mode: 'zoom', value: scale } }).render().pixels;
  expect(rows.length).toBe(height * (1 + 4 * width));
  for (let y = 0; y < height; y++) {
    const row = rows.subarray(y * (1 + 4 * width), (y + 1) * (1 + 4 * width));
    expect(row[0]).toBe(0);
    expect(row.subarray(1).equals(painted.subarray(y * 4 * width, (y + 1) * 4 * width))).toBe(true);
  }
  // The paper lies behind everything: nothing is seen through.
  expect(new Set(painted.filter((_, i) => i % 4 === 3))).toEqual(new Set([255]));
});

test('letters are painted as outlines, and those the font lacks in a font of the system', () => {
  const text = (words: string): Mark => ({
    ...PLAIN,
    shape: 'text',
    role: 'label',
    text: words,
    x: 2,
    y: 16,
    size: 14,
    weight: 400,
    anchor: 'start',
    paint: { fill: '#16202B' },
  });
  const painted = (...marks: Mark[]) => inflateSync(chunksOf(writePng({ ...scene, marks })).get('IDAT')!);
  const paper = painted();
  expect(painted(text('Fenwick')).equals(paper)).toBe(false);
  expect(painted({ ...text('Fenwick'), role: 'cell' }).equals(paper)).toBe(true);
});
