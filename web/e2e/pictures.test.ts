import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { facesFor, outlined } from '@bold-ruler/core/print';
import { PLAIN, textWidth, writeSvg, type FontFiles, type Mark, type Scene } from '@bold-ruler/core/scene';
import type { WebDriver } from 'selenium-webdriver';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { openBrowser } from './browser';

const require = createRequire(import.meta.url);
const bytesOf = (weight: number) =>
  readFileSync(require.resolve(`@fontsource/archivo-narrow/files/archivo-narrow-latin-${weight}-normal.woff`));
const FONTS: FontFiles = { 400: [bytesOf(400)], 600: [bytesOf(600)] };

/** How many pixels a pixel of the scene has, so that a hundredth of a text can be seen. */
const SCALE = 6;
const LINE = 30;
const LEFT = 10;

/** What stands in figures: words, numbers, signs, several sizes and both weights. */
const TEXTS = (
  [
    ['Net sales €8.40M, level with plan; 6 of 8 behind', 18, 600],
    ['net sales by territory, €M · fiscal 2026 to 18 Mar 2026', 12.5, 400],
    ['Larkmoor', 13, 400],
    ['€1,579,882.86 (+27.4%)', 13, 600],
    ['−€0.21M', 11, 400],
    ['AVAWAY Tofte “Wyvern” 75% – 90%', 13, 400],
    ['far off: below 75% of plan', 11.5, 400],
    ['iiiillll1111', 15, 400],
  ] as const
).map(([text, size, weight], line): Mark & { shape: 'text' } => ({
  ...PLAIN,
  shape: 'text',
  role: 'label',
  text,
  x: LEFT,
  y: (line + 1) * LINE - 10,
  size,
  weight,
  anchor: 'start',
  paint: { fill: '#000000' },
}));

const scene: Scene = {
  width: 420,
  height: TEXTS.length * LINE,
  title: 'Texts',
  description: '',
  rulers: [],
  marks: TEXTS,
  dropped: 0,
};

let driver: WebDriver;
beforeAll(async () => {
  driver = await openBrowser(mkdtempSync(join(tmpdir(), 'bold-ruler-saved-')));
});
afterAll(() => driver.quit());

/** Where the ink of each line begins and ends, in pixels of the scene: of a picture, or as the browser itself sets the texts in the font. */
type Inks = readonly (readonly [from: number, to: number])[];
const LOOK = `
  const [scale, line, width, texts, fonts, picture] = arguments;
  const done = arguments[arguments.length - 1];
  (async () => {
    const canvas = document.createElement('canvas');
    canvas.width = width * scale;
    canvas.height = texts.length * line * scale;
    const pen = canvas.getContext('2d', { willReadFrequently: true });
    pen.fillStyle = '#fff';
    pen.fillRect(0, 0, canvas.width, canvas.height);
    if (picture) {
      const image = new Image();
      image.src = picture;
      await image.decode();
      pen.drawImage(image, 0, 0, canvas.width, canvas.height);
    } else {
      for (const [weight, data] of Object.entries(fonts))
        document.fonts.add(await new FontFace('Known', Uint8Array.from(atob(data), (letter) => letter.charCodeAt(0)), { weight }).load());
      pen.fillStyle = '#000';
      pen.fontKerning = 'none';
      for (const { text, x, y, size, weight } of texts) {
        pen.font = weight + ' ' + size * scale + 'px Known';
        pen.fillText(text, x * scale, y * scale);
      }
    }
    done(texts.map((_, i) => {
      const { data } = pen.getImageData(0, i * line * scale, canvas.width, line * scale);
      let [from, to] = [Infinity, -Infinity];
      for (let at = 0; at < data.length; at += 4)
        if (data[at] < 128) {
          const x = (at / 4) % canvas.width;
          [from, to] = [Math.min(from, x), Math.max(to, x + 1)];
        }
      return [from / scale, to / scale];
    }));
  })().catch((error) => done(String(error)));`;

const inksOf = async (picture: string | null): Promise<Inks> => {
  const inks = await driver.executeAsyncScript<Inks | string>(
    LOOK,
    SCALE,
    LINE,
    scene.width,
    TEXTS.map(({ text, x, y, size, weight }) => ({ text, x, y, size, weight })),
    { 400: bytesOf(400).toString('base64'), 600: bytesOf(600).toString('base64') },
    picture,
  );
  if (typeof inks === 'string') throw new Error(inks);
  return inks;
};

/** Each text stands where it was measured to stand, to a hundredth of its width. */
function expectAlike(inks: Inks, known: Inks): void {
  for (const [i, [from, to]] of inks.entries()) {
    const [left, right] = known[i]!;
    const slack = 0.01 * (right - left) + 1 / SCALE;
    expect(Math.abs(from - left), TEXTS[i]!.text).toBeLessThan(slack);
    expect(Math.abs(to - right), TEXTS[i]!.text).toBeLessThan(slack);
  }
}

test('texts are as wide as scenes measure them, in the font itself', async () => {
  for (const [i, [, to]] of (await inksOf(null)).entries()) {
    const { text, size, weight } = TEXTS[i]!;
    const width = textWidth(text, size, weight);
    expect(Math.abs(to - LEFT - width), text).toBeLessThan(0.01 * width + size * 0.1);
  }
});

test('an SVG that a program shows as a picture, without the fonts, has every text as wide as it was measured', async () => {
  const svg = writeSvg(scene, { fonts: facesFor([scene], FONTS) });
  expectAlike(await inksOf(`data:image/svg+xml;base64,${Buffer.from(svg).toString('base64')}`), await inksOf(null));
  // What the test would see of a picture that names its font only.
  const bare = Buffer.from(writeSvg(scene)).toString('base64');
  const [first] = await inksOf(`data:image/svg+xml;base64,${bare}`);
  expect(Math.abs(first![1] - (await inksOf(null))[0]![1])).toBeGreaterThan(5);
});

test('outlines are drawn by librsvg as the font itself is', async () => {
  const { stdout, stderr } = spawnSync('rsvg-convert', ['--zoom', String(SCALE), '--background-color', '#fff'], {
    input: writeSvg(outlined(scene, FONTS)),
  });
  expect(String(stderr)).toBe('');
  expectAlike(await inksOf(`data:image/png;base64,${stdout.toString('base64')}`), await inksOf(null));
});
