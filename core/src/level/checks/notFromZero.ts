import { formOf } from '../../brief';
import { DRAWN_FORMS } from '../../figure';
import { ofFigures, withFigure } from '../level';

const BARS = new Set(['bullet', 'bars', 'pairs']);

export const notFromZero = ofFigures(
  'not-from-zero',
  'the length of a bar is read as its value; cut off, small differences look large',
  ({ scene, cells }, entry) => {
    if (!BARS.has(formOf(cells.brief, DRAWN_FORMS))) return [];
    const cut = scene.rulers.find(({ domain: [low, high] }) => low > 0 || high < 0);
    if (!cut) return [];
    const shared = cells.brief.ruler;
    return [
      {
        severity: 'error',
        text: `its bars stand on a ruler from ${cut.domain[0]} to ${cut.domain[1]}, which holds no zero`,
        repair: {
          name: 'Let the ruler begin at zero',
          apply: (report) =>
            shared === null
              ? withFigure(report, entry.id, ({ look: { domain: _, ...look }, ...rest }) => ({ ...rest, look }))
              : {
                  ...report,
                  rulers: report.rulers.map((one) =>
                    one.id === shared ? { id: one.id, kind: one.kind, fit: 'zero' } : one,
                  ),
                },
        },
      },
    ];
  },
);
