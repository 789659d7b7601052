'use client';

import { useEffect, useId, useRef, useState, type KeyboardEvent } from 'react';
import type { Completion } from '@bold-ruler/core/brief';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import type { SentProblem } from '@/worker/sent';

interface Props {
  readonly text: string;
  readonly onDraw: (text: string) => void;
  readonly onLeave: () => void;
}

/** The brief as text: what can come next is offered, a mistake is underlined, Enter draws. */
export function BriefText({ text, onDraw, onLeave }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const [value, setValue] = useState(text);
  const [cursor, setCursor] = useState(text.length);
  const [offers, setOffers] = useState<readonly Completion[]>([]);
  const [at, setAt] = useState(-1);
  const [problem, setProblem] = useState<SentProblem | null>(null);
  const list = useId();

  useEffect(() => {
    input.current?.focus();
    input.current?.setSelectionRange(text.length, text.length);
  }, [text]);

  useEffect(() => {
    let current = true;
    void desk()
      .complete(useReport.getState().report!, value, cursor)
      .then((answer) => {
        if (!current) return;
        setOffers(answer.completions);
        setProblem(answer.problem);
        setAt(-1);
      });
    return () => {
      current = false;
    };
  }, [value, cursor]);

  function take(offer: Completion): void {
    const before = value.slice(0, offer.from);
    const gap = before === '' || /\s$/.test(before) ? '' : ' ';
    const next = `${before}${gap}${offer.text} ${value.slice(cursor).trimStart()}`;
    const place = (before + gap + offer.text).length + 1;
    setValue(next);
    setCursor(place);
    requestAnimationFrame(() => {
      input.current?.focus();
      input.current?.setSelectionRange(place, place);
    });
  }

  /** Draws the text as it stands now; what is known of it may still be about the text before the last key. */
  async function draw(): Promise<void> {
    const answer = await desk().read(useReport.getState().report!, value);
    if (answer.ok) onDraw(answer.value.text);
    else setProblem(answer.problem);
  }

  function onKeyDown(event: KeyboardEvent<HTMLInputElement>): void {
    if (event.key === 'ArrowDown' && offers.length > 0) setAt((at + 1) % offers.length);
    else if (event.key === 'ArrowUp' && offers.length > 0) setAt((at <= 0 ? offers.length : at) - 1);
    else if (event.key === 'Tab' && !event.shiftKey && offers.length > 0 && value.slice(cursor).trim() === '')
      take(offers[Math.max(at, 0)]!);
    else if (event.key === 'Enter' && at >= 0) take(offers[at]!);
    else if (event.key === 'Enter') void draw();
    else if (event.key === 'Escape') onLeave();
    else return;
    event.preventDefault();
  }

  const span = problem?.place?.span;
  // While the cursor is still at the mistake, it may become right.
  const told =
    problem &&
    !(span && cursor >= span[0] && cursor <= span[1] && offers.length > 0 && span[1] >= value.trimEnd().length);
  return (
    <div>
      <div className="flex items-center gap-2">
        <div className="relative min-w-0 grow">
          <input
            ref={input}
            role="combobox"
            aria-label="Brief as text"
            aria-expanded={offers.length > 0}
            aria-controls={list}
            aria-activedescendant={at >= 0 ? `${list}-${at}` : undefined}
            aria-invalid={told ? true : undefined}
            spellCheck={false}
            autoComplete="off"
            value={value}
            onChange={(event) => {
              setValue(event.target.value);
              setCursor(event.target.selectionStart ?? event.target.value.length);
            }}
            onSelect={(event) => setCursor(event.currentTarget.selectionStart ?? value.length)}
            onKeyDown={onKeyDown}
            className="h-10 w-full rounded-sm border border-ink bg-paper px-3 text-[16px]"
          />
          {told && span && (
            <span
              aria-hidden
              className="pointer-events-none absolute inset-x-[13px] inset-y-0 overflow-hidden text-[16px] leading-[38px] whitespace-pre text-transparent"
            >
              {value.slice(0, span[0])}
              <span className="underline decoration-behind decoration-wavy decoration-2 underline-offset-4">
                {value.slice(span[0], span[1]) || ' '}
              </span>
            </span>
          )}
        </div>
        <Button look="main" disabled={problem !== null} onClick={() => void draw()}>
          Draw
        </Button>
        <Button look="bare" onClick={onLeave}>
          Leave
        </Button>
      </div>
      {told && (
        <p role="alert" className="mt-1.5 text-[13px] text-behind">
          {problem.sentence}
          {problem.remedy ? ` — ${problem.remedy}` : ''}
        </p>
      )}
      <ul id={list} role="listbox" aria-label="What can come next" className="mt-1.5 flex flex-wrap gap-1">
        {offers.map((offer, i) => (
          <li
            key={offer.text}
            id={`${list}-${i}`}
            role="option"
            aria-selected={i === at}
            onPointerDown={(event) => {
              event.preventDefault();
              take(offer);
            }}
            className={`cursor-pointer rounded-sm border px-2 py-0.5 text-[13px] ${i === at ? 'border-ink bg-boxwood-light' : 'border-hairline bg-paper hover:border-ink'}`}
          >
            {offer.text}
            <span className="ml-1.5 text-xs text-quiet">{offer.kind}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
