'use client';

import type { CellFigure, ColumnLook, Look } from '@bold-ruler/core/report';
import type { ColumnShown } from '@bold-ruler/core/desk';
import { INPUT } from '@/ui/Field';
import { setLook } from '../commands';

const CELL_WORDS: Record<CellFigure, string> = {
  number: 'number',
  bar: 'bar',
  'share bar': 'share bar',
  bullet: 'bar with rule',
  'spark columns': 'small columns',
  'spark line': 'small line',
  delta: 'change',
  dot: 'score dot',
  face: 'face',
  ramp: 'tinted cell',
};
const SCALED: ReadonlySet<CellFigure> = new Set<CellFigure>(['bar', 'bullet', 'spark columns', 'spark line']);

interface Props {
  readonly figureId: string;
  readonly look: Look;
}

/** The figure in the cells of each column, and the scale it is drawn on. */
export function ColumnFields({ columns, ...of }: Props & { columns: readonly ColumnShown[] }) {
  return (
    <fieldset className="space-y-1.5">
      <legend className="mb-1 text-xs text-quiet">In the cells</legend>
      {columns.map((column) => (
        <div key={column.id} className="grid grid-cols-[1fr_104px] items-center gap-1.5">
          <span className="truncate text-[13px]" title={column.id}>
            {column.id}
          </span>
          <CellField {...of} column={column} />
          <ScaleField {...of} column={column} className="col-start-2" />
        </div>
      ))}
    </fieldset>
  );
}

type ColumnProps = Props & { readonly column: ColumnShown; readonly className?: string };

function setColumn({ figureId, look, column }: ColumnProps, next: Partial<ColumnLook>): void {
  const { cell, scale } = { cell: column.cell, scale: column.scale, ...next };
  const others = (look.columns ?? []).filter(({ of }) => of !== column.id);
  const kept: ColumnLook = { of: column.id, cell, ...(scale !== 'column' ? { scale } : {}) };
  setLook(figureId, `cells of ${column.id}`, 'columns', [...others, kept]);
}

/** What stands in the cells of a column. */
export function CellField(props: ColumnProps) {
  const { column, className = '' } = props;
  return (
    <select
      aria-label={`Cells of ${column.id}`}
      className={`${INPUT} h-7 ${className}`}
      value={column.cell}
      onChange={(event) => setColumn(props, { cell: event.target.value as CellFigure })}
    >
      {column.cells.map((one) => (
        <option key={one} value={one}>
          {CELL_WORDS[one]}
        </option>
      ))}
    </select>
  );
}

/** What a column's cells are drawn on; nothing for cells without a scale. */
export function ScaleField(props: ColumnProps) {
  const { column, className = '' } = props;
  if (!SCALED.has(column.cell)) return null;
  return (
    <select
      aria-label={`Scale of ${column.id}`}
      className={`${INPUT} h-7 ${className}`}
      value={column.scale}
      onChange={(event) => setColumn(props, { scale: event.target.value as NonNullable<ColumnLook['scale']> })}
    >
      <option value="column">one scale</option>
      <option value="shared">shared over columns</option>
      <option value="row">each row its own</option>
    </select>
  );
}
