import { useEffect, useState } from 'react';
import type { Report } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import type { ReaderOffers } from '@bold-ruler/core/page';
import type { PageShown, ReaderChoice } from '@bold-ruler/core/desk';
import { sentProblem, type SentProblem } from '@bold-ruler/core/problem';

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
  const [drawing, setDrawing] = useState<PageDrawing & { readonly of: string | null }>({
    shown: null,
    problem: null,
    pending: true,
    of: null,
  });
  useEffect(() => {
    let current = true;
    if (pageId === null || width === 0) return;
    void desk()
      .page(report, pageId, width, choice)
      .then(
        (answer) => {
          if (!current) return;
          if (answer.ok) setDrawing({ shown: answer.value, problem: null, pending: false, of: pageId });
          else setDrawing({ shown: null, problem: answer.problem, pending: false, of: pageId });
        },
        (error: unknown) =>
          current && setDrawing({ shown: null, problem: sentProblem(error), pending: false, of: pageId }),
      );
    return () => {
      current = false;
    };
  }, [report, surroundings, pageId, width, choice]);
  return drawing.of === pageId ? drawing : { shown: null, problem: null, pending: true };
}

/** What the reader of a page can choose from. */
export function useOffers(report: Report, surroundings: string, pageId: string | null): ReaderOffers | null {
  const [offers, setOffers] = useState<ReaderOffers | null>(null);
  const { pages, tables, calendar, highlights } = report;
  useEffect(() => {
    let current = true;
    if (pageId === null) return;
    void desk()
      .reader(report, pageId)
      .then((answer) => current && setOffers(answer.ok ? answer.value : null));
    return () => {
      current = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only these parts of the report matter
  }, [pages, tables, calendar, highlights, surroundings, pageId]);
  return offers;
}
