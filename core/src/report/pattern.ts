import { textsInTurn } from '../measure';

/** Whether the name of a table's file stands for several. */
export const isPattern = (file: string): boolean => file.includes('*');

/** Whether a file's name, without its folder, fits a pattern in which a * stands for any letters. Hidden files fit none. */
export const fitsPattern = (name: string, pattern: string): boolean =>
  !name.startsWith('.') && textsInTurn(pattern.split('*') as [string, ...string[]])(name);
