'use client';

import type { FigureEntry } from '@bold-ruler/core/report';
import { Button } from '@/ui/Button';
import type { DrawnRow } from '@bold-ruler/core/desk';
import { setLook } from './commands';

interface Props {
  readonly figure: FigureEntry;
  /** The brief's fields: a step of one field can be opened. */
  readonly by: readonly string[];
  readonly row: DrawnRow;
  /** The field one level below. */
  readonly below: string | null;
  readonly fields: readonly string[];
}

/** Opens the chosen step of a waterfall by another field, or closes the one that is open. */
export function OpenStep({ figure, by, row, below, fields }: Props) {
  const { opened } = figure.look;
  const [field] = by;
  if (by.length !== 1 || field === undefined) return null;
  const member = row.key[field];
  const isOpen = opened !== undefined && member === opened.member;
  return (
    <div className="mt-2">
      {opened && (
        <Button small onClick={() => setLook(figure.id, 'close the step', 'opened', undefined)}>
          Close {opened.member}
        </Button>
      )}
      {member && !isOpen && (
        <>
          <p className="mt-1 mb-1 text-xs text-quiet">Open {member} by</p>
          <div className="flex flex-wrap gap-1">
            {[...fields]
              .filter((one) => one !== field)
              // What lies below it comes first.
              .sort((a, b) => Number(b === below) - Number(a === below))
              .map((one) => (
                <Button
                  key={one}
                  small
                  onClick={() => setLook(figure.id, 'open a step', 'opened', { member, by: one })}
                >
                  {one}
                </Button>
              ))}
          </div>
        </>
      )}
    </div>
  );
}
