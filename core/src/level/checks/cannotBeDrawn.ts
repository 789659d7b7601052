import type { LevelCheck } from '../level';

export const cannotBeDrawn: LevelCheck = {
  code: 'cannot-be-drawn',
  why: 'where a figure should stand there is nothing',
  run: ({ figures }) =>
    figures.flatMap(({ entry, drawn }) =>
      'scene' in drawn
        ? []
        : [
            {
              severity: 'error',
              about: { kind: 'figure', id: entry.id },
              text: drawn.remedy ? `${drawn.sentence} — ${drawn.remedy}` : drawn.sentence,
            },
          ],
    ),
};
