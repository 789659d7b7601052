import { choice, declared, own, toggle } from '../../form/declare';
import type { Shape } from '../../shape';

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
  /** The ends of what dots, tints and bars tell apart; left out: the scale of the scores where it is known, else what is shown (bars: from zero). */
  readonly ends?: readonly [number, number];
  /** From where on a face is fair, and good; left out: thirds of the same. */
  readonly faces?: readonly [number, number];
}

const pair: Shape = {
  is: 'list',
  of: { is: 'number', required: true },
  least: 2,
  most: 2,
  saying: '${path} must be two numbers',
};

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
      ends: pair,
      faces: pair,
    },
  },
});

/** What of a table a highlight paints. */
const paints = choice('paints', 'A highlight paints', 'bars of the first column', {
  row: 'whole rows',
  column: 'cells of the first column',
});

/** Numbers in columns, with figures in the cells. */
export const tableForm = declared({
  form: 'table',
  purpose: 'every number, with figures in the cells',
  everyView: true,
  most: 5000,
  look: [columns, paints, toggle('subtotals', 'subtotals by level', 'two fields')],
});
