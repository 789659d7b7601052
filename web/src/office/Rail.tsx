'use client';

import Link from 'next/link';
import { pathOf, STEPS, type Step } from './steps';

/** The steps of the work, in order, each with its key. */
export function Rail({ report, step }: { report: string; step: Step }) {
  return (
    <nav aria-label="Steps" className="flex w-[76px] shrink-0 flex-col border-r border-hairline">
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
      <ol className="mt-4">
        {STEPS.map(({ id, name }, i) => (
          <li key={id}>
            <Link
              href={pathOf(report, id)}
              aria-current={id === step ? 'step' : undefined}
              title={`${name} (key ${i + 1})`}
              className={`block border-l-4 py-2.5 pl-2 text-[13px] ${id === step ? 'border-boxwood bg-paper font-semibold' : 'border-transparent text-quiet hover:bg-paper hover:text-ink'}`}
            >
              <span aria-hidden className="block text-xs font-normal text-quiet">
                {i + 1}
              </span>
              {name}
            </Link>
          </li>
        ))}
      </ol>
    </nav>
  );
}
