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
  const under = (level: number, some: readonly number[], above: readonly string[]): TableLine[] => {
    const here = known[level];
    if (!here) return some.map((row) => ({ kind: 'row', row }));
    const { cells, columns } = here;
    // All of some have the members above in common.
    const groups = new Map<string, number[]>();
    for (const row of some) {
      const member = rows.members[level]![row]!;
      const group = groups.get(member);
      if (group) group.push(row);
      else groups.set(member, [row]);
    }
    const lines = Array.from({ length: cells.count }, (_, at) => at).flatMap((at): TableLine[] => {
      const member = cells.members[level]![at]!;
      const group = groups.get(member);
      if (!group || above.some((one, f) => cells.members[f]![at] !== one)) return [];
      groups.delete(member);
      const texts = new Map(columns.map(({ id, texts: every }) => [id, every[at]!]));
      return [
        { kind: 'subtotal', level, member: member || BLANK_MEMBER, texts, cells, row: at },
        ...under(level + 1, group, [...above, member]),
      ];
    });
    return [...lines, ...[...groups.values()].flat().map((row): TableLine => ({ kind: 'row', row }))];
  };
  return under(0, all, []);
}

/** The numbers of subtotals, written as those of the rows. */
function textsOf(cells: Cells, as: Cells, look: Look): FigureColumn[] {
  const data: TableCells = { rows: cells, stepped: null, series: [] };
  return figureColumns(data, look, { ranked: false, as }).filter(({ kind }) => kind === 'number');
}
