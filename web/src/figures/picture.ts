import { elementOf, PATTERN_GROUND, PATTERN_TILES, type Scene } from '@bold-ruler/core/scene';

const FONT = "'Archivo Narrow','Arial Narrow',sans-serif";

/** A scene painted on a canvas with the page's own fonts, each pixel of the figure as `scale` pixels. */
async function painted(scene: Scene, scale: number): Promise<HTMLCanvasElement> {
  await Promise.all([document.fonts.load(`400 12px ${FONT}`), document.fonts.load(`600 12px ${FONT}`)]);
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(scene.width * scale);
  canvas.height = Math.round(scene.height * scale);
  const pen = canvas.getContext('2d')!;
  pen.scale(scale, scale);
  pen.fillStyle = '#FAFAF7';
  pen.fillRect(0, 0, scene.width, scene.height);
  pen.fontKerning = 'none';
  for (const mark of scene.marks) {
    if (mark.role === 'cell') continue;
    const { paint } = mark;
    pen.globalAlpha = paint.opacity ?? 1;
    pen.setLineDash([...(paint.dash ?? [])]);
    pen.lineWidth = paint.strokeWidth ?? 1;
    if (mark.shape === 'text') {
      pen.font = `${mark.weight} ${mark.size}px ${FONT}`;
      pen.textAlign = mark.anchor === 'middle' ? 'center' : mark.anchor;
      pen.fillStyle = paint.fill ?? '#16202B';
      pen.fillText(mark.text, mark.x, mark.y);
      continue;
    }
    const outline = outlineOf(mark);
    if (paint.fill && mark.shape !== 'line') {
      pen.fillStyle = paint.pattern ? tileOf(pen, paint.pattern, paint.fill, scale) : paint.fill;
      pen.fill(outline);
    }
    if (paint.stroke) {
      pen.strokeStyle = paint.stroke;
      pen.stroke(outline);
    }
  }
  return canvas;
}

/** A pattern as the canvas lays it: the tile is painted as fine as the picture. */
function tileOf(
  pen: CanvasRenderingContext2D,
  kind: keyof typeof PATTERN_TILES,
  ink: string,
  scale: number,
): CanvasPattern {
  const { size, box, turn } = PATTERN_TILES[kind];
  const fine = scale * 4;
  const tile = document.createElement('canvas');
  tile.width = tile.height = Math.round(size * fine);
  const brush = tile.getContext('2d')!;
  brush.scale(tile.width / size, tile.height / size);
  brush.fillStyle = ink;
  brush.globalAlpha = PATTERN_GROUND;
  brush.fillRect(0, 0, size, size);
  brush.globalAlpha = 1;
  brush.fillRect(box.x, box.y, box.width, box.height);
  const pattern = pen.createPattern(tile, 'repeat')!;
  pattern.setTransform(new DOMMatrix().rotate(turn).scale(size / tile.width));
  return pattern;
}

function outlineOf(mark: Scene['marks'][number]): Path2D {
  switch (mark.shape) {
    case 'rect': {
      const path = new Path2D();
      path.rect(mark.x, mark.y, mark.width, mark.height);
      return path;
    }
    case 'line':
      return new Path2D(`M${mark.x1} ${mark.y1}L${mark.x2} ${mark.y2}`);
    case 'circle': {
      const path = new Path2D();
      path.arc(mark.cx, mark.cy, mark.r, 0, 2 * Math.PI);
      return path;
    }
    default:
      return new Path2D(elementOf(mark).attributes.find(([name]) => name === 'd')?.[1] ?? '');
  }
}

/** The figure as a PNG. */
export async function pictureOf(scene: Scene, scale: number): Promise<Blob> {
  const canvas = await painted(scene, scale);
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('the browser made no picture'))), 'image/png'),
  );
}
