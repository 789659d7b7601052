import { useState } from 'react';
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
  const [last, setLast] = useState<{ of: unknown; shown: PageShown; at: number | null } | null>(null);
  if (value && last?.shown !== value) setLast({ of: of?.[0], shown: value, at });
  if (of?.[0] !== pageId) return { shown: null, at: null, problem: null, pending: true };
  const stays = last?.of === pageId ? last : null;
  return { shown: value ?? stays?.shown ?? null, at: stays?.at ?? null, problem, pending: false };
}

/** What the reader of a page can choose from. */
export function useOffers(report: Report, surroundings: string, pageId: string | null): ReaderOffers | null {
  const { pages, tables, calendar, highlights } = report;
  return useAnswer(
    [pages, tables, calendar, highlights, surroundings, pageId],
    pageId === null ? null : () => desk().reader(report, pageId),
  ).value;
}
