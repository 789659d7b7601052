'use client';

import type { Brief } from '@bold-ruler/core/brief';
import type { FigureEntry } from '@bold-ruler/core/report';
import type { Drawing } from '@/store/drawings';
import { clockTime } from '@/ui/clock';
import { FigureView } from './FigureView';
import type { Touched } from './touch';

interface Props {
  readonly figure: FigureEntry;
  readonly drawing: Drawing | undefined;
  readonly row: number | null;
  readonly onRow: (row: number | null) => void;
  readonly onTouch: (touched: Touched) => void;
  readonly onBrief: (brief: Brief) => void;
}

/** The paper a figure lies on, or why there is none. */
export function FigurePaper({ figure, drawing, row, onRow, onTouch, onBrief }: Props) {
  if (!drawing || (!drawing.drawn && !drawing.problem)) {
    return (
      <div role="status" className="border border-hairline bg-paper p-8 text-quiet">
        Drawing …
      </div>
    );
  }
  if (!drawing.drawn) {
    return (
      <div className="border border-hairline bg-paper p-8">
        <p className="font-semibold">This figure cannot be drawn yet.</p>
        <p className="mt-1 text-quiet">{drawing.problem!.message}</p>
      </div>
    );
  }
  const { drawn, problem, at } = drawing;
  // What was typed stays, and beneath it the last figure that could be drawn.
  if (problem)
    return (
      <div className="relative">
        <p className="mb-1.5 text-[13px] text-quiet">
          Beneath is the figure as it was last drawn{at !== null && `, at ${clockTime(at)}`}.
        </p>
        {/* Nothing here is read or pressed: it only shows what was. */}
        {/* oxlint-disable-next-line own/no-pale-words */}
        <div aria-hidden inert className="opacity-45">
          <FigureView
            figure={figure}
            drawn={drawn}
            pending
            row={null}
            onRow={onRow}
            onTouch={onTouch}
            onBrief={onBrief}
          />
        </div>
      </div>
    );
  if (drawn.rows.length === 0) {
    return (
      <div className="border border-hairline bg-paper p-8">
        <p className="font-semibold">Nothing to show</p>
        <p className="mt-1 text-quiet">There are no rows for this brief. Choose another period or fewer conditions.</p>
      </div>
    );
  }
  return (
    <FigureView
      figure={figure}
      drawn={drawn}
      pending={drawing.pending}
      row={row}
      onRow={onRow}
      onTouch={onTouch}
      onBrief={onBrief}
    />
  );
}
