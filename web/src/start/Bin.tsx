'use client';

import { useState } from 'react';
import { nameOf } from '@/storage/library';
import type { StoredReport } from '@/storage/shelf';
import { Button } from '@/ui/Button';

interface Props {
  readonly removed: readonly StoredReport[];
  readonly onBack: (id: string) => void;
  readonly onEmpty: () => void;
}

const dayOf = (at: number) => new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });

/** Reports that were removed in the last 30 days, with everything that belongs to them. */
export function Bin({ removed, onBack, onEmpty }: Props) {
  const [asking, setAsking] = useState(false);
  if (removed.length === 0) return null;
  return (
    <details className="mt-4 text-[13px]">
      <summary className="cursor-pointer text-quiet">
        In the bin: {removed.length} {removed.length === 1 ? 'report' : 'reports'}
      </summary>
      <ul className="mt-2 divide-y divide-hairline border-y border-hairline">
        {removed.map(({ id, report, removed: at }) => (
          <li key={id} className="flex items-center gap-3 px-2 py-1.5">
            <span className="min-w-0 grow truncate">{nameOf({ report })}</span>
            <span className="shrink-0 text-quiet">removed {dayOf(at!)}</span>
            <Button small aria-label={`Put ${nameOf({ report })} back`} onClick={() => onBack(id)}>
              Put back
            </Button>
          </li>
        ))}
      </ul>
      <p className="mt-2 flex items-center gap-2 text-quiet">
        <span className="grow">
          {asking ? 'Nothing in it can be had back then.' : 'After 30 days they go by themselves.'}
        </span>
        {asking ? (
          <>
            <Button small onClick={onEmpty}>
              Empty it
            </Button>
            <Button small look="bare" onClick={() => setAsking(false)}>
              Leave it
            </Button>
          </>
        ) : (
          <Button small look="bare" onClick={() => setAsking(true)}>
            Empty the bin …
          </Button>
        )}
      </p>
    </details>
  );
}
