'use client';

import { Plus } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { Button } from './Button';
import type { Choice } from './ChoiceCommand';
import { ChoiceList } from './ChoiceList';
import { Popover } from './Popover';

interface Props {
  /** What the list asks. */
  readonly ask: string;
  readonly choices: readonly Choice[];
  readonly onChoose: (id: string) => void;
  readonly children: ReactNode;
}

/** A button that makes something new, once it is said of which kind. */
export function NewOne({ ask, choices, onChoose, children }: Props) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState('');
  const trigger = (
    <Button small>
      <Plus aria-hidden size={14} /> {children}
    </Button>
  );
  return (
    <Popover open={open} onOpenChange={setOpen} label={ask} trigger={trigger}>
      <ChoiceList
        label={ask}
        typed={typed}
        onTyped={setTyped}
        choices={choices}
        onChoose={(id) => {
          setOpen(false);
          setTyped('');
          onChoose(id);
        }}
      />
    </Popover>
  );
}
