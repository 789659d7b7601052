import { useEffect } from 'react';
import { create } from 'zustand';
import type { Report } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { useAnswer } from '@/store/useAnswer';
import type { ReaderOffers } from '@bold-ruler/core/page';
import type { PageShown, ReaderChoice } from '@bold-ruler/core/desk';
import type { SentProblem } from '@bold-ruler/core/problem';

export interface PageDrawing {
  readonly shown: PageShown | null;
  /** When that was drawn, as milliseconds of the clock; null before. */
  readonly at: number | null;
  readonly problem: SentProblem | null;
  readonly pending: boolean;
}

/** The page that was drawn last, its place by report and page; it is there when its step is shown again. */
const useLast = create<{ readonly place: string; readonly shown: PageShown | null; readonly at: number | null }>(
  () => ({
    place: '',
    shown: null,
    at: null,
  }),
);

/** A page as it was last drawn; while a newer one is computed, or where that cannot be drawn, it stays. */
export function usePage(
  report: Report,
  surroundings: string,
  pageId: string | null,
  width: number,
  choice: ReaderChoice,
): PageDrawing {
  const { value, problem, of, at } = useAnswer(
    [pageId, report, surroundings, width, choice],
    pageId === null || width === 0 ? null : () => desk().page(report, pageId, width, choice),
  );
  const place = `${surroundings.split(' ')[0]} ${pageId}`;
  const isOfIt = of?.[0] === pageId;
  useEffect(() => {
    if (value && at !== null && isOfIt) useLast.setState({ place, shown: value, at });
  }, [place, value, at, isOfIt]);
  const last = useLast();
  if (!isOfIt) return { shown: null, at: null, problem: null, pending: true };
  const stays = last.place === place ? last : null;
  return { shown: value ?? stays?.shown ?? null, at: stays?.at ?? null, problem, pending: false };
}

/** A moment in which nothing else is to be done. */
const idle = () =>
  new Promise<void>((resolve) => {
    if ('requestIdleCallback' in window) requestIdleCallback(() => resolve());
    else setTimeout(resolve, 200);
  });

/** While nothing else is to be done, answers are made ready for what the reader of a page may choose first. */
export function usePrepared(report: Report, surroundings: string, pageId: string | null, isShown: boolean): void {
  useEffect(() => {
    if (pageId === null || !isShown) return;
    let isLeft = false;
    const prepare = async () => {
      for (let step = 0, more = true; more && !isLeft; step++) {
        await idle();
        if (isLeft) return;
        const answer = await desk().prepare(report, pageId, step);
        more = answer.ok && answer.value;
      }
    };
    // The part that computes may be ended meanwhile; nobody waits for this.
    prepare().catch(() => {});
    return () => {
      isLeft = true;
    };
  }, [report, surroundings, pageId, isShown]);
}

/** What the reader of a page can choose from. */
export function useOffers(report: Report, surroundings: string, pageId: string | null): ReaderOffers | null {
  const { pages, tables, calendar, highlights } = report;
  return useAnswer(
    [pages, tables, calendar, highlights, surroundings, pageId],
    pageId === null ? null : () => desk().reader(report, pageId),
  ).value;
}
