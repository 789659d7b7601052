import { claimWords, holds } from '../../finding';
import type { Claimed, Page, PageBlock, Report } from '../../report';
import type { LevelCheck, Said } from '../level';

type Text = Extract<PageBlock, { text: string }>;

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
              repair: { name: 'Take it off the page', apply: (current) => without(current, page.id, claim) },
            }));
        }),
      ),
    ),
};

/** The report without a claim, and without its sentence where that still stands as it was taken. */
function without(report: Report, pageId: string, claim: Claimed): Report {
  const blockOf = (block: PageBlock): PageBlock => {
    if (!('text' in block) || !block.claims?.some((one) => same(one, claim))) return block;
    const lines = block.text.split('\n').filter((line) => line.replace(/^\s*[-–•]\s+/, '') !== claim.text);
    const { claims: _, ...rest } = block;
    const claims = block.claims.filter((one) => !same(one, claim));
    const text: Text = { ...rest, text: lines.join('\n') };
    return claims.length > 0 ? { ...text, claims } : text;
  };
  const pageOf = (page: Page): Page =>
    page.id !== pageId
      ? page
      : {
          ...page,
          rows: page.rows.map((row) => ('blocks' in row ? { ...row, blocks: row.blocks.map(blockOf) } : row)),
        };
  return { ...report, pages: report.pages.map(pageOf) };
}

const same = (a: Claimed, b: Claimed) => JSON.stringify(a) === JSON.stringify(b);
