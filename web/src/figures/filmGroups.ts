import type { FigureEntry, Report } from '@bold-ruler/core/report';

/** How the figures of a film are listed. */
export const FILM_ORDERS = { order: 'in order', page: 'by page', measure: 'by measure' } as const;
export type FilmOrder = keyof typeof FILM_ORDERS;

/** From this many figures on a film can be grouped. */
export const MANY_FIGURES = 13;

export interface FilmGroup {
  /** Null where all figures are one group. */
  readonly name: string | null;
  readonly figures: readonly FigureEntry[];
}

/**
 * The figures of a film in groups, each figure in one of them, in the report's order.
 * @param measureOf what a figure shows; null where it is not known
 */
export function filmGroups(
  { figures, pages }: Pick<Report, 'figures' | 'pages'>,
  order: FilmOrder,
  measureOf: (figure: string) => string | null,
): FilmGroup[] {
  if (order === 'order') return [{ name: null, figures }];
  const pageOf = (figure: string) =>
    pages.find(({ rows }) =>
      rows.some((row) => 'blocks' in row && row.blocks.some((block) => 'figure' in block && block.figure === figure)),
    )?.title ?? null;
  const groups = new Map<string | null, FigureEntry[]>();
  // Pages stand in their order, measures in that of the first figure that shows them; what belongs nowhere comes last.
  if (order === 'page') for (const { title } of pages) groups.set(title, []);
  for (const figure of figures) {
    const of = order === 'page' ? pageOf(figure.id) : measureOf(figure.id);
    const group = groups.get(of);
    if (group) group.push(figure);
    else groups.set(of, [figure]);
  }
  const without = groups.get(null);
  groups.delete(null);
  return [
    ...[...groups].map(([name, some]) => ({ name, figures: some })),
    ...(without ? [{ name: order === 'page' ? 'on no page' : 'not drawn yet', figures: without }] : []),
  ].filter((group) => group.figures.length > 0);
}
