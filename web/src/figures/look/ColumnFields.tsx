'use client';

import type { CellFigure, ColumnLook, Look } from '@bold-ruler/core/report';
import type { ColumnShown } from '@/worker/desk.worker';
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

/** The figure in the cells of each column, and the scale it is drawn on. */
export function ColumnFields({
  figureId,
  look,
  columns,
}: {
  figureId: string;
  look: Look;
  columns: readonly ColumnShown[];
}) {
  const set = (of: string, next: Partial<ColumnLook> & Pick<ColumnLook, 'cell'>) => {
    const others = (look.columns ?? []).filter((one) => one.of !== of);
    const { cell, scale } = next;
    const kept: ColumnLook = { of, cell, ...(scale && scale !== 'column' ? { scale } : {}) };
    setLook(figureId, `cells of ${of}`, 'columns', [...others, kept]);
  };
  return (
    <fieldset className="space-y-1.5">
      <legend className="mb-1 text-xs text-quiet">In the cells</legend>
      {columns.map(({ id, cell, scale, cells }) => (
        <div key={id} className="grid grid-cols-[1fr_104px] items-center gap-1.5">
          <span className="truncate text-[13px]" title={id}>
            {id}
          </span>
          <select
            aria-label={`Cells of ${id}`}
            className={`${INPUT} h-7`}
            value={cell}
            onChange={(event) => set(id, { cell: event.target.value as CellFigure, scale })}
          >
            {cells.map((one) => (
              <option key={one} value={one}>
                {CELL_WORDS[one]}
              </option>
            ))}
          </select>
          {SCALED.has(cell) && (
            <select
              aria-label={`Scale of ${id}`}
              className={`${INPUT} col-start-2 h-7`}
              value={scale}
              onChange={(event) => set(id, { cell, scale: event.target.value as NonNullable<ColumnLook['scale']> })}
            >
              <option value="column">one scale</option>
              <option value="shared">shared over columns</option>
              <option value="row">each row its own</option>
            </select>
          )}
        </div>
      ))}
    </fieldset>
  );
}
