'use client';

import type { ReactNode } from 'react';
import type { Report } from '@bold-ruler/core/report';
import type { AskedValue } from '@bold-ruler/core/desk';
import { useValue } from './useValue';

interface Props {
  readonly report: Report;
  readonly name: string;
  readonly words: string;
  readonly aside?: ReactNode;
  readonly asked: AskedValue | null;
  readonly chosen: boolean;
  readonly onChoose: () => void;
}

/** A measure or benchmark in one line: its name, what it is, and its value now. */
export function Card({ report, name, words, aside, asked, chosen, onChoose }: Props) {
  return (
    <li>
      <button
        type="button"
        data-card={name}
        aria-pressed={chosen}
        onClick={onChoose}
        className={`grid w-full grid-cols-[minmax(0,200px)_minmax(0,1fr)_auto_110px] items-baseline gap-4 border-b border-l-4 border-b-hairline px-3 py-2 text-left max-[639px]:grid-cols-[minmax(0,1fr)_auto] max-[639px]:gap-x-3 max-[639px]:gap-y-0.5 ${chosen ? 'border-l-boxwood bg-boxwood-light/70' : 'border-l-transparent bg-paper hover:bg-desk/60'}`}
      >
        <span className="truncate font-semibold" title={name}>
          {name}
        </span>
        <span className="truncate font-figure text-[13px] text-quiet" title={words}>
          {words}
        </span>
        <span className="text-xs text-quiet">{aside}</span>
        {asked ? <Value report={report} asked={asked} /> : <span />}
      </button>
    </li>
  );
}

function Value({ report, asked }: { report: Report; asked: AskedValue }) {
  const answer = useValue(report, asked);
  if (!answer) return <span className="text-right font-figure text-quiet">…</span>;
  if (!answer.value)
    return (
      <span className="truncate text-right text-[13px] text-behind" title={answer.problem?.message}>
        not here
      </span>
    );
  return (
    <span className="text-right font-figure font-semibold" title={answer.value.exact}>
      {answer.value.whole}
    </span>
  );
}
