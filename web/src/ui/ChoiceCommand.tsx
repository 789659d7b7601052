'use client';

import { Command } from 'cmdk';
import { Check } from 'lucide-react';

export interface Choice {
  readonly id: string;
  readonly text: string;
  readonly detail?: string;
  readonly chosen?: boolean;
}

interface Props {
  readonly label: string;
  readonly choices: readonly Choice[];
  readonly onChoose: (id: string) => void;
  /** Offered first while something is typed that is none of the choices. */
  readonly own?: (typed: string) => Choice | null;
  readonly typed?: string;
  readonly onTyped?: (typed: string) => void;
}

/** A searchable list: type to narrow, arrow keys, Enter. */
export function ChoiceCommand({ label, choices, onChoose, own, typed, onTyped }: Props) {
  const extra = typed && own ? own(typed) : null;
  return (
    <Command label={label} loop className="text-[13px]">
      <Command.Input
        autoFocus
        aria-label={label}
        placeholder={label}
        {...(typed === undefined ? {} : { value: typed })}
        {...(onTyped ? { onValueChange: onTyped } : {})}
        className="h-9 w-full border-b border-hairline bg-transparent px-3 outline-none placeholder:text-quiet"
      />
      <Command.List className="max-h-72 overflow-y-auto p-1">
        <Command.Empty className="px-2 py-2 text-quiet">Nothing is called that.</Command.Empty>
        {extra && <Row choice={extra} onChoose={onChoose} always />}
        {choices.map((choice) => (
          <Row key={choice.id} choice={choice} onChoose={onChoose} />
        ))}
      </Command.List>
    </Command>
  );
}

/** Letters of a detail that stand beside its choice; longer ones stand beneath it. */
const BESIDE = 34;

function Row({
  choice,
  onChoose,
  always = false,
}: {
  choice: Choice;
  onChoose: (id: string) => void;
  always?: boolean;
}) {
  return (
    <Command.Item
      value={`${choice.text} ${choice.id}`}
      forceMount={always}
      onSelect={() => onChoose(choice.id)}
      className="flex cursor-pointer flex-wrap items-baseline gap-x-2 rounded-sm px-2 py-1.5 data-[selected=true]:bg-boxwood-light"
    >
      <Check aria-hidden size={13} className={`shrink-0 self-center ${choice.chosen ? '' : 'invisible'}`} />
      <span className={`min-w-0 truncate ${choice.detail ? 'max-w-[60%]' : 'grow'}`}>{choice.text}</span>
      {choice.detail && (
        <span
          className={`text-xs leading-snug text-quiet ${choice.detail.length > BESIDE ? 'basis-full pl-[21px]' : 'min-w-0 grow truncate text-right'}`}
        >
          {choice.detail}
        </span>
      )}
    </Command.Item>
  );
}
