import { isProblem } from '../problem';
import type { Brief, Vocabulary } from './brief';
import { readBrief } from './read';

/** @returns the brief, or null for a text that cannot be read as one: reading it says why */
export function briefOrNull(text: string, vocabulary: Vocabulary): Brief | null {
  try {
    return readBrief(text, vocabulary);
  } catch (error) {
    if (isProblem(error)) return null;
    throw error;
  }
}
