import type { Brief } from '../../brief';
import type { Cells } from '../../query';
import type { Look } from '../../report';
import { BLANK_MEMBER } from '../../table';
import { figureColumns, type FigureColumn, type TableCells } from './columns';

/** A line of a table: a row, or above its rows what they come to. */
export type TableLine =
  | { readonly kind: 'row'; readonly row: number }
  | {
      readonly kind: 'subtotal';
      /** The field whose member it tells, by its place. */
      readonly level: number;
      readonly member: string;
      /** Its numbers as texts, by the columns' ids. */
      readonly texts: ReadonlyMap<string, string>;
      readonly cells: Cells;
      readonly row: number;
    };

/** The briefs of subtotals: the same question by the first field, by the first two … Members that are left away have none. */
export function subtotalBriefs(brief: Brief, { subtotals }: Look): Brief[] {
  if (!subtotals || brief.keep) return [];
  return brief.by.slice(0, -1).map((_, level) => ({ ...brief, by: brief.by.slice(0, level + 1) }));
}

/** The rows of a table under their subtotals: groups in the order of what they come to, rows in their own. */
export function linesOf(rows: Cells, levels: readonly (Cells | null)[], look: Look): TableLine[] {
  const all = Array.from({ length: rows.count }, (_, row) => row);
  const known = levels.map((cells) => cells && { cells, columns: textsOf(cells, rows, look) });
  const under = (level: number, some: readonly number[]): TableLine[] => {
    const here = known[level];
    if (!here) return some.map((row) => ({ kind: 'row', row }));
    const { cells, columns } = here;
    const isWithin = (at: number, row: number) =>
      Array.from({ length: level + 1 }, (_, f) => f).every((f) => cells.members[f]![at] === rows.members[f]![row]);
    const taken = new Set<number>();
    const lines = Array.from({ length: cells.count }, (_, at) => at).flatMap((at): TableLine[] => {
      const own = some.filter((row) => isWithin(at, row));
      if (own.length === 0) return [];
      for (const row of own) taken.add(row);
      const texts = new Map(columns.map(({ id, texts: every }) => [id, every[at]!]));
      const member = cells.members[level]![at] || BLANK_MEMBER;
      return [{ kind: 'subtotal', level, member, texts, cells, row: at }, ...under(level + 1, own)];
    });
    return [...lines, ...some.filter((row) => !taken.has(row)).map((row): TableLine => ({ kind: 'row', row }))];
  };
  return under(0, all);
}

/** The numbers of subtotals, written as those of the rows. */
function textsOf(cells: Cells, as: Cells, look: Look): FigureColumn[] {
  const data: TableCells = { rows: cells, stepped: null, series: [] };
  return figureColumns(data, look, { ranked: false, as }).filter(({ kind }) => kind === 'number');
}
