import { formOf } from '../../brief';
import { declarationOf } from '../../form';
import { ofFigures } from '../level';

export const notFromZero = ofFigures(
  'not-from-zero',
  'the length of a bar is read as its value; cut off, small differences look large',
  ({ scene, cells }, entry, { report }) => {
    if (!declarationOf(formOf(cells.brief)).fromZero) return [];
    const cut = scene.rulers.find(({ domain: [low, high] }) => low > 0 || high < 0);
    if (!cut) return [];
    const shared = report.rulers.find(({ id }) => id === cells.brief.ruler);
    return [
      {
        severity: 'error',
        text: `its bars stand on a ruler from ${cut.domain[0]} to ${cut.domain[1]}, which holds no zero`,
        repair: {
          name: 'Let the ruler begin at zero',
          edit: shared
            ? { edit: 'change-ruler', ruler: { id: shared.id, kind: shared.kind, fit: 'zero' } }
            : { edit: 'set-look', figure: entry.id, part: 'domain', value: undefined },
        },
      },
    ];
  },
);
