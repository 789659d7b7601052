import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { PDFDocument } from '@cantoo/pdf-lib';
import { describe, expect, test } from 'vitest';
import { PAPERS, type DrawnPage, type Placed } from '../page';
import { textWidth, writeSvg, type Mark, type Scene } from '../scene';
import * as fontkit from 'fontkit';
import fc from 'fast-check';
import { facesFor, outlined, writePdf, type FontFiles } from '.';

const require = createRequire(import.meta.url);
const fontsOf = (weight: number, subsets = ['latin', 'latin-ext', 'vietnamese']) =>
  subsets.map((subset) =>
    readFileSync(require.resolve(`@fontsource/archivo-narrow/files/archivo-narrow-${subset}-${weight}-normal.woff`)),
  );
const fonts: FontFiles = { 400: fontsOf(400), 600: fontsOf(600) };

const common = { key: {}, step: null, value: null, rule: null, role: 'label' } as const;
const text = (words: string, x = 10, y = 20, more: Partial<Extract<Mark, { shape: 'text' }>> = {}): Mark => ({
  ...common,
  shape: 'text',
  text: words,
  x,
  y,
  size: 13,
  weight: 400,
  anchor: 'start',
  paint: { fill: '#16202B' },
  ...more,
});
const sceneOf = (height: number, ...marks: Mark[]): Scene => ({
  width: 1100,
  height,
  title: 'A scene',
  description: '',
  rulers: [],
  marks,
  dropped: 0,
});
const placed = (row: number, y: number, scene: Scene, kind: Placed['kind'] = 'figure'): Placed => ({
  kind,
  row,
  block: 0,
  x: 30,
  y,
  scene,
  figure: null,
  drawn: null,
  told: [],
});
const pageOf = (height: number, ...all: Placed[]): DrawnPage =>
  ({ title: 'Pellwether', width: 1160, height, placed: all }) as unknown as DrawnPage;

const opened = async (page: DrawnPage, paper?: keyof typeof PAPERS) => {
  const { bytes, sheets, missing } = await writePdf(page, { fonts, ...(paper ? { paper } : {}) });
  const document = await PDFDocument.load(bytes, { updateMetadata: false });
  return { bytes, sheets, missing, document, sizes: document.getPages().map((sheet) => sheet.getSize()) };
};

describe('a page as PDF', () => {
  const small = pageOf(
    400,
    placed(-1, 20, sceneOf(40, text('Pellwether')), 'title'),
    placed(0, 80, sceneOf(300, text('Larkmoor'))),
  );

  test('has one sheet of the page’s own size, three quarters of a point a pixel, with its title', async () => {
    const { document, sizes, sheets } = await opened(small);
    expect([sheets, sizes]).toEqual([1, [{ width: 870, height: 300 }]]);
    expect([document.getTitle(), document.getProducer(), document.getCreator()]).toEqual([
      'Pellwether',
      'Bold Ruler',
      'Bold Ruler',
    ]);
  });

  test('is the same bytes each time, and others for another page', async () => {
    const [one, two] = [await opened(small), await opened(small)];
    expect(Buffer.from(one.bytes).equals(Buffer.from(two.bytes))).toBe(true);
    const other = await opened(pageOf(400, placed(0, 80, sceneOf(300, text('Larkmoon')))));
    expect(Buffer.from(one.bytes).equals(Buffer.from(other.bytes))).toBe(false);
  });

  test('tells letters that no font has, and draws question marks for them', async () => {
    const { missing } = await opened(pageOf(100, placed(0, 0, sceneOf(80, text('Süd ☃ 東京 Żółć')))));
    expect(missing).toBe(3);
    expect((await opened(small)).missing).toBe(0);
  });

  test('embeds only the fonts that its texts need', async () => {
    const plain = await opened(pageOf(100, placed(0, 0, sceneOf(80, text('Alder')))));
    const both = await opened(
      pageOf(100, placed(0, 0, sceneOf(80, text('Alder'), text('Birch', 10, 40, { weight: 600 })))),
    );
    expect(both.bytes.length).toBeGreaterThan(plain.bytes.length + 200);
  });

  test('goes on over as many sheets of paper as its rows need, each row whole, a heading with what it heads', async () => {
    const rows = Array.from({ length: 8 }, (_, i) => placed(2 * i + 1, 60 + i * 400, sceneOf(300, text(`Row ${i}`))));
    const heads = rows.map((row, i) => placed(2 * i, row.y - 40, sceneOf(30, text(`Head ${i}`)), 'head'));
    const all = rows.flatMap((row, i) => [heads[i]!, row]);
    const page = pageOf(3300, ...all);
    for (const paper of ['a4', 'letter'] as const) {
      const { sizes, sheets } = await opened(page, paper);
      const [width, height] = PAPERS[paper];
      expect(new Set(sizes.map((size) => `${size.width} ${size.height}`))).toEqual(new Set([`${width} ${height}`]));
      // As many rows as fit below one another, in pixels of the page.
      const room = height / (width / 1160);
      const fit = Math.floor((room - 340 - 40) / 400) + 1;
      expect(sheets).toBe(Math.ceil(8 / fit));
    }
  });

  test('a row that is higher than a sheet stands on one of its own', async () => {
    const { sheets } = await opened(
      pageOf(5000, placed(0, 20, sceneOf(200)), placed(1, 240, sceneOf(4000)), placed(2, 4260, sceneOf(200))),
      'a4',
    );
    expect(sheets).toBe(3);
  });

  test('every shape can be penned', async () => {
    const marks: Mark[] = [
      { ...common, shape: 'rect', x: 0, y: 0, width: 20, height: 10, paint: { fill: '#147560', opacity: 0.5 } },
      {
        ...common,
        shape: 'line',
        x1: 0,
        y1: 0,
        x2: 50,
        y2: 50,
        paint: { stroke: '#C8452B', strokeWidth: 2, dash: [4, 2] },
      },
      {
        ...common,
        shape: 'circle',
        cx: 30,
        cy: 30,
        r: 6,
        paint: { fill: '#16202B', stroke: '#FAFAF7', strokeWidth: 1 },
      },
      { ...common, shape: 'path', d: 'M0 0L10 0Q15 5 10 10C5 15 0 10 0 0Z', points: [], paint: { fill: '#E9C15B' } },
      { ...common, shape: 'arc', cx: 60, cy: 60, r0: 20, r1: 30, a0: -1, a1: 1, paint: { fill: '#E9C15B' } },
      text('end', 100, 40, { anchor: 'end' }),
      text('middle', 100, 60, { anchor: 'middle' }),
    ] as Mark[];
    const { document } = await opened(pageOf(200, placed(0, 10, sceneOf(150, ...marks))));
    expect(document.getPageCount()).toBe(1);
  });
});

describe('letters as outlines', () => {
  /** The points of path data, where they are; those of letters that begin anew are left out. */
  const pointsOf = (mark: Mark) => {
    const points: [number, number][] = [];
    let at: [number, number] = [0, 0];
    let start = at;
    for (const [, letter, rest] of (mark as { d: string }).d.matchAll(/([A-Za-z])([^A-Za-z]*)/g)) {
      const numbers = [...rest!.matchAll(/-?[\d.]+/g)].map(([n]) => Number(n));
      const from: [number, number] = letter === 'M' ? [0, 0] : at;
      const found = Array.from({ length: numbers.length / 2 }, (_, i): [number, number] => [
        from[0] + numbers[2 * i]!,
        from[1] + numbers[2 * i + 1]!,
      ]);
      at = letter === 'z' ? start : found.at(-1)!;
      if (letter === 'm') start = at;
      if (letter !== 'M') points.push(...found);
    }
    return points;
  };
  const widthOf = (mark: Mark) => {
    const xs = pointsOf(mark).map(([x]) => x);
    return [Math.min(...xs), Math.max(...xs)] as const;
  };

  test('have the points of the font, wherever they stand and however often', () => {
    const files = fonts[400].map((file) => fontkit.create(file as never) as fontkit.Font);
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...'AaßÖg&8€%Żi. '), { minLength: 1, maxLength: 12 }).map((all) => all.join('')),
        fc.double({ min: -500, max: 5000, noNaN: true }),
        fc.constantFrom(9, 11, 12.5, 13, 28),
        (words, x, size) => {
          const [mark] = outlined(sceneOf(50, text(words, x, 30.005, { size })), fonts).marks;
          let left = x;
          const expected = [...words].flatMap((letter) => {
            const code = letter.codePointAt(0)!;
            const font = files.find((one) => one.hasGlyphForCodePoint(code))!;
            const { path, advanceWidth } = font.glyphForCodePoint(code);
            const scale = size / font.unitsPerEm;
            const from = left;
            left += advanceWidth * scale;
            return path.commands.flatMap(({ args }) =>
              Array.from({ length: args.length / 2 }, (_, i): [number, number] => [
                from + args[2 * i]! * scale,
                30.005 - args[2 * i + 1]! * scale,
              ]),
            );
          });
          const points = pointsOf(mark!);
          expect(points.length).toBe(expected.length);
          points.forEach(([px, py], i) => {
            expect(Math.hypot(px - expected[i]![0], py - expected[i]![1])).toBeLessThan(0.002);
          });
        },
      ),
    );
  });

  test('stand where the text would, as wide as it was measured', () => {
    for (const words of ['Larkmoor', 'Net sales €8.40M', 'AVAWAY', 'ii l']) {
      const width = textWidth(words, 13, 400);
      for (const [anchor, from] of [
        ['start', 100],
        ['middle', 100 - width / 2],
        ['end', 100 - width],
      ] as const) {
        const [mark] = outlined(sceneOf(50, text(words, 100, 30, { anchor })), fonts).marks;
        expect(mark!.shape).toBe('path');
        const [left, right] = widthOf(mark!);
        expect(left).toBeGreaterThan(from - 2);
        expect(right).toBeLessThan(from + width + 2);
        expect(right - left).toBeGreaterThan(width * 0.7);
      }
    }
  });

  test('of an accent behind its letter are those of the letter with it, also in a PDF', async () => {
    const drawn = (words: string) => outlined(sceneOf(50, text(words, 100, 30)), fonts).marks;
    const page = async (words: string) => (await opened(pageOf(100, placed(0, 0, sceneOf(80, text(words)))))).bytes;
    for (const words of ['Ström', 'Łódź', 'Agnès']) {
      expect(words.normalize('NFD')).not.toBe(words);
      expect(drawn(words.normalize('NFD'))).toEqual(drawn(words));
      expect(Buffer.from(await page(words.normalize('NFD'))).equals(Buffer.from(await page(words)))).toBe(true);
    }
  });

  test('keep what the text was about, and its paint', () => {
    const before = text('Alder', 5, 5, { key: { shop: 'Alder' }, step: '3', value: 7, paint: { fill: '#C8452B' } });
    const [after] = outlined(sceneOf(50, before), fonts).marks;
    expect(after).toMatchObject({
      key: { shop: 'Alder' },
      step: '3',
      value: 7,
      paint: { fill: '#C8452B' },
      role: 'label',
    });
  });

  test('texts with letters that no file has stay texts, and other marks are left alone', () => {
    const rect = { ...common, shape: 'rect', x: 0, y: 0, width: 1, height: 1, paint: {} } as Mark;
    const { marks } = outlined(sceneOf(50, rect, text('東京'), text('Tea')), fonts);
    expect(marks.map(({ shape }) => shape)).toEqual(['rect', 'text', 'path']);
    expect(marks[0]).toBe(rect);
  });

  test('letters are looked for file by file', () => {
    const latin: FontFiles = { 400: fontsOf(400, ['latin']), 600: fontsOf(600, ['latin']) };
    const shapes = (files: FontFiles) =>
      outlined(sceneOf(50, text('Żółć'), text('Süd')), files).marks.map(({ shape }) => shape);
    expect([shapes(latin), shapes(fonts)]).toEqual([
      ['text', 'path'],
      ['path', 'path'],
    ]);
  });
});

describe('letters that a picture carries along', () => {
  const letter = fc.constantFrom(...'Net sales €8.40M, level; 6 of 8 äßÅčŐ–−…“”%()+AVTo&<>');
  const words = fc.array(letter, { minLength: 1, maxLength: 30 }).map((letters) => letters.join(''));

  test('law: are all that it uses, as wide as they were measured, each in one face of its weight', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(words, fc.constantFrom<400 | 600>(400, 600)), { minLength: 1, maxLength: 4 }),
        (texts) => {
          const scene = sceneOf(100, ...texts.map(([some, weight]) => text(some, 10, 20, { weight })));
          const faces = facesFor([scene], fonts);
          for (const [some, weight] of texts) {
            let width = 0;
            for (const one of some) {
              const code = one.codePointAt(0)!;
              const own = faces.filter((face) => face.weight === weight && face.letters.includes(code));
              expect(own).toHaveLength(1);
              const font = fontkit.create(Buffer.from(own[0]!.data, 'base64') as never) as fontkit.Font;
              // The last segment of every font is no letter.
              expect(font.characterSet.filter((one) => one !== 0xffff)).toEqual([...own[0]!.letters]);
              const glyph = font.glyphForCodePoint(code);
              width += (glyph.advanceWidth * 13) / font.unitsPerEm;
            }
            expect(width).toBeCloseTo(textWidth(some, 13, weight), 1);
          }
          for (const { letters, weight } of faces)
            for (const code of letters)
              expect(texts.some(([some, of]) => of === weight && some.includes(String.fromCodePoint(code)))).toBe(true);
        },
      ),
      { numRuns: 20 },
    );
  });

  test('are few bytes, the same each time, and none of a picture without texts; what no file has is left to the reader', () => {
    const scene = sceneOf(
      100,
      text('Net sales €8.40M, level with plan; 6 of 8 behind', 10, 20, { weight: 600 }),
      text('漢字 Larkmoor'),
    );
    const svg = writeSvg(scene, { fonts: facesFor([scene], fonts) });
    expect(svg).toBe(writeSvg(scene, { fonts: facesFor([scene], fonts) }));
    expect(svg.length).toBeLessThan(15_000);
    expect(svg.match(/@font-face/g)).toHaveLength(2);
    expect(facesFor([sceneOf(10)], fonts)).toEqual([]);
    expect(facesFor([scene], fonts).flatMap(({ letters }) => letters)).not.toContain('漢'.codePointAt(0));
  });
});
