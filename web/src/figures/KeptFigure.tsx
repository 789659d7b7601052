'use client';

import { Minus, Plus } from 'lucide-react';
import type { Brief } from '@bold-ruler/core/brief';

/** With more members than this a figure offers to show fewer. */
const MANY = 12;

/** How many members are shown, and one more or less of them. */
export function KeptFigure({
  brief,
  members,
  onBrief,
}: {
  brief: Brief;
  members: number;
  onBrief: (brief: Brief) => void;
}) {
  const { keep } = brief;
  if (brief.by.length === 0 || (!keep && members <= MANY)) return null;
  const set = (count: number) => onBrief({ ...brief, keep: { order: 'highest', rest: false, ...keep, count } });
  const button =
    'grid size-6 place-items-center rounded-sm border border-hairline bg-paper hover:border-ink disabled:opacity-40';
  return (
    <div className="my-1 ml-auto flex shrink-0 items-center gap-1 font-figure text-xs text-quiet">
      {keep ? (
        <>
          <button
            type="button"
            aria-label="Show one fewer"
            className={button}
            disabled={keep.count <= 1}
            onClick={() => set(keep.count - 1)}
          >
            <Minus aria-hidden size={12} />
          </button>
          <span>{keep.count} shown</span>
          <button type="button" aria-label="Show one more" className={button} onClick={() => set(keep.count + 1)}>
            <Plus aria-hidden size={12} />
          </button>
        </>
      ) : (
        <button
          type="button"
          className="rounded-sm border border-hairline px-2 py-0.5 hover:border-ink"
          onClick={() => set(10)}
        >
          show 10 of {members}
        </button>
      )}
    </div>
  );
}
