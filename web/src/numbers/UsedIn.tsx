'use client';

import { useState } from 'react';
import type { Named, Report } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { useAnswer } from '@/store/useAnswer';
import { edit } from '@/store/edit';
import { Button } from '@/ui/Button';

interface Props {
  readonly report: Report;
  readonly kind: Named;
  readonly name: string;
  readonly onGone: () => void;
}

/** Where a measure or benchmark is used, and what goes with it when it is removed. Removing can be undone. */
export function UsedIn({ report, kind, name, onGone }: Props) {
  const [asking, setAsking] = useState(false);
  const { value: usage } = useAnswer([report, kind, name], () => desk().usage(report, kind, name));
  if (!usage) return null;
  const inFigures = usage.figures.length + usage.looks.length;
  const used = inFigures + usage.benchmarks.length;
  const brief = (id: string) => report.figures.find((figure) => figure.id === id)?.brief ?? id;

  async function remove(): Promise<void> {
    if (!(await edit({ edit: 'remove', kind, name }))) return;
    onGone();
  }

  return (
    <section aria-label="Used in" className="border-t border-hairline pt-3">
      <div className="flex items-center gap-2">
        <h3 className="grow text-xs text-quiet">
          {used === 0
            ? 'Used nowhere'
            : `Used in ${inFigures} ${inFigures === 1 ? 'figure' : 'figures'}${usage.benchmarks.length > 0 ? `, and by ${usage.benchmarks.join(', ')}` : ''}`}
        </h3>
        {!asking && (
          <Button small look="bare" onClick={() => (used === 0 ? void remove() : setAsking(true))}>
            Remove
          </Button>
        )}
      </div>
      <ul className="mt-1 text-[13px]">
        {[...usage.figures, ...usage.looks].map((id) => (
          <li key={id} className="truncate py-0.5" title={brief(id)}>
            {brief(id)}
          </li>
        ))}
      </ul>
      {asking && (
        <div role="alert" className="mt-2 border-l-4 border-behind bg-desk/60 px-3 py-2 text-[13px]">
          <p>
            {kind === 'measure' && usage.figures.length > 0
              ? `Without ${name} ${usage.figures.length === 1 ? 'this figure is' : `these ${usage.figures.length} figures are`} gone, too.`
              : kind === 'measure'
                ? `Figures that split a gap by ${name} do so no longer.`
                : `Figures held against ${name} are then held against nothing${usage.benchmarks.length > 0 ? `, and ${usage.benchmarks.join(', ')} goes with it` : ''}.`}
          </p>
          <div className="mt-2 flex gap-2">
            <Button small onClick={() => void remove()}>
              Remove all that
            </Button>
            <Button small look="bare" onClick={() => setAsking(false)}>
              Keep it
            </Button>
          </div>
        </div>
      )}
    </section>
  );
}
