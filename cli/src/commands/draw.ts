import { extname } from 'node:path';
import { drawFigure } from '@bold-ruler/core/figure';
import { counted, Problem } from '@bold-ruler/core/problem';
import type { Look } from '@bold-ruler/core/report';
import { writeSvg } from '@bold-ruler/core/scene';
import { tell } from '../say';
import { STANDARD, writeWhole } from '../write';
import { figureFor, type Common } from './common';

export interface DrawCommand extends Common {
  readonly out: string;
  readonly scale: string;
  readonly as?: string;
  readonly outline?: true;
  readonly width?: string;
  readonly height?: string;
}

/** Pixels that a figure is drawn in where the command says so. */
const [LEAST, MOST] = [120, 4000];

/** A size other than the look's. Throws a `Problem` of wrong usage. */
function sizeWanted({ width, height }: Pick<DrawCommand, 'width' | 'height'>): Pick<Look, 'width' | 'height'> {
  const sides = Object.entries({ width, height }).flatMap(([side, said]) => {
    if (said === undefined) return [];
    const pixels = /^\d+$/.test(said) ? Number(said) : NaN;
    if (!(pixels >= LEAST && pixels <= MOST))
      throw new Problem(
        'usage',
        `“${said}” is not a ${side} that a figure can have`,
        { in: `--${side}` },
        `write a whole number of pixels from ${LEAST} to ${MOST}`,
      );
    return [[side, pixels] as const];
  });
  return Object.fromEntries(sides);
}

export async function draw(first: string, second: string | undefined, options: DrawCommand) {
  const ending = options.out === STANDARD ? `.${options.as ?? 'svg'}` : extname(options.out).toLowerCase();
  if (options.as !== undefined && options.out !== STANDARD)
    throw new Problem('usage', '--as goes with -o -', undefined, 'give the file the ending of what it is');
  if (ending !== '.svg' && ending !== '.png' && ending !== '.json')
    throw new Problem(
      'usage',
      `“${options.as ?? options.out}” is none of .svg, .png and .json`,
      undefined,
      'give the file one of these endings',
    );
  const scale = Number(options.scale);
  if (!(scale >= 1 && scale <= 8))
    throw new Problem('usage', `“${options.scale}” is no scale`, undefined, 'write a number from 1 to 8');
  const size = sizeWanted(options);
  const { workspace, figure } = await figureFor(first, second, options);
  const { scene } = await drawFigure(workspace, { ...figure, look: { ...figure.look, ...size } });
  if (ending === '.svg') {
    const [{ facesFor, outlined }, { fontFiles }] = await Promise.all([
      import('@bold-ruler/core/print'),
      import('../fonts'),
    ]);
    const svg = options.outline
      ? writeSvg(outlined(scene, fontFiles()))
      : writeSvg(scene, { fonts: facesFor([scene], fontFiles()) });
    writeWhole(options.out, svg);
  } else if (ending === '.json') writeWhole(options.out, `${JSON.stringify(scene, null, 2)}\n`);
  // The renderer is loaded where it is needed only.
  else writeWhole(options.out, (await import('../png')).writePng(scene, scale));
  if (scene.dropped > 0)
    tell(
      `${options.out}: ${counted(scene.dropped, 'label')} found no room and ${scene.dropped === 1 ? 'was' : 'were'} left away`,
    );
}
