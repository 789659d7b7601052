import type { Day } from '../calendar';
import { DATE_PATTERNS, patternsFor } from './readDate';

/** Days that somebody lists, and lines in which there is none. */
export interface DaysListed {
  readonly days: readonly Day[];
  readonly unread: readonly string[];
}

function dayIn(text: string): Day | null {
  const trimmed = text.trim();
  for (const i of patternsFor(trimmed)) {
    const { grain, take } = DATE_PATTERNS[i]!;
    const day = grain === 'day' ? take(trimmed) : NaN;
    if (!Number.isNaN(day)) return day;
  }
  return null;
}

/** The days of a list such as one of holidays: one a line, alone or in the first cell that is a day. Sorted, each once. */
export function daysIn(text: string): DaysListed {
  const days = new Set<Day>();
  const unread: string[] = [];
  for (const line of text.split(/\r?\n/)) {
    if (line.trim() === '') continue;
    const day = [line, ...line.split(/[,;\t]/)].map(dayIn).find((found) => found !== null);
    if (day === undefined || day === null) unread.push(line.trim());
    else days.add(day);
  }
  return { days: [...days].sort((a, b) => a - b), unread };
}
