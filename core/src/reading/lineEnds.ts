import type { Pending } from './pending';

/** What ends a line: CR, LF and both, in one file too. */
export type LineEnd = '\r\n' | '\n' | '\r';

const [CR, LF] = [13, 10];

/** What stands outside of quotes; of a text that is nothing else, all of it. */
function outsideQuotes(text: string): string {
  const outside = text.replace(/"(?:[^"]|"")*"/g, '');
  return /[\r\n]/.test(outside) ? outside : text;
}

/** The line end outside of quotes that comes most often. */
export function newlineOf(sample: string): LineEnd {
  const bare = outsideQuotes(sample);
  const crlf = bare.split('\r\n').length - 1;
  const lf = bare.split('\n').length - 1 - crlf;
  const cr = bare.split('\r').length - 1 - crlf;
  return crlf >= lf && crlf >= cr && crlf > 0 ? '\r\n' : cr > lf ? '\r' : '\n';
}

const OTHER: Readonly<Record<string, RegExp>> = {
  '\n': /\r/,
  '\r': /\n/,
  '\r\n': /(?:^|[^\r])\n|\r(?!\n|$)/,
};

/** Whether lines end outside of quotes in another way, too. A CR at the end of a text may be half of a line end. */
export function hasOtherEnds(text: string, newline: string): boolean {
  const other = OTHER[newline]!;
  return other.test(text) && other.test(text.replace(/"(?:[^"]|"")*"/g, '""'));
}

/** Whether a line could end in another way in what is not taken apart yet, quotes or not; told from its bytes where these will do. */
export function mayHaveOtherEnds(pending: Pick<Pending, 'ascii' | 'text'>, newline: string): boolean {
  const { ascii } = pending;
  if (ascii === null) return OTHER[newline]!.test(pending.text);
  if (newline !== '\r\n') return ascii.some((bytes) => bytes.includes(newline === '\n' ? CR : LF));
  // A lone LF makes a row of another width, which is seen anyway.
  return ascii.some((bytes, n) => {
    for (let at = bytes.indexOf(CR); at >= 0; at = bytes.indexOf(CR, at + 1))
      if ((at + 1 < bytes.length ? bytes[at + 1] : (ascii[n + 1]?.[0] ?? LF)) !== LF) return true;
    return false;
  });
}

/** A text in which every line ends in LF, and what is told of places in it. */
export interface Evened {
  readonly text: string;
  /** How many characters of the text before make up the first ones of this. */
  lengthBefore(cursor: number): number;
}

/**
 * Lets every line of a text end in LF, those within cells too.
 * @param isEnd no more text follows; else a CR at its end waits for what comes behind it
 */
export function evened(text: string, isEnd: boolean): Evened {
  const whole = !isEnd && text.endsWith('\r') ? text.slice(0, -1) : text;
  return {
    text: whole.replace(/\r\n?/g, '\n'),
    lengthBefore(cursor) {
      // Each pair is one character more.
      let at = 0;
      let before = 0;
      for (let pair = whole.indexOf('\r\n'); pair >= 0; pair = whole.indexOf('\r\n', pair + 2)) {
        if (at + (pair - before) >= cursor) break;
        at += pair - before + 1;
        before = pair + 2;
      }
      return before + (cursor - at);
    },
  };
}
