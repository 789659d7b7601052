'use client';

import { useEffect, useId, useRef, useState, type InputHTMLAttributes } from 'react';
import { useReport } from '@/store/reportStore';

type Common = Omit<InputHTMLAttributes<HTMLInputElement & HTMLTextAreaElement>, 'value' | 'defaultValue' | 'onChange'>;

interface Props extends Common {
  /** What the report has. */
  readonly value: string;
  /**
   * Takes a text into the report: while it is written, so that nothing of it can be lost.
   * @param session the same until the field is left: what is written in it is one step
   */
  readonly onWrite: (text: string, session: string) => void;
  /** Whether a text may stand in the report; one that may not is left out until it may, or the field is left. */
  readonly allows?: (text: string) => boolean;
  readonly rows?: number;
}

/** Milliseconds without a key after which what was written is taken. */
const STILL = 150;

/** A text of the report. It is saved as it is written; Escape brings back what stood there before. */
export function WrittenText({ value, onWrite, allows = () => true, rows, onBlur, onKeyDown, onFocus, ...more }: Props) {
  const [text, setText] = useState(value);
  const written = useRef(value);
  const before = useRef(value);
  const id = useId();
  const sessions = useRef(0);
  // Another text in the report, as by undoing, is taken over; what was written here is there already.
  useEffect(() => {
    if (value === written.current) return;
    written.current = value;
    setText(value);
  }, [value]);
  /** Takes what was written last, or leaves it for what is written next. */
  const pending = useRef<(() => void) | null>(null);
  const dropped = useRef<(() => void) | null>(null);
  const take = useRef(onWrite);
  useEffect(() => {
    take.current = onWrite;
  });
  // Whoever leaves in the middle of a word has written it all the same.
  useEffect(() => {
    const flush = () => pending.current?.();
    window.addEventListener('pagehide', flush);
    return () => {
      window.removeEventListener('pagehide', flush);
      flush();
    };
  }, []);
  const write = (next: string) => {
    setText(next);
    dropped.current?.();
    const kept = next.trim();
    if (!allows(kept) || kept === written.current) return;
    const session = `${id} ${sessions.current}`;
    const done = useReport.getState().begin('writing');
    // What is typed fast is drawn once.
    const timer = setTimeout(() => pending.current?.(), STILL);
    pending.current = () => {
      clearTimeout(timer);
      pending.current = dropped.current = null;
      written.current = kept;
      take.current(kept, session);
      done();
    };
    dropped.current = () => {
      clearTimeout(timer);
      pending.current = null;
      dropped.current = null;
      done();
    };
  };
  const shared = {
    ...more,
    value: text,
    onChange: (event: { target: { value: string } }) => write(event.target.value),
    onFocus: (event: React.FocusEvent<HTMLInputElement & HTMLTextAreaElement>) => {
      before.current = value;
      sessions.current++;
      onFocus?.(event);
    },
    onBlur: (event: React.FocusEvent<HTMLInputElement & HTMLTextAreaElement>) => {
      pending.current?.();
      // What may not stand there gives way to what stood before any of it was written.
      if (!allows(text.trim())) {
        write(before.current);
        pending.current?.();
      }
      setText(written.current);
      onBlur?.(event);
    },
    onKeyDown: (event: React.KeyboardEvent<HTMLInputElement & HTMLTextAreaElement>) => {
      if (event.key === 'Escape') {
        write(before.current);
        pending.current?.();
      }
      if (event.key === 'Escape' || (event.key === 'Enter' && rows === undefined)) event.currentTarget.blur();
      onKeyDown?.(event);
    },
  };
  return rows === undefined ? <input {...shared} /> : <textarea rows={rows} {...shared} />;
}
