'use client';

import type { CellFigure, ColumnLook, Look } from '@bold-ruler/core/report';
import type { ColumnShown } from '@bold-ruler/core/desk';
import { DraftText } from '@/fields/DraftText';
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
          <EndsFields {...of} column={column} />
        </div>
      ))}
    </fieldset>
  );
}

type ColumnProps = Props & { readonly column: ColumnShown; readonly className?: string };

/** What changes of a column; undefined for what is left out again. */
type ColumnChange = { readonly [K in keyof ColumnLook]?: ColumnLook[K] | undefined };

function setColumn({ figureId, look, column }: ColumnProps, next: ColumnChange): void {
  const others = (look.columns ?? []).filter(({ of }) => of !== column.id);
  const before = look.columns?.find(({ of }) => of === column.id);
  const { scale, ...rest } = { cell: column.cell, scale: column.scale, ...before, ...next, of: column.id };
  const known = Object.entries({ ...rest, ...(scale === 'column' ? {} : { scale }) }).filter(
    ([, value]) => value !== undefined,
  );
  const kept = Object.fromEntries(known) as unknown as ColumnLook;
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

/** Two numbers that a column's cells are read against: the ends of its scale, or where its faces change. */
function EndsFields(props: ColumnProps) {
  const { figureId, look, column } = props;
  const of = column.cell === 'face' ? 'faces' : 'ends';
  const shown = column.cell === 'face' || column.cell === 'bar' || column.ends !== null;
  if (!shown) return null;
  const chosen = look.columns?.find((one) => one.of === column.id)?.[of];
  const now = chosen ?? column[of];
  const side = column.lessIsBetter ? 'up to' : 'from';
  const words = of === 'faces' ? [`fair ${side}`, `good ${side}`] : ['from', 'to'];
  const put = (at: 0 | 1, text: string) => {
    if (text.trim() === '') return setColumn(props, { [of]: undefined });
    const value = Number(text);
    if (!Number.isFinite(value)) return;
    const other = now?.[1 - at] ?? value;
    setColumn(props, { [of]: at === 0 ? [value, other] : [other, value] });
  };
  return (
    <div className="col-span-2 grid grid-cols-2 gap-1.5">
      {([0, 1] as const).map((at) => (
        <label key={at} className="flex items-center gap-1.5 text-xs text-quiet">
          <span className="shrink-0">{words[at]}</span>
          <DraftText
            place={`${of} ${at} of ${column.id} of ${figureId}`}
            type="number"
            step="any"
            aria-label={`${column.id}, ${words[at]}`}
            className={`${INPUT} h-7 min-w-0`}
            placeholder={now === null ? '' : String(Number(now[at].toPrecision(4)))}
            base={chosen === undefined ? '' : String(chosen[at])}
            onTake={(text) => put(at, text)}
          />
        </label>
      ))}
    </div>
  );
}
