import { claimWords, holds } from '../../suggestion';
import type { LevelCheck, Said } from '../level';

/** A sentence on a page that new numbers have made untrue. */
export const staleFinding: LevelCheck = {
  code: 'stale-finding',
  why: 'its values follow the data, its words do not: a reader believes what is no longer so',
  run: ({ report, figures }) =>
    report.pages.flatMap((page) =>
      page.rows.flatMap((row) =>
        ('blocks' in row ? row.blocks : []).flatMap((block): Said[] => {
          if (!('text' in block) || !block.claims) return [];
          const drawn = figures.find(({ entry }) => entry.id === block.about)?.drawn;
          if (!drawn || !('cells' in drawn)) return [];
          return block.claims
            .filter((claim) => !holds(claim, drawn.cells))
            .map((claim) => ({
              severity: 'warning',
              about: { kind: 'page', id: page.id },
              text: `a finding is no longer true: that ${claimWords(claim)}`,
              repair: { name: 'Take it off the page', edit: { edit: 'drop-claim', page: page.id, claim } },
            }));
        }),
      ),
    ),
};
