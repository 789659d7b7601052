'use client';

import { Slot } from 'radix-ui';
import { useId, useRef, type ReactNode } from 'react';
import { useFloatingParts } from './useFloatingParts';

interface Props {
  readonly trigger: ReactNode;
  readonly children: ReactNode;
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
  readonly label: string;
  readonly width?: number;
}

/** A small sheet beside what was pressed; what it is made of comes after the page. */
export function Popover({ trigger, children, open, onOpenChange, label, width = 264 }: Props) {
  const anchor = useRef<HTMLButtonElement>(null);
  const id = useId();
  const parts = useFloatingParts(open);
  return (
    <>
      <Slot.Root
        ref={anchor}
        aria-haspopup="dialog"
        aria-expanded={open}
        {...(open ? { 'aria-controls': id } : {})}
        data-state={open ? 'open' : 'closed'}
        onClick={() => onOpenChange(!open)}
      >
        {trigger}
      </Slot.Root>
      {open && parts && (
        <parts.Floating anchor={anchor} id={id} label={label} width={width} onOpenChange={onOpenChange}>
          {children}
        </parts.Floating>
      )}
    </>
  );
}
