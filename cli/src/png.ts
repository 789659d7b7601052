import { Resvg } from '@resvg/resvg-js';
import { outlined } from '@bold-ruler/core/print';
import { checkPixels, writeSvg, type Scene } from '@bold-ruler/core/scene';
import { fontFiles } from './fonts';

/** The scene as SVG with its letters as outlines, for places where its font is not. */
export function outlinedSvg(scene: Scene): string {
  const marks = scene.marks.filter(({ role }) => role !== 'cell');
  return writeSvg(outlined({ ...scene, marks }, fontFiles()));
}

/** The scene as a PNG, `scale` pixels for each CSS pixel. Letters the figure's font lacks are set in a font of the system. */
export function writePng(scene: Scene, scale = 1): Buffer {
  checkPixels(scene, scale);
  return new Resvg(outlinedSvg(scene), { fitTo: { mode: 'zoom', value: scale } }).render().asPng();
}
