import { useEffect } from 'react';
import type { Sent } from '@bold-ruler/core/problem';
import type { Report } from '@bold-ruler/core/report';
import { useAnswer } from '@/store/useAnswer';
import { useDraft } from '@/store/useDraft';

/** So long nothing is typed before a text is taken. */
const QUIET = 300;

/**
 * A text that is taken as it is typed, whenever it can stand; what cannot is kept as a draft, with why it cannot.
 * @param place where it is written; what is typed there is one step to take back
 * @param base what the report has
 * @param ask whether a text can stand
 * @param take puts it into the report
 */
export function useKept(
  place: string,
  base: string,
  ask: (report: Report, text: string) => Promise<Sent<unknown>>,
  take: (text: string, place: string) => void,
) {
  const [text, setText, isDraft] = useDraft(place, base);
  const asked = useAnswer([place, text], isDraft && text.trim() !== '' ? (now) => ask(now, text) : null, QUIET);
  const canStand = isDraft && asked.isFresh && asked.value !== null && asked.of?.[1] === text;
  useEffect(() => {
    if (canStand) take(text, place);
    // What is taken is what was asked about, once.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [canStand, text]);
  return {
    text,
    setText,
    isDraft,
    problem: isDraft && asked.isFresh ? asked.problem : null,
    /** Takes at once what can stand, without the spaces around it. */
    settle: () => {
      if (!isDraft && text !== text.trim()) take(text.trim(), place);
    },
  };
}
