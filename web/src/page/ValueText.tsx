'use client';

import { useRef, useState } from 'react';
import { TITLE_NAMES } from '@bold-ruler/core/format';
import { WrittenText } from '@/fields/WrittenText';

interface Props {
  readonly value: string;
  readonly onWrite: (text: string, session: string) => void;
  readonly onDone: () => void;
}

/** What is written behind an open brace before the cursor; null where none is open. */
const openIn = (before: string): string | null => /\{([^{}|]*)$/.exec(before)?.[1] ?? null;

/** A text of the page, written where it stands; behind an open brace the values it may tell are offered. */
export function ValueText({ value, onWrite, onDone }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [open, setOpen] = useState<string | null>(null);
  const offers = open === null ? [] : TITLE_NAMES.filter((name) => name.startsWith(open.toLowerCase().trim()));
  const look = () => {
    const field = box.current?.querySelector('textarea');
    if (field) setOpen(openIn(field.value.slice(0, field.selectionStart)));
  };
  const take = (name: string) => {
    const field = box.current?.querySelector('textarea');
    if (!field || open === null) return;
    field.focus();
    field.setSelectionRange(field.selectionStart - open.length, field.selectionStart);
    // As if it were typed, so that the field's own undo knows it.
    document.execCommand('insertText', false, `${name}}`);
    setOpen(null);
  };
  return (
    <div
      ref={box}
      className="absolute inset-0 z-20 flex min-h-40 flex-col"
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) onDone();
      }}
    >
      <WrittenText
        autoFocus
        rows={6}
        aria-label="Text of the page, with values in braces"
        value={value}
        onWrite={onWrite}
        onKeyUp={look}
        onClick={look}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Tab' && offers.length > 0) {
            event.preventDefault();
            take(offers[0]!);
          }
        }}
        className="min-h-0 w-full grow resize-none border-2 border-boxwood bg-paper px-2 py-1 font-figure text-[15px] leading-snug"
      />
      {offers.length > 0 && (
        <div role="group" aria-label="Values" className="flex flex-wrap gap-1 bg-paper p-1">
          {offers.map((name) => (
            <button
              key={name}
              type="button"
              className="rounded-sm border border-hairline px-1.5 text-xs hover:border-ink"
              onPointerDown={(event) => event.preventDefault()}
              onClick={() => take(name)}
            >
              {name}
            </button>
          ))}
        </div>
      )}
    </div>
  );
}
