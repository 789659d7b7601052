import { Popover as Radix } from 'radix-ui';
import { useRef, type ReactNode, type RefObject } from 'react';

interface Props {
  /** What was pressed. */
  readonly anchor: RefObject<HTMLElement | null>;
  readonly id: string;
  readonly label: string;
  readonly width: number;
  readonly onOpenChange: (open: boolean) => void;
  readonly children: ReactNode;
}

/** The sheet of a popover while it is open: beside its anchor, closed by a press elsewhere, from where the focus goes back. */
export function Floating({ anchor, id, label, width, onOpenChange, children }: Props) {
  const wasElsewhere = useRef(false);
  return (
    <Radix.Root open onOpenChange={onOpenChange}>
      <Radix.Anchor virtualRef={anchor as RefObject<HTMLElement>} />
      <Radix.Portal>
        <Radix.Content
          id={id}
          aria-label={label}
          align="start"
          sideOffset={6}
          collisionPadding={12}
          style={{ width }}
          className="z-20 rounded-sm border border-ink/25 bg-paper shadow-popover"
          onInteractOutside={(event) => {
            // A press on what was pressed closes by itself.
            if (anchor.current?.contains(event.target as Node)) event.preventDefault();
            else wasElsewhere.current = true;
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            if (!wasElsewhere.current) anchor.current?.focus();
          }}
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
