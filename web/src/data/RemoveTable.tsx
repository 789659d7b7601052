'use client';

import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { counted } from '@bold-ruler/core/problem';
import { desk } from '@/store/desk';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { useAnswer } from '@/store/useAnswer';
import { Button } from '@/ui/Button';
import { Popover } from '@/ui/Popover';
import { goesWith } from './goesWith';

/** Takes a table out of the report, after saying what goes with it. It lies in the bin then, and can be had back. */
export function RemoveTable({ tableId }: { tableId: string }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={`Remove ${tableId}`}
      trigger={
        <Button
          small
          look="bare"
          className="px-1.5"
          aria-label={`Remove ${tableId}`}
          title="Take the table out of the report"
        >
          <Trash2 aria-hidden size={16} />
        </Button>
      }
    >
      <Asking tableId={tableId} onKeep={() => setOpen(false)} />
    </Popover>
  );
}

function Asking({ tableId, onKeep }: { tableId: string; onKeep: () => void }) {
  const report = useReport((state) => state.report)!;
  const { value, problem } = useAnswer([report, tableId], (now) =>
    desk().edited(now, { edit: 'remove-table', table: tableId }),
  );
  const without = value?.report;
  if (problem)
    return (
      <p role="alert" className="p-3 text-[13px]">
        {problem.message}
      </p>
    );
  if (!without) return <p className="p-3 text-[13px] text-quiet">Looking …</p>;
  const goes = goesWith(report, without);
  const held = report.figures.filter(({ id, brief }) =>
    without.figures.some((one) => one.id === id && one.brief !== brief),
  ).length;
  const list = goes.length > 1 ? `${goes.slice(0, -1).join(', ')} and ${goes.at(-1)}` : goes[0];
  return (
    <div className="p-3 text-[13px]">
      <p>
        {list === undefined ? `Nothing rests on ${tableId}.` : `On ${tableId} rest ${list}: they go with it.`}{' '}
        {held > 0 && `${counted(held, 'figure')} ${held === 1 ? 'is' : 'are'} then held against nothing. `}
        Removing can be undone, and the table lies in the bin for 30 days.
      </p>
      <div className="mt-3 flex gap-2">
        <Button small onClick={() => void edit({ edit: 'remove-table', table: tableId })}>
          {list === undefined ? 'Remove it' : 'Remove all that'}
        </Button>
        <Button small look="bare" onClick={onKeep}>
          Keep it
        </Button>
      </div>
    </div>
  );
}
