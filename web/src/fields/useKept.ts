import { useEffect } from 'react';
import type { Sent } from '@bold-ruler/core/problem';
import type { Report } from '@bold-ruler/core/report';
import { useReport } from '@/store/reportStore';
import { useAnswer } from '@/store/useAnswer';
import { useDraft } from '@/store/useDraft';

/** So long nothing is typed before a text is taken. */
const QUIET = 300;

interface Kept<T> {
  /** Whether a text can stand, with what it gives. */
  readonly ask: (report: Report, text: string) => Promise<Sent<T>>;
  /** Puts it into the report, as one step with what was typed there before; null for what is only put there as a whole. */
  readonly take: ((text: string, place: string) => Promise<unknown>) | null;
  /** What the answer rests on besides the text; with it, what stands there is asked about as well. */
  readonly of?: readonly unknown[];
}

/**
 * A text that is taken as it is typed, whenever it can stand; what cannot is kept as a draft, with why it cannot.
 * @param place where it is written; what is typed there is one step to take back
 * @param base what the report has
 */
export function useKept<T>(place: string, base: string, { ask, take, of }: Kept<T>) {
  const [text, setText, isDraft] = useDraft(place, base);
  const isBlank = text.trim() === '';
  const asked = useAnswer(
    [place, text, ...(of ?? [])],
    (isDraft || of !== undefined) && !isBlank ? (now) => ask(now, text) : null,
    isDraft ? QUIET : 0,
  );
  const canStand = isDraft && asked.isFresh && asked.value !== null;

  /** Takes a text; what was typed since is a draft of it. */
  async function put(taken: string): Promise<void> {
    if (take === null) return;
    const { write } = useReport.getState();
    write(place, { base, text: taken, sent: taken });
    const isTaken = (await take(taken, place)) !== false;
    const draft = useReport.getState().drafts.get(place);
    if (draft?.sent !== taken) return;
    write(place, isTaken && draft.text === taken ? null : { base: isTaken ? taken : base, text: draft.text });
  }

  useEffect(() => {
    if (canStand) void put(text);
    // What is taken is what was asked about, once.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [canStand, text]);

  return {
    text,
    setText,
    isDraft,
    answer: asked.isFresh ? asked.value : null,
    problem: asked.isFresh ? asked.problem : null,
    /** Nothing stands there, or what cannot: what the report has can be had back. */
    isStuck: isDraft && (isBlank || (asked.isFresh && asked.problem !== null)),
    /** The field is left: what can stand is taken at once, without the spaces around it. */
    settle: async () => {
      const last = text.trim();
      if (take === null || last === '') return;
      if (last === base) return setText(null);
      const { report } = useReport.getState();
      if (report && (await ask(report, last).catch(() => null))?.ok) await put(last);
    },
  };
}
