import { thousands } from '../problem';
import { fileOfRow, lineOf, type Lines, type Table } from './column';

/** Lines on which rows stand, in their order; of a table of several files, with the file of each. */
export interface LinesFound {
  readonly lines: readonly number[];
  readonly files?: readonly string[];
}

/** Where rows (from 0) stand. */
export function linesOf(rows: readonly number[], table: Pick<Table, 'rows'> & Lines): LinesFound {
  const lines = rows.map((row) => lineOf(row, table));
  return table.parts ? { lines, files: rows.map((row) => fileOfRow(row, table)!) } : { lines };
}

/**
 * Lines as a sentence names them: “lines 3, 4 and 9 more”, “lines 66, 187 of May.xlsx; line 66 of June.xlsx”.
 * @param count of how many these are the first
 * @param most that are named
 */
export function linesNamed({ lines, files }: LinesFound, count: number, most: number): string {
  const parts: { readonly file: string | undefined; readonly own: number[] }[] = [];
  for (const [i, line] of lines.slice(0, most).entries()) {
    const last = parts.at(-1);
    if (last && last.file === files?.[i]) last.own.push(line);
    else parts.push({ file: files?.[i], own: [line] });
  }
  const more = count - Math.min(most, lines.length);
  const isOne = (own: readonly number[]) => own.length === 1 && (files !== undefined || more <= 0);
  const named = parts.map(
    ({ file, own }) => `${isOne(own) ? 'line' : 'lines'} ${own.join(', ')}${file === undefined ? '' : ` of ${file}`}`,
  );
  return `${named.join('; ')}${more > 0 ? ` and ${thousands(more)} more` : ''}`;
}
