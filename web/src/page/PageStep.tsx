'use client';

import { Maximize, Moon, Plus } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useEffect, useRef, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { clockTime } from '@/ui/clock';
import { usePaper } from '@/ui/paper';
import type { PageShown } from '@bold-ruler/core/desk';
import { SHEET } from '@bold-ruler/core/page';
import { PageArrangement } from './PageArrangement';
import { addPage, setTitle } from './commands';
import { FilterBar } from './FilterBar';
import { HandOver } from './HandOver';
import { Present } from './Present';
import { useReader } from './readerState';
import { PageSheet } from './PageSheet';
import { usePick } from './usePick';
import { useOffers, usePage, usePrepared } from './usePage';
import { useWidth } from './useWidth';

// They come when a page is first arranged.
const PaperArrangement = dynamic(() => import('./PaperArrangement').then((module) => module.PaperArrangement), {
  ssr: false,
});
const ColumnRuler = dynamic(() => import('./PaperArrangement').then((module) => module.ColumnRuler), { ssr: false });

/** Pages: figures set for reading, with filters for the reader; beside them the arrangement. */
export function PageStep() {
  const { report, id, tablesVersion } = useReport(
    useShallow(({ report, id, tablesVersion }) => ({ report, id, tablesVersion })),
  );
  const { page: asked, choice, show, choose, takeAddress } = useReader();
  const { isDeskDark, isWished: isDark, wish } = usePaper();
  const [isArranging, setArranging] = useState(false);
  const [isPresenting, setPresenting] = useState(false);
  const desk = useRef<HTMLDivElement>(null);
  const pages = report!.pages;
  const page = pages.find((one) => one.id === asked) ?? pages[0] ?? null;
  const width = useWidth(desk, page !== null);
  const surroundings = `${id} ${tablesVersion}`;
  useEffect(takeAddress, [takeAddress]);
  const { shown, at, problem, pending } = usePage(report!, surroundings, page?.id ?? null, width, choice);
  const offers = useOffers(report!, surroundings, page?.id ?? null);
  usePrepared(report!, surroundings, page?.id ?? null, shown !== null && !pending && !isArranging);
  const onPick = usePick();
  // Beneath one another, blocks have no columns.
  const isOnPaper = isArranging && width >= SHEET.narrow;

  if (!page) {
    return (
      <main className="p-10">
        <h1 className="text-xl font-semibold">No page yet</h1>
        <p className="mt-1 max-w-[520px] text-quiet">
          A page sets figures side by side for somebody who reads them, with filters that all of them follow and words
          that keep their values.
        </p>
        <Button look="main" className="mt-4" onClick={() => show(addPage())}>
          Make a page
        </Button>
      </main>
    );
  }
  return (
    <main
      className={`grid min-h-0 grow ${isArranging ? 'grid-cols-[minmax(0,1fr)_300px] max-[799px]:grid-cols-[minmax(0,1fr)] max-[799px]:grid-rows-[minmax(0,1fr)_minmax(0,1fr)]' : 'grid-cols-[minmax(0,1fr)]'}`}
    >
      <h1 className="sr-only">Page</h1>
      <div className="flex min-h-0 min-w-0 flex-col">
        <div className="flex min-h-12 flex-wrap items-center gap-2 border-b border-hairline px-4 py-2">
          {pages.length > 1 && (
            <select
              aria-label="Page"
              className="h-8 rounded-sm border border-hairline bg-paper px-2 text-[13px] font-semibold"
              value={page.id}
              onChange={(event) => show(event.target.value)}
            >
              {pages.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.title}
                </option>
              ))}
            </select>
          )}
          {offers && <FilterBar offers={offers} choice={choice} onChoose={choose} />}
          <span className="ml-auto flex items-center gap-1">
            <Button small look="bare" onClick={() => show(addPage())} title="New page" aria-label="New page">
              <Plus aria-hidden size={16} />
            </Button>
            <Button small aria-pressed={isArranging} onClick={() => setArranging(!isArranging)}>
              {isArranging ? 'Done' : 'Arrange'}
            </Button>
            <HandOver pageId={page.id} title={page.title} width={width} />
            {isDeskDark && (
              <Button
                small
                look="bare"
                aria-pressed={isDark}
                aria-label="Dark paper"
                title="Paper in the dark, on this screen; files and print stay light"
                onClick={() => wish(!isDark)}
              >
                <Moon aria-hidden size={14} fill={isDark ? 'currentColor' : 'none'} />
              </Button>
            )}
            <Button small look="main" onClick={() => setPresenting(true)}>
              <Maximize aria-hidden size={14} /> Present
            </Button>
          </span>
        </div>
        <div ref={desk} className="min-h-0 grow [scrollbar-gutter:stable] overflow-auto">
          {problem && (
            <p role="alert" className="m-4 border-l-4 border-behind bg-paper px-4 py-3">
              {problem.message}
              {at !== null && ` What is shown is of ${clockTime(at)}.`}
            </p>
          )}
          {!shown && !problem && (
            <p role="status" className="p-8 text-quiet">
              Drawing the page …
            </p>
          )}
          {shown && (
            <div aria-busy={pending} className="relative w-max">
              {isOnPaper && <ColumnRuler width={shown.width} rows={page.rows} />}
              <PageSheet shown={shown} picked={choice.picked} onPick={onPick} />
              {isOnPaper && <PaperArrangement page={page} shown={shown} />}
            </div>
          )}
        </div>
      </div>
      {isArranging && (
        <PageArrangement
          key={page.id}
          page={page}
          figures={report!.figures}
          offers={offers}
          titles={titlesOf(shown)}
          onTitle={(title, session) => setTitle(page.id, title, session)}
          onRemoved={() => show(null)}
        />
      )}
      {isPresenting && (
        <Present
          report={report!}
          surroundings={surroundings}
          pageId={page.id}
          onPage={show}
          onEnd={() => setPresenting(false)}
        />
      )}
    </main>
  );
}

function titlesOf(shown: PageShown | null): ReadonlyMap<string, string> {
  const titles = new Map<string, string>();
  for (const { kind, figure, title } of shown?.blocks ?? []) if (kind === 'figure' && figure) titles.set(figure, title);
  return titles;
}
