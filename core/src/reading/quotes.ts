/** A cell of delimited text that is not what its quotes say, or holds more lines than cells do. */
export interface Quoted {
  readonly what: 'stray quote' | 'many lines';
  /** Where in the text it begins. */
  readonly at: number;
  readonly raw: string;
}

export interface MendedText {
  /** The text with every stray quote written as a letter. */
  readonly text: string;
  readonly found: readonly Quoted[];
  /** Places (in `text`) behind which it is longer than what it was made of, and by how much in all. */
  readonly longer: readonly { readonly at: number; readonly by: number }[];
  /** Where the line breaks inside cells stand (in `text`). */
  readonly breaks: readonly number[];
}

/** How delimited text is written. */
export interface Dialect {
  readonly delimiter: string;
  readonly newline: string;
  /** Cells that most rows have. */
  readonly width: number;
  /** Lines end in several ways: all of them are read as `newline`. */
  readonly anyEnds?: true;
}

/** A quote that is not closed within so many characters is none. */
const STRETCH = 1 << 20;
/** More line breaks in a cell than this are told, and may be rows that a quote has swallowed. */
const FEW_BREAKS = 5;

/**
 * Takes quotes that do not enclose a cell for letters, so that they end with their cell and swallow no rows: those that are
 * never closed, those with text behind the closing one, and those between which many lines lie that are all rows of the table.
 * An address of a few lines may look like rows by accident, so a few lines stay one cell and are only told.
 * @param text begins with a row
 * @param isEnd no more text follows; else what cannot be told yet is left as it is, at the end
 */
export function mendQuotes(text: string, { delimiter, newline, width }: Dialect, isEnd: boolean): MendedText {
  const found: Quoted[] = [];
  const longer: { at: number; by: number }[] = [];
  const breaks: number[] = [];
  let out = '';
  let copied = 0;
  let by = 0;
  const lead = text.startsWith('\uFEFF') ? 1 : 0;
  const endOf = cellEnds(text, delimiter, newline);
  const begins = (q: number) => q === lead || text[q - 1] === delimiter || text.endsWith(newline, q);
  for (let q = text.indexOf('"'); q >= 0;) {
    if (!begins(q)) {
      q = text.indexOf('"', q + 1);
      continue;
    }
    const close = closingQuote(text, q);
    if (close < 0 && !isEnd && text.length - q < STRETCH) break;
    let behind = close + 1;
    while (close >= 0 && text[behind] === ' ') behind++;
    if (close >= 0 && behind + newline.length > text.length && !isEnd) break;
    const isClosed =
      close >= 0 && (behind >= text.length || text[behind] === delimiter || text.startsWith(newline, behind));
    const within = isClosed ? breaksBetween(text, q, close, newline) : [];
    const isMany = within.length > FEW_BREAKS;
    const areRows = within.length > 0 && areRowsAround(text, q, close, { delimiter, newline, width });
    if (isClosed && close - q <= STRETCH && !(isMany && areRows)) {
      for (const at of within) breaks.push(at + by);
      if (isMany || areRows)
        found.push({ what: 'many lines', at: q + by, raw: text.slice(q, Math.min(close + 1, q + 200)) });
      q = text.indexOf('"', behind);
      continue;
    }
    const end = endOf(q);
    if (end === null && !isEnd) break;
    const cell = text.slice(q, end ?? text.length);
    const written = `"${cell.replaceAll('"', '""')}"`;
    found.push({ what: 'stray quote', at: q + by, raw: cell.slice(0, 200) });
    out += text.slice(copied, q) + written;
    copied = q + cell.length;
    by += written.length - cell.length;
    longer.push({ at: out.length, by });
    q = text.indexOf('"', copied);
  }
  return { text: copied === 0 ? text : out + text.slice(copied), found, longer, breaks };
}

/** How many characters of the text that was mended make up the first ones of what came of it. */
export function lengthBefore({ longer }: Pick<MendedText, 'longer'>, cursor: number): number {
  return cursor - (longer.findLast(({ at }) => at <= cursor)?.by ?? 0);
}

/** The quote that closes the one at a place; two in a row stand for a letter. */
function closingQuote(text: string, open: number): number {
  for (let at = text.indexOf('"', open + 1); at >= 0; at = text.indexOf('"', at + 2))
    if (text[at + 1] !== '"') return at;
  return -1;
}

/**
 * Where a cell without quotes ends that begins at a place; null where the text ends before. Places are asked for from left to right,
 * so that nothing is looked through twice.
 */
function cellEnds(text: string, delimiter: string, newline: string): (from: number) => number | null {
  const ends = [delimiter, newline].map((mark) => ({ mark, at: -1 }));
  return (from) => {
    for (const end of ends)
      if (end.at < from) {
        const at = text.indexOf(end.mark, from);
        end.at = at < 0 ? Infinity : at;
      }
    const at = Math.min(...ends.map((end) => end.at));
    return at === Infinity ? null : at;
  };
}

/** Where lines end between two quotes. */
function breaksBetween(text: string, open: number, close: number, newline: string): number[] {
  const found: number[] = [];
  // Looked for in the cell alone: most end in their line, and the next line end may be far.
  const cell = text.slice(open, close);
  for (let at = cell.indexOf(newline); at >= 0; at = cell.indexOf(newline, at + newline.length)) found.push(open + at);
  return found;
}

/** Every line that the quotes enclose, and those in which they stand, have as many cells as rows have. */
function areRowsAround(text: string, open: number, close: number, { delimiter, newline, width }: Dialect): boolean {
  if (width < 2) return false;
  let from = open === 0 ? 0 : text.lastIndexOf(newline, open - 1);
  from = from < 0 || open === 0 ? 0 : from + newline.length;
  for (;;) {
    const end = text.indexOf(newline, from);
    const line = text.slice(from, end < 0 ? text.length : end);
    if (line.split(delimiter).length !== width) return false;
    if (end < 0 || end >= close) return true;
    from = end + newline.length;
  }
}
