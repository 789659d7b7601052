import { renderAsync, Resvg } from '@resvg/resvg-js';
import { outlined } from '@bold-ruler/core/print';
import { checkPixels, writeSvg, type Scene } from '@bold-ruler/core/scene';
import { fontFiles } from './fonts';

/** The scene as a PNG, `scale` pixels for each CSS pixel. Letters the figure's font lacks are set in a font of the system. */
export function writePng(scene: Scene, scale = 1): Buffer {
  const marks = scene.marks.filter(({ role }) => role !== 'cell');
  return pngOf(outlined({ ...scene, marks }, fontFiles()), scale);
}

const sized = (scale: number) => ({ fitTo: { mode: 'zoom', value: scale } }) as const;

function pngOf(scene: Scene, scale: number): Buffer {
  checkPixels(scene, scale);
  return new Resvg(writeSvg(scene), sized(scale)).render().asPng();
}

/** A scene whose letters are outlines already as a PNG, painted beside this thread. */
export async function paintedPng(scene: Scene, scale: number): Promise<Buffer> {
  checkPixels(scene, scale);
  return (await renderAsync(writeSvg(scene), sized(scale))).asPng();
}
