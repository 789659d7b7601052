'use client';

import { ChevronLeft, ChevronRight, X } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Report } from '@bold-ruler/core/report';
import { Button } from '@/ui/Button';
import { useReader } from './readerState';
import { PageSheet } from './PageSheet';
import { usePick } from './usePick';
import { usePage } from './usePage';
import { useWidth } from './useWidth';

interface Props {
  readonly report: Report;
  readonly surroundings: string;
  readonly pageId: string;
  readonly onPage: (id: string) => void;
  readonly onEnd: () => void;
}

/** Pixels a page is drawn for while it is presented, and the widest of screens. */
const READ = 1160;
const WIDEST = 8000;
/** What a page has above a figure that stands on it alone, and beneath it, in pixels. */
const AROUND = 170;

/** One page over the whole screen, or its figures one at a time; Escape ends. On a narrow screen blocks stand beneath one another. */
export function Present({ report, surroundings, pageId, onPage, onEnd }: Props) {
  const choice = useReader((state) => state.choice);
  const box = useRef<HTMLDivElement>(null);
  const screen = useWidth(box, true, WIDEST);
  // On a wider screen the page is no wider: its letters grow.
  const grown = Math.max(1, screen / READ);
  const width = Math.floor(screen / grown / 20) * 20;
  /** The figure that is shown alone, by its place on the page. */
  const [single, setSingle] = useState<number | null>(null);
  const page = report.pages.find(({ id }) => id === pageId);
  const figures = useMemo(
    () =>
      (page?.rows ?? []).flatMap((row) =>
        'blocks' in row ? row.blocks.flatMap((b) => ('figure' in b ? b.figure : [])) : [],
      ),
    [page],
  );
  const presented = useMemo(() => {
    const figure = single === null ? undefined : figures[single];
    if (figure === undefined) return report;
    const height = Math.max(240, Math.floor(window.innerHeight / grown) - AROUND);
    const rows = [{ blocks: [{ figure, share: 12 }], height }];
    return { ...report, pages: report.pages.map((one) => (one.id === pageId ? { ...one, rows } : one)) };
  }, [report, pageId, figures, single, grown]);
  const { shown } = usePage(presented, surroundings, pageId, width, choice);
  const at = report.pages.findIndex(({ id }) => id === pageId);
  const onPick = usePick();
  const turn = (by: number) => {
    if (single !== null) {
      if (figures[single + by]) setSingle(single + by);
      return;
    }
    const next = report.pages[at + by];
    if (next) onPage(next.id);
  };
  const zoom = () => setSingle(single === null && figures.length > 0 ? 0 : null);
  const keys = useRef({ turn, zoom, onEnd });
  useEffect(() => {
    keys.current = { turn, zoom, onEnd };
  });
  const [place, whole] = single === null ? [at, report.pages.length] : [single, figures.length];
  const what = single === null ? 'page' : 'figure';
  useEffect(() => {
    const element = box.current;
    element?.focus();
    // Where the browser does not give the whole screen, the window is taken.
    void element?.requestFullscreen?.().catch(() => {});
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'PageDown') keys.current.turn(1);
      else if (event.key === 'PageUp') keys.current.turn(-1);
      else if (event.key.toLowerCase() === 'f' && !event.ctrlKey && !event.metaKey) keys.current.zoom();
      else if (event.key === 'Escape') keys.current.onEnd();
      else return;
      event.preventDefault();
    };
    const onFull = () => {
      if (document.fullscreenElement === null) keys.current.onEnd();
    };
    window.addEventListener('keydown', onKey);
    document.addEventListener('fullscreenchange', onFull);
    return () => {
      window.removeEventListener('keydown', onKey);
      document.removeEventListener('fullscreenchange', onFull);
      if (document.fullscreenElement) void document.exitFullscreen();
    };
  }, []);
  return (
    <div
      ref={box}
      role="dialog"
      aria-modal
      aria-label={`Presenting ${report.pages[at]?.title ?? ''}`}
      tabIndex={-1}
      className="fixed inset-0 z-30 overflow-auto bg-desk outline-none"
    >
      <div className="mx-auto w-max" style={{ zoom: grown }}>
        {shown && <PageSheet shown={shown} picked={choice.picked} onPick={onPick} />}
      </div>
      <div className="fixed right-3 bottom-3 flex gap-1 rounded-sm border border-hairline bg-paper/95 p-1">
        {figures.length > 1 && (
          <Button small look="bare" onClick={zoom} title="One figure at a time, or the page (F)">
            {single === null ? 'One by one' : 'The page'}
          </Button>
        )}
        {whole > 1 && (
          <>
            <Button
              small
              look="bare"
              disabled={place <= 0}
              onClick={() => turn(-1)}
              aria-label={single === null ? 'Page before' : 'Figure before'}
            >
              <ChevronLeft aria-hidden size={16} />
            </Button>
            <span className="self-center text-[13px]">
              {place + 1} of {whole}
            </span>
            <Button small look="bare" disabled={place >= whole - 1} onClick={() => turn(1)} aria-label={`Next ${what}`}>
              <ChevronRight aria-hidden size={16} />
            </Button>
          </>
        )}
        <Button small look="bare" onClick={onEnd} aria-label="End presenting">
          <X aria-hidden size={16} />
        </Button>
      </div>
    </div>
  );
}
