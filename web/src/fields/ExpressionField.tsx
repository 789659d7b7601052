'use client';

import { useId, useRef, useState } from 'react';
import type { ExpressionCompletion } from '@bold-ruler/core/measure';
import { desk } from '@/store/desk';
import { useAnswer } from '@/store/useAnswer';
import { INPUT } from '@/ui/Field';

interface Props {
  readonly label: string;
  readonly tableId: string;
  readonly value: string;
  readonly invalid: boolean;
  readonly placeholder?: string;
  readonly onChange: (text: string) => void;
  /** Control + Enter. */
  readonly onKeep?: () => void;
  /** The field is left. */
  readonly onLeave?: () => void;
}

/** An expression, with columns and functions offered while it is written: arrow keys, Tab or Enter take one, Escape closes. */
export function ExpressionField({ label, tableId, value, invalid, placeholder, onChange, onKeep, onLeave }: Props) {
  const area = useRef<HTMLTextAreaElement>(null);
  const list = useId();
  const [cursor, setCursor] = useState<number | null>(null);
  const { value: offered, isFresh } = useAnswer(
    [cursor, tableId, value],
    cursor === null ? null : (now) => desk().completeExpression(now, tableId, value, cursor),
  );
  const options = isFresh && offered ? offered.slice(0, 8) : [];
  const isOpen = options.length > 0;
  // Other options begin with their first.
  const [picked, setPicked] = useState<{ of: typeof offered; at: number }>({ of: null, at: 0 });
  const chosen = picked.of === offered ? picked.at : 0;

  function take({ text, from, to }: ExpressionCompletion): void {
    onChange(value.slice(0, from) + text + value.slice(to));
    const next = from + text.length;
    setCursor(null);
    requestAnimationFrame(() => {
      area.current?.focus();
      area.current?.setSelectionRange(next, next);
    });
  }

  return (
    <div className="relative">
      <label className="block">
        <span className="mb-1 block text-xs text-quiet">{label}</span>
        <textarea
          ref={area}
          aria-controls={list}
          aria-autocomplete="list"
          aria-activedescendant={isOpen ? `${list}-${chosen}` : undefined}
          aria-invalid={invalid || undefined}
          spellCheck={false}
          placeholder={placeholder}
          value={value}
          className={`${INPUT} h-[68px] resize-y py-1.5 font-figure`}
          onChange={(event) => {
            const at = event.target.selectionStart;
            onChange(event.target.value);
            // Offered by itself where a name or an argument begins; elsewhere on Control + Space.
            setCursor(/[\p{L}_"(][\w ]*$/u.test(event.target.value.slice(0, at)) ? at : null);
          }}
          onBlur={() => {
            setCursor(null);
            onLeave?.();
          }}
          onKeyDown={(event) => {
            if (event.key === ' ' && event.ctrlKey) {
              event.preventDefault();
              setCursor(event.currentTarget.selectionStart);
            }
            if (event.key === 'Enter' && event.ctrlKey) {
              event.preventDefault();
              setCursor(null);
              onKeep?.();
              return;
            }
            if (!isOpen) return;
            const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
            if (step !== 0) {
              event.preventDefault();
              setPicked({ of: offered, at: (chosen + step + options.length) % options.length });
            } else if (event.key === 'Tab' || event.key === 'Enter') {
              event.preventDefault();
              take(options[chosen]!);
            } else if (event.key === 'Escape') {
              event.preventDefault();
              setCursor(null);
            }
          }}
        />
      </label>
      <ul
        id={list}
        role="listbox"
        aria-label="What can stand here"
        hidden={!isOpen}
        className="absolute inset-x-0 top-full z-10 mt-1 max-h-64 overflow-y-auto rounded-sm border border-ink/25 bg-paper p-1 text-[13px] shadow-popover"
      >
        {options.map((option, i) => (
          <li
            key={option.text}
            id={`${list}-${i}`}
            role="option"
            aria-selected={i === chosen}
            onMouseDown={(event) => {
              event.preventDefault();
              take(option);
            }}
            className={`flex cursor-pointer items-center justify-between gap-3 rounded-sm px-2 py-1 ${i === chosen ? 'bg-boxwood-light' : ''}`}
          >
            <span className="truncate font-figure">{option.text}</span>
            <span className="shrink-0 text-xs text-quiet">{option.detail}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
