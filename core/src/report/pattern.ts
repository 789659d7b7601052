import { textsInTurn } from '../measure';
import { counted } from '../problem';
import type { TableEntry } from './report';

/** Whether the name of a table's file stands for several. */
export const isPattern = (file: string): boolean => file.includes('*');

/** Whether a file's name, without its folder, fits a pattern in which a * stands for any letters. Hidden files fit none. */
export const fitsPattern = (name: string, pattern: string): boolean =>
  !name.startsWith('.') && textsInTurn(pattern.split('*') as [string, ...string[]])(name);

/** What files are called together where the source of their rows is told. */
export const nameOfFiles = (files: readonly string[]): string =>
  files.length === 1 ? files[0]! : `${files[0]} and ${counted(files.length - 1, 'more file')}`;

/** The files, or the pattern, that the rows of a table are read from. */
export const filesOf = ({ source: { file, files } }: TableEntry): readonly string[] => files ?? [file];

/** The name under which the file, or the files, of a table are kept: no other list of files has it, and no single file. */
export const keptAs = ({ source: { file, files } }: TableEntry): string =>
  files ? files.map((name) => `${name}\n`).join('') : file;
