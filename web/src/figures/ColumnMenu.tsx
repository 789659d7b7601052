'use client';

import { ChevronDown } from 'lucide-react';
import { useState } from 'react';
import type { Sorting } from '@bold-ruler/core/brief';
import type { FigureEntry } from '@bold-ruler/core/report';
import type { Mark, Scene } from '@bold-ruler/core/scene';
import type { ColumnShown } from '@bold-ruler/core/desk';
import { Popover } from '@/ui/Popover';
import { CellField, ScaleField } from './look/ColumnFields';

interface Props {
  readonly figure: FigureEntry;
  readonly scene: Scene;
  /** The heading it belongs to. */
  readonly mark: Mark & { shape: 'text' };
  readonly column: ColumnShown;
  readonly sort: Sorting | null;
  readonly onSort: (sort: Sorting | null) => void;
}

const PERCENT = 100;

/** Beside a column's heading on the paper: what its cells are, on what scale, and the order of the rows. */
export function ColumnMenu({ figure, scene, mark, column, sort, onSort }: Props) {
  const [open, setOpen] = useState(false);
  const { sorts: key } = mark;
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={`Column ${column.id}`}
      width={216}
      trigger={
        <button
          type="button"
          aria-label={`Column ${column.id}`}
          className={`absolute grid size-4 -translate-y-1/2 place-items-center rounded-sm text-quiet hover:bg-hairline hover:text-ink ${open ? 'bg-hairline text-ink' : ''}`}
          style={{
            // Beside the heading, and within the paper where that is drawn smaller than it is.
            left: `min(${((mark.x + 1) / scene.width) * PERCENT}%, calc(${PERCENT}% - 24px))`,
            top: `${((mark.y - mark.size * 0.36) / scene.height) * PERCENT}%`,
          }}
        >
          <ChevronDown aria-hidden size={12} />
        </button>
      }
    >
      <div className="space-y-3 p-3 text-[13px]">
        <p className="font-semibold">{column.id}</p>
        <label className="block">
          <span className="mb-1 block text-xs text-quiet">In its cells</span>
          <CellField figureId={figure.id} look={figure.look} column={column} className="w-full" />
        </label>
        <ScaleField figureId={figure.id} look={figure.look} column={column} className="w-full" />
        {key && (
          <fieldset>
            <legend className="mb-1 text-xs text-quiet">Order of the rows</legend>
            {(
              [
                ['down', 'largest first'],
                ['up', 'smallest first'],
              ] as const
            ).map(([direction, words]) => (
              <label key={direction} className="flex items-center gap-2 py-0.5">
                <input
                  type="radio"
                  name={`order of ${column.id}`}
                  checked={sort?.key === key && sort.direction === direction}
                  onChange={() => onSort({ key, direction })}
                />
                {words}
              </label>
            ))}
            <label className="flex items-center gap-2 py-0.5">
              <input
                type="radio"
                name={`order of ${column.id}`}
                checked={sort?.key !== key}
                onChange={() => onSort(null)}
              />
              {sort && sort.key !== key ? 'by another column' : 'as it comes'}
            </label>
          </fieldset>
        )}
      </div>
    </Popover>
  );
}
