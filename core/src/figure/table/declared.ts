import { declared, own, toggle } from '../../form/declare';

/** A figure in a cell. */
const CELL_FIGURES = [
  'number',
  'bar',
  'share bar',
  'bullet',
  'spark columns',
  'spark line',
  'delta',
  'dot',
  'face',
  'ramp',
] as const;
export type CellFigure = (typeof CELL_FIGURES)[number];

export interface ColumnLook {
  /** The column's view, as the brief writes it. */
  readonly of: string;
  readonly cell: CellFigure;
  /** Cells are drawn on one scale: all of the column, all columns that say shared, or each row for itself. */
  readonly scale?: 'column' | 'shared' | 'row';
}

/** What the cells of a table hold, by the columns' views. */
export const columns = own<readonly ColumnLook[]>()('columns', {
  is: 'list',
  most: 50,
  of: {
    is: 'object',
    of: {
      of: { is: 'name', names: 'column' },
      cell: { is: 'words', words: CELL_FIGURES, required: true },
      scale: { is: 'words', words: ['column', 'shared', 'row'] },
    },
  },
});

/** Numbers in columns, with figures in the cells. */
export const tableForm = declared({
  form: 'table',
  purpose: 'every number, with figures in the cells',
  most: 5000,
  look: [columns, toggle('subtotals', 'subtotals by level', 'two fields')],
});
