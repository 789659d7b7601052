import { promisify } from 'node:util';
import { deflate } from 'node:zlib';
import { renderAsync, Resvg, type RenderedImage } from '@resvg/resvg-js';
import { outlined } from '@bold-ruler/core/print';
import { checkPixels, writeSvg, type Scene } from '@bold-ruler/core/scene';
import { crc32 } from '@bold-ruler/core/zip';
import { fontFiles } from './fonts';

/**
 * The scene as a PNG, `scale` pixels for each CSS pixel, byte for byte as the server draws it. Letters the figure's font lacks are set in
 * a font of the system.
 */
export function writePng(scene: Scene, scale = 1): Buffer {
  const marks = scene.marks.filter(({ role }) => role !== 'cell');
  const shown = outlined({ ...scene, marks }, fontFiles());
  checkPixels(shown, scale);
  return new Resvg(writeSvg(shown), painting(shown, scale)).render().asPng();
}

/** Fonts of the system are looked for where there are letters left to be set. */
const painting = ({ marks }: Scene, scale: number) =>
  ({
    fitTo: { mode: 'zoom', value: scale },
    font: { loadSystemFonts: marks.some(({ shape }) => shape === 'text') },
  }) as const;

/** A scene whose letters are outlines already as a PNG, painted and packed beside this thread, and smaller. */
export async function paintedPng(scene: Scene, scale: number): Promise<Buffer> {
  checkPixels(scene, scale);
  return pngOf(await renderAsync(writeSvg(scene), painting(scene, scale)));
}

const SIGNATURE = Buffer.from('\x89PNG\r\n\x1a\n', 'latin1');
/** Eight bits for each of red, green, blue and opacity; rows one after the other. */
const FORM = [8, 6, 0, 0, 0];
const CHANNELS = 4;

/** A third as long as the level usually taken, and a tenth more bytes. */
const LEVEL = 4;

/** Pixels as a PNG (ISO/IEC 15948). Rows are not filtered: in drawings of few colours what is equal packs smaller as it is. */
async function pngOf({ pixels, width, height }: RenderedImage): Promise<Buffer> {
  const length = width * CHANNELS;
  const rows = Buffer.alloc((length + 1) * height);
  for (let y = 0; y < height; y++) pixels.copy(rows, y * (length + 1) + 1, y * length, (y + 1) * length);
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set(FORM, 8);
  const packed = await promisify(deflate)(rows, { level: LEVEL });
  return Buffer.concat([
    SIGNATURE,
    ...chunk('IHDR', head),
    ...chunk('IDAT', packed),
    ...chunk('IEND', Buffer.alloc(0)),
  ]);
}

function chunk(type: string, content: Buffer): Buffer[] {
  const [before, behind] = [Buffer.alloc(8), Buffer.alloc(4)];
  before.writeUInt32BE(content.length, 0);
  before.write(type, 4, 'latin1');
  behind.writeUInt32BE(crc32(content, crc32(before.subarray(4))), 0);
  return [before, content, behind];
}
