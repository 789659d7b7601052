import type { DrawnPage } from '../page';
import { BASIC_LETTERS } from '../scene';
import type { Carried } from './carried';

const basic = new Set(`${BASIC_LETTERS}\n`);

const isBasic = (text: string): boolean => {
  for (const letter of text) if (!basic.has(letter)) return false;
  return true;
};

/** Whether a page, and whatever its reader can choose on it, is set in `BASIC_LETTERS`: what stands on it now, its report, and all members. */
export function hasBasicLetters({ placed }: DrawnPage, { tables, ...about }: Carried): boolean {
  return (
    placed.every(({ scene }) => scene.marks.every((mark) => mark.shape !== 'text' || isBasic(mark.text))) &&
    isBasic(JSON.stringify(about)) &&
    isBasic(new TextDecoder().decode(tables[0]))
  );
}
