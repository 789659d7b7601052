import { Problem } from '../problem';
import { ASIDE } from '../table';
import { isBlankRow, textOf, type Aside, type Cell, type Row, type RowChunk } from './cell';
import { namesFrom } from './columnNames';
import { periodOf } from './wide';

/** Rows of a file in which names stand in a row of their own, as in delimited text and spreadsheets. */
export type GridChunk = Omit<RowChunk, 'names'>;

/** Rows looked at to find the header. */
const LOOKED_AT = 60;

/**
 * Takes header, titles, empty lines and cells without a name out of a grid; what is left are rows under names.
 * @param header the header's line; 0 when there is none; undefined to find it.
 */
export async function* rowsUnderHeader(
  chunks: AsyncIterable<GridChunk>,
  aside: Aside,
  header?: number,
): AsyncGenerator<RowChunk> {
  let names: readonly string[] | null = null;
  for await (const chunk of chunks) {
    let from = 0;
    if (names === null) {
      const found = header === undefined ? findHeader(chunk.rows) : placeOf(header, chunk);
      const upper = upperHeader(chunk.rows, found);
      const lower = upper === null ? found : upper + 1;
      for (let r = 0; r < Math.max(0, upper ?? found); r++) setAside(chunk, r, aside, ASIDE.title);
      const below = chunk.rows.slice(lower + 1);
      const cells = upper === null ? (chunk.rows[found] ?? []) : bothHeaders(chunk.rows[upper]!, chunk.rows[lower]!);
      names = namesFrom([...cells, ...Array.from({ length: Math.max(0, widthOf(below) - cells.length) }, () => '')]);
      from = lower + 1;
    }
    yield wellFormed(chunk, from, names, aside);
  }
}

const lineIn = ({ firstLine, lines }: GridChunk, r: number) => lines?.[r] ?? firstLine + r;

function setAside(chunk: GridChunk, r: number, aside: Aside, reason: string): void {
  const row = chunk.rows[r]!;
  const line = lineIn(chunk, r);
  if (isBlankRow(row)) aside(line);
  else
    aside({
      line,
      raw: row
        .map(textOf)
        .filter((text) => text !== '')
        .join(' · '),
      reason,
    });
}

/** The place of the header's line among the rows; -1 for no header. */
function placeOf(header: number, chunk: GridChunk): number {
  if (header === 0) return -1;
  const place = chunk.rows.findIndex((_, r) => lineIn(chunk, r) === header);
  if (place < 0)
    throw new Problem(
      'no-such-line',
      `there is no row on line ${header}, where the header should be`,
      undefined,
      'name another line as “header”',
    );
  return place;
}

const filledIn = (row: Row) => row.reduce<number>((n, cell) => n + (textOf(cell).trim() === '' ? 0 : 1), 0);

/** The place of the row that names the columns: the first that is about as full as the rows are. */
function findHeader(rows: readonly Row[]): number {
  const filled = rows.slice(0, LOOKED_AT).map(filledIn);
  const wide = filled.filter((count) => count >= 2).sort((a, b) => a - b);
  const typical = wide[wide.length >> 1] ?? 1;
  const enough = typical < 3 ? 1 : Math.max(2, Math.ceil(typical / 2));
  const found = filled.findIndex((count, r) => count >= enough && !isDelimiterLine(rows[r]!));
  return Math.max(0, found);
}

const isWritten = (cell: Cell | undefined) => cell !== undefined && textOf(cell).trim() !== '';
const written = (cell: Cell | undefined) => (cell === undefined ? '' : textOf(cell).trim());
const isNumeric = (cell: Cell | undefined) => typeof cell === 'number' || /^[-+]?[\d.,\s]+%?$/.test(written(cell));

/**
 * The place of the upper of two rows that name the columns together, years over months or periods over measures; null where one row
 * names them. Each name above stands for the columns to its right, up to the next one.
 */
function upperHeader(rows: readonly Row[], found: number): number | null {
  if (found < 0) return null;
  for (const at of [found - 1, found]) {
    const [upper, lower, first] = [rows[at], rows[at + 1], rows[at + 2]];
    if (!upper || !lower || !first) continue;
    const spans = spansOf(upper, lower);
    if (spans.length < 2) continue;
    const isPeriod = (text: string) => periodOf(text) !== null;
    const below = spans.flatMap(({ columns }) => columns.map((c) => written(lower[c])));
    const names = spans.flatMap(({ name, columns }) => columns.map((c) => `${name} ${written(lower[c])}`));
    const isNamed = spans.every(({ name, columns }) => isPeriod(name) && columns.length > 1) || below.every(isPeriod);
    // The names below say too little by themselves: they are there several times, or months without a year.
    const needsBoth = new Set(below).size < below.length || spans.every(({ name }) => /^\d{4}$/.test(name));
    const isAboveNumbers = spans.some(({ columns }) => columns.some((c) => isNumeric(first[c])));
    const isOfWords = below.every((text) => text !== '' && !/^[-+]?[\d.,]+$/.test(text));
    if (isNamed && needsBoth && isAboveNumbers && isOfWords && new Set(names).size === names.length) return at;
  }
  return null;
}

/** Names of the upper row and the columns they stand over; columns that only one of the rows names are not among them. */
function spansOf(upper: Row, lower: Row): { readonly name: string; readonly columns: number[] }[] {
  const spans: { name: string; columns: number[] }[] = [];
  for (let c = 0; c < lower.length; c++) {
    if (isWritten(upper[c])) {
      if (isWritten(lower[c])) spans.push({ name: written(upper[c]), columns: [c] });
      else spans.push({ name: '', columns: [] });
    } else if (isWritten(lower[c])) spans.at(-1)?.columns.push(c);
  }
  return spans.filter(({ name }) => name !== '');
}

/** The names that two rows give together. */
function bothHeaders(upper: Row, lower: Row): string[] {
  const spans = spansOf(upper, lower);
  return Array.from({ length: Math.max(upper.length, lower.length) }, (_, c) => {
    const span = spans.find(({ columns }) => columns.includes(c));
    if (!span) return written(lower[c]) || written(upper[c]);
    const below = written(lower[c]);
    return /^\d{4}$/.test(span.name) && periodOf(below) ? `${below} ${span.name}` : `${span.name} ${below}`;
  });
}

/** “sep=;”, by which a spreadsheet is told the delimiter. */
const isDelimiterLine = (row: Row) => /^\uFEFF?sep=.?$/i.test(textOf(row[0] ?? ''));

/** The width of nine rows in ten, where the header names fewer columns than there are. */
function widthOf(rows: readonly Row[]): number {
  const widths = rows
    .slice(0, LOOKED_AT)
    .map((row) => row.findLastIndex((cell) => textOf(cell).trim() !== '') + 1)
    .filter((width) => width > 0)
    .sort((a, b) => a - b);
  return widths[Math.floor(widths.length / 10)] ?? 0;
}

/** Rows of the chunk without empty ones and without cells that no column names, which are told aside. */
function wellFormed(chunk: GridChunk, from: number, names: readonly string[], aside: Aside): RowChunk {
  const width = names.length;
  // None of its rows is blank.
  if (from === 0 && chunk.cells?.width === width) return named(chunk, names);
  const { rows } = chunk;
  let regular = from === 0;
  for (let r = 0; regular && r < rows.length; r++) {
    const row = rows[r]!;
    regular = row.length === width && (isFilled(row[0]!) || !isBlankRow(row));
  }
  if (regular) return { ...chunk, names };
  const kept: Row[] = [];
  const lines: number[] = [];
  for (let r = from; r < rows.length; r++) {
    const row = rows[r]!;
    const line = lineIn(chunk, r);
    if (isBlankRow(row)) {
      aside(line);
      continue;
    }
    if (row.length > width) {
      const more = row.slice(width).map(textOf);
      if (more.some((cell) => cell.trim() !== ''))
        aside({ line, raw: more.join(' · '), reason: 'more cells than the header names' });
    }
    kept.push(row);
    lines.push(line);
  }
  return { ...chunk, firstLine: lineIn(chunk, 0) + from, names, rows: kept, lines };
}

/** The same rows under names, still without having made them. */
function named(chunk: GridChunk, names: readonly string[]): RowChunk {
  const { cells, firstLine, share } = chunk;
  return {
    names,
    firstLine,
    ...(cells ? { cells } : {}),
    ...(share === undefined ? {} : { share }),
    get rows() {
      return chunk.rows;
    },
  };
}

const isFilled = (cell: Cell) => typeof cell === 'number' || (cell !== '' && cell !== ' ');
