'use client';

import { useEffect } from 'react';
import { useReport } from './reportStore';

/**
 * A text that is not in the report before it is taken, such as an expression: it is kept in this browser as it is written, and is
 * there again after the page was left. Null takes it away. A text that was begun from another one than stands there now is not
 * brought back.
 * @returns the text, what changes it, and whether it is a draft
 */
export function useDraft(place: string, base: string): readonly [string, (text: string | null) => void, boolean] {
  const draft = useReport((state) => state.drafts.get(place));
  const write = useReport((state) => state.write);
  const isOwn = draft !== undefined && (draft.base === base || draft.sent === base);
  useEffect(() => (isOwn ? useReport.getState().begin('drafting') : undefined), [isOwn]);
  return [
    isOwn ? draft.text : base,
    (text) => {
      const sent = isOwn && draft.sent !== undefined ? { sent: draft.sent } : {};
      write(place, text === null || (text === base && !('sent' in sent)) ? null : { base, text, ...sent });
    },
    isOwn,
  ];
}
