'use client';

import Link from 'next/link';
import { pathOf, STEPS, type Step } from '@/store/steps';

interface Props {
  readonly report: string;
  readonly step: Step;
  readonly onFind: () => void;
  readonly onKeys: () => void;
}

/** The steps of the work, in order, each with its key. */
export function Rail({ report, step, onFind, onKeys }: Props) {
  return (
    <nav
      aria-label="Steps"
      className="flex w-[76px] shrink-0 flex-col border-r border-hairline max-[767px]:w-auto max-[767px]:flex-row max-[767px]:items-stretch max-[767px]:border-r-0 max-[767px]:border-b"
    >
      <Link
        href="/"
        aria-label="Bold Ruler, to the first page"
        title="All reports"
        className="flex h-12 flex-col justify-center px-3 hover:bg-paper"
      >
        <span aria-hidden className="text-[13px] leading-none font-bold tracking-tight">
          Bold
          <br />
          Ruler
        </span>
        <span aria-hidden className="mt-1 block h-1.5 ruler-edge" />
      </Link>
      <ol className="mt-4 max-[767px]:mt-0 max-[767px]:flex max-[767px]:min-w-0 max-[767px]:grow">
        {STEPS.map(({ id, name }, i) => (
          <li key={id}>
            <Link
              href={pathOf(report, id)}
              aria-current={id === step ? 'step' : undefined}
              title={`${name} (key ${i + 1})`}
              className={`block border-l-4 py-2.5 pl-2 text-[13px] max-[767px]:flex max-[767px]:h-full max-[767px]:items-center max-[767px]:gap-1 max-[767px]:border-b-4 max-[767px]:border-l-0 max-[767px]:px-1.5 max-[767px]:py-1 ${id === step ? 'border-boxwood bg-paper font-semibold' : 'border-transparent text-quiet hover:bg-paper hover:text-ink'}`}
            >
              <span aria-hidden className="block text-xs font-normal text-quiet max-[479px]:hidden">
                {i + 1}
              </span>
              {name}
            </Link>
          </li>
        ))}
      </ol>
      <button
        type="button"
        onClick={onFind}
        title="Find anything (Ctrl K)"
        className="mt-auto border-l-4 border-transparent py-2 pl-2 text-left text-[13px] text-quiet hover:bg-paper hover:text-ink max-[767px]:mt-0 max-[767px]:px-2 max-[479px]:hidden"
      >
        Find
      </button>
      <button
        type="button"
        onClick={onKeys}
        title="All keys (?)"
        className="mb-2 border-l-4 border-transparent py-2 pl-2 text-left text-[13px] text-quiet hover:bg-paper hover:text-ink max-[767px]:mb-0 max-[767px]:px-2 max-[479px]:hidden"
      >
        Keys
      </button>
    </nav>
  );
}
