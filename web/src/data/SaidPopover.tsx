'use client';

import { useState, type ReactNode } from 'react';
import { Button } from '@/ui/Button';
import { Popover } from '@/ui/Popover';

interface Props {
  /** What stands above it, and what it is called for those who only hear it. */
  readonly label: string;
  readonly name: string;
  /** What is set now, as the button says it. */
  readonly said: string;
  readonly children: ReactNode;
}

/** What is set, in a few words; pressed, it opens to be changed. */
export function SaidPopover({ label, name, said, children }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <div>
      <span className="mb-1 block text-xs text-quiet">{label}</span>
      <Popover
        open={open}
        onOpenChange={setOpen}
        label={name}
        trigger={
          <Button small className="w-full justify-start truncate" title={said}>
            <span className="truncate">{said}</span>
          </Button>
        }
      >
        <div className="space-y-3 p-3">{children}</div>
      </Popover>
    </div>
  );
}
