'use client';

import { useEffect, useId, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import type { Completion } from '@bold-ruler/core/brief';
import type { Fix } from '@bold-ruler/core/problem';
import { desk } from '@/store/desk';
import { useAnswer } from '@/store/useAnswer';
import { useReport } from '@/store/reportStore';
import { useDraft } from '@/store/useDraft';
import { Button } from '@/ui/Button';
import type { SentProblem } from '@bold-ruler/core/problem';

interface Props {
  readonly text: string;
  /** Where it is written: what is not drawn yet is kept there. */
  readonly place: string;
  readonly onDraw: (text: string) => void;
  readonly onLeave: () => void;
}

/** The brief as text: what can come next is offered, a mistake is underlined, Enter draws. */
export function BriefText({ text, place, onDraw, onLeave: onLeft }: Props) {
  const input = useRef<HTMLTextAreaElement>(null);
  const [value, setDraft] = useDraft(place, text);
  const setValue = (next: string) => setDraft(next);
  const [cursor, setCursor] = useState(value.length);
  const onLeave = () => {
    setDraft(null);
    onLeft();
  };
  // What is offered is about the text before the last key until the next answer is there.
  const { value: answer, of, isFresh } = useAnswer([value, cursor], (now) => desk().complete(now, value, cursor));
  const offers = answer?.completions ?? [];
  const [picked, setPicked] = useState<{ of: typeof answer; at: number }>({ of: null, at: -1 });
  const at = picked.of === answer ? picked.at : firstOf(answer, of);
  const setAt = (next: number) => setPicked({ of: answer, at: next });
  const [refused, setRefused] = useState<{ of: string; problem: SentProblem } | null>(null);
  const problems = refused?.of === value ? [refused.problem] : (answer?.problems ?? []);
  const [problem] = problems;
  const list = useId();

  useEffect(() => {
    input.current?.focus();
    const { length } = input.current?.value ?? '';
    input.current?.setSelectionRange(length, length);
  }, [text]);

  function take(offer: Completion): void {
    const before = value.slice(0, offer.from);
    const gap = before === '' || /\s$/.test(before) ? '' : ' ';
    const next = `${before}${gap}${offer.text} ${value.slice(cursor).trimStart()}`;
    const behind = (before + gap + offer.text).length + 1;
    setValue(next);
    setCursor(behind);
    requestAnimationFrame(() => {
      input.current?.focus();
      input.current?.setSelectionRange(behind, behind);
    });
  }

  /** Draws the text as it stands now; what is known of it may still be about the text before the last key. */
  async function draw(): Promise<void> {
    const answer = await desk().read(useReport.getState().report!, value);
    if (answer.ok) {
      setDraft(null);
      onDraw(answer.value.text);
    } else setRefused({ of: value, problem: answer.problem });
  }

  function onKeyDown(event: KeyboardEvent<HTMLTextAreaElement>): void {
    if (event.key === 'ArrowDown' && offers.length > 0) setAt((at + 1) % offers.length);
    else if (event.key === 'ArrowUp' && offers.length > 0) setAt((at <= 0 ? offers.length : at) - 1);
    else if (event.key === 'Tab' && !event.shiftKey && offers.length > 0 && value.slice(cursor).trim() === '') {
      if (isFresh) take(offers[Math.max(at, 0)]!);
    } else if (event.key === 'Enter' && at >= 0 && isFresh) take(offers[at]!);
    else if (event.key === 'Enter') void draw();
    else if (event.key === 'Escape') onLeave();
    else return;
    event.preventDefault();
  }

  // While the cursor is still at a mistake, it may become right.
  const told = problems.filter(({ place }) => {
    const span = place?.span;
    return !(span && cursor >= span[0] && cursor <= span[1] && offers.length > 0 && span[1] >= value.trimEnd().length);
  });

  /** Puts a text in the place of a mistake. */
  function mend({ text: next, from, to }: Fix): void {
    const mended = value.slice(0, from) + next + value.slice(to);
    setValue(mended);
    setCursor(mended.length);
    requestAnimationFrame(() => {
      input.current?.focus();
      input.current?.setSelectionRange(mended.length, mended.length);
    });
  }
  return (
    <div>
      <div className="flex items-start gap-2">
        <div className="relative min-w-0 grow">
          <textarea
            ref={input}
            rows={2}
            aria-label="Brief as text"
            aria-autocomplete="list"
            aria-controls={list}
            aria-activedescendant={at >= 0 ? `${list}-${at}` : undefined}
            aria-invalid={told.length > 0 ? true : undefined}
            spellCheck={false}
            autoComplete="off"
            value={value}
            onChange={(event) => {
              // It is one sentence, also where it was pasted in lines.
              setValue(event.target.value.replace(/\s*\n\s*/g, ' '));
              setCursor(event.target.selectionStart ?? event.target.value.length);
            }}
            onSelect={(event) => setCursor(event.currentTarget.selectionStart ?? value.length)}
            onKeyDown={onKeyDown}
            className="block [field-sizing:content] max-h-40 w-full resize-none rounded-sm border border-ink bg-paper px-3 py-1.5 text-[16px] leading-[22px]"
          />
          {told.length > 0 && (
            <span
              aria-hidden
              className="pointer-events-none absolute inset-x-[13px] inset-y-[7px] overflow-hidden text-[16px] leading-[22px] break-words whitespace-pre-wrap text-transparent"
            >
              {underlined(value, told)}
            </span>
          )}
        </div>
        <Button look="main" disabled={problem !== undefined} onClick={() => void draw()}>
          Draw
        </Button>
        <Button look="bare" onClick={onLeave}>
          Leave
        </Button>
      </div>
      {told.length > 0 && (
        <ul role="alert" className="mt-1.5 space-y-1 text-[13px] text-behind">
          {told.map(({ sentence, remedy, fixes }, i) => (
            <li key={i} className="flex flex-wrap items-center gap-1.5">
              <span>
                {sentence}
                {remedy && fixes.length === 0 ? ` — ${remedy}` : ''}
              </span>
              {fixes.length > 0 && <span>— did you mean</span>}
              {fixes.map((fix) => (
                <Button key={fix.text} small onClick={() => mend(fix)}>
                  {fix.text}
                </Button>
              ))}
            </li>
          ))}
        </ul>
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

/** Where the words so far are not yet whole, the first offer completes them: it is highlighted, and Enter takes it. */
function firstOf(
  answer: { readonly completions: readonly Completion[]; readonly problems: readonly SentProblem[] } | null,
  of: readonly unknown[] | null,
): number {
  if (!answer || !of || answer.completions.length === 0) return -1;
  const [text, cursor] = of as readonly [string, number];
  const span = answer.problems[0]?.place?.span;
  return /[^\s,]$/.test(text.slice(0, cursor)) && span !== undefined && span[1] >= cursor ? 0 : -1;
}

/** The text with its mistakes underlined. */
function underlined(text: string, mistakes: readonly SentProblem[]): ReactNode[] {
  const parts: ReactNode[] = [];
  let at = 0;
  for (const { place } of mistakes) {
    const [from, to] = place?.span ?? [text.length, text.length];
    if (from < at) continue;
    parts.push(text.slice(at, from));
    parts.push(
      <span key={from} className="underline decoration-behind decoration-wavy decoration-2 underline-offset-4">
        {text.slice(from, to) || ' '}
      </span>,
    );
    at = to;
  }
  return parts;
}
