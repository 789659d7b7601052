import type { Accepted, Report } from '../report';
import type { ReportDraft } from './edit';

/** What findings can be about, and the ids or names that are there. */
export function idsOf(report: Report | ReportDraft): Record<Exclude<Accepted['about'], 'report'>, readonly string[]> {
  return {
    figure: report.figures.map(({ id }) => id),
    page: report.pages.map(({ id }) => id),
    table: report.tables.map(({ id }) => id),
    measure: report.measures.map(({ name }) => name),
    benchmark: report.benchmarks.map(({ name }) => name),
    highlight: report.highlights.map(({ name }) => name),
  };
}

/**
 * Takes what an edit has removed out of everything that names it: blocks and texts of pages, dismissed suggestions, findings
 * that are let stand. What named nothing before is left as it is; drawing it says so.
 */
export function sweep(before: Report, draft: ReportDraft): void {
  const now = idsOf(draft);
  const was = idsOf(before);
  const gone = (about: keyof typeof now) => {
    const left = new Set(now[about]);
    return new Set(was[about].filter((id) => !left.has(id)));
  };
  const figures = gone('figure');
  if (figures.size > 0) for (const page of draft.pages) sweepPage(page, figures);
  const isGone = {
    figure: figures,
    page: gone('page'),
    table: gone('table'),
    measure: gone('measure'),
    benchmark: gone('benchmark'),
    highlight: gone('highlight'),
    report: new Set<string>(),
  };
  if (draft.accepted?.some(({ about, id }) => isGone[about].has(id))) {
    const left = draft.accepted.filter(({ about, id }) => !isGone[about].has(id));
    if (left.length > 0) draft.accepted = left;
    else delete draft.accepted;
  }
}

/** Takes figures off a page: their blocks, rows that are empty then, and what texts tell and claim of them. */
export function sweepPage(page: ReportDraft['pages'][number], gone: ReadonlySet<string>): void {
  for (const row of page.rows) {
    if (!('blocks' in row)) continue;
    for (const block of row.blocks)
      if ('text' in block && block.about !== undefined && gone.has(block.about)) {
        delete block.about;
        delete block.claims;
      }
    if (row.blocks.some((block) => 'figure' in block && gone.has(block.figure)))
      row.blocks = row.blocks.filter((block) => !('figure' in block) || !gone.has(block.figure));
  }
  if (page.rows.some((row) => 'blocks' in row && row.blocks.length === 0))
    page.rows = page.rows.filter((row) => 'head' in row || row.blocks.length > 0);
  if (page.dismissed?.some(({ figure }) => gone.has(figure))) {
    const left = page.dismissed.filter(({ figure }) => !gone.has(figure));
    if (left.length > 0) page.dismissed = left;
    else delete page.dismissed;
  }
}
