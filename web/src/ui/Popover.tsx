'use client';

import { Popover as Radix } from 'radix-ui';
import type { ReactNode } from 'react';

interface Props {
  readonly trigger: ReactNode;
  readonly children: ReactNode;
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
  readonly label: string;
  readonly width?: number;
}

/** A small sheet beside what was pressed. */
export function Popover({ trigger, children, open, onOpenChange, label, width = 264 }: Props) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Trigger asChild>{trigger}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          aria-label={label}
          align="start"
          sideOffset={6}
          collisionPadding={12}
          style={{ width }}
          className="z-20 rounded-sm border border-ink/25 bg-paper shadow-popover"
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
