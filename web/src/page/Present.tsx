'use client';

import { ChevronLeft, ChevronRight, X } from 'lucide-react';
import { useEffect, useRef } from 'react';
import type { Report } from '@bold-ruler/core/report';
import { Button } from '@/ui/Button';
import { useReader } from './readerState';
import { Sheet } from './Sheet';
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

/** One page over the whole screen; arrow keys turn pages, Escape ends. On a narrow screen its blocks stand beneath one another. */
export function Present({ report, surroundings, pageId, onPage, onEnd }: Props) {
  const choice = useReader((state) => state.choice);
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  const { shown } = usePage(report, surroundings, pageId, width, choice);
  const at = report.pages.findIndex(({ id }) => id === pageId);
  const onPick = usePick();
  const turn = (by: number) => {
    const next = report.pages[at + by];
    if (next) onPage(next.id);
  };
  const keys = useRef({ turn, onEnd });
  useEffect(() => {
    keys.current = { turn, onEnd };
  });
  useEffect(() => {
    const element = box.current;
    element?.focus();
    // Where the browser does not give the whole screen, the window is taken.
    void element?.requestFullscreen?.().catch(() => {});
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'PageDown') keys.current.turn(1);
      else if (event.key === 'PageUp') keys.current.turn(-1);
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
      <div className="mx-auto w-max">{shown && <Sheet shown={shown} picked={choice.picked} onPick={onPick} />}</div>
      <div className="fixed right-3 bottom-3 flex gap-1 rounded-sm border border-hairline bg-paper/95 p-1">
        {report.pages.length > 1 && (
          <>
            <Button small look="bare" disabled={at <= 0} onClick={() => turn(-1)} aria-label="Page before">
              <ChevronLeft aria-hidden size={16} />
            </Button>
            <span className="self-center text-[13px]">
              {at + 1} of {report.pages.length}
            </span>
            <Button
              small
              look="bare"
              disabled={at >= report.pages.length - 1}
              onClick={() => turn(1)}
              aria-label="Next page"
            >
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
