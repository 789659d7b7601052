import type { Report } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { useAnswer } from '@/store/useAnswer';
import type { ReaderOffers } from '@bold-ruler/core/page';
import type { PageShown, ReaderChoice } from '@bold-ruler/core/desk';
import type { SentProblem } from '@bold-ruler/core/problem';

export interface PageDrawing {
  readonly shown: PageShown | null;
  readonly problem: SentProblem | null;
  readonly pending: boolean;
}

/** A page as it was last drawn; while a newer one is computed it stays. */
export function usePage(
  report: Report,
  surroundings: string,
  pageId: string | null,
  width: number,
  choice: ReaderChoice,
): PageDrawing {
  const { value, problem, of } = useAnswer(
    [pageId, report, surroundings, width, choice],
    pageId === null || width === 0 ? null : () => desk().page(report, pageId, width, choice),
  );
  return of?.[0] === pageId ? { shown: value, problem, pending: false } : { shown: null, problem: null, pending: true };
}

/** What the reader of a page can choose from. */
export function useOffers(report: Report, surroundings: string, pageId: string | null): ReaderOffers | null {
  const { pages, tables, calendar, highlights } = report;
  return useAnswer(
    [pages, tables, calendar, highlights, surroundings, pageId],
    pageId === null ? null : () => desk().reader(report, pageId),
  ).value;
}
