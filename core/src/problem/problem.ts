/** What kind of place a problem points at. */
export interface Place {
  /** The thing that is wrong: a file, a figure, a key of the report, a brief, an expression. */
  readonly in: string;
  /** Character positions `[from, to)` inside that text, when it is a text. */
  readonly span?: readonly [number, number];
  /** 1 is the first line of a file. */
  readonly line?: number;
}

/** What can stand in the place of something wrong: `text` for the characters `[from, to)`. */
export interface Fix {
  readonly text: string;
  readonly from: number;
  readonly to: number;
}

/**
 * Something wrong with what a person gave us: a file, a report, a brief, an expression.
 * It says what is wrong in one sentence, where, and what to do about it.
 */
export class Problem extends Error {
  override readonly name = 'Problem';

  constructor(
    /** Stable, for scripts and tests: `unknown-name`, `newer-version`, … */
    readonly code: string,
    /** One sentence, without a full stop, that names the thing. */
    readonly sentence: string,
    readonly place?: Place,
    /** What to do, as a sentence: `did you mean “net sales”?` */
    readonly remedy?: string,
    /** Texts that would put it right, the likeliest first. */
    readonly fixes: readonly Fix[] = [],
  ) {
    super(sentence);
    this.message = describe(this);
  }

  /** The same problem, placed inside something larger. */
  at(place: Place): Problem {
    return new Problem(this.code, this.sentence, { ...this.place, ...place }, this.remedy, this.fixes);
  }
}

/** One line: place, sentence, remedy. */
function describe({ sentence, place, remedy }: Pick<Problem, 'sentence' | 'place' | 'remedy'>): string {
  const line = place?.line === undefined ? '' : ` line ${place.line}`;
  const where = place ? `${place.in}${line}: ` : '';
  const close = remedy ? (/[.?!]$/.test(remedy) ? ` — ${remedy}` : ` — ${remedy}.`) : '.';
  return `${where}${sentence}${close}`;
}

/** The problem in an unknown error, or the error itself when it is not one of ours. */
export function isProblem(error: unknown): error is Problem {
  return error instanceof Problem;
}

/** A whole number with its thousands apart: `1,200`. What a browser has for it takes twenty milliseconds to wake. */
export const thousands = (count: number): string => String(count).replace(/\B(?=(\d{3})+$)/g, ',');

/** `1 row`, `1,200 rows`. */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${thousands(count)} ${count === 1 ? one : many}`;
}

/** `a, b or c`. */
export function listed(words: readonly string[], conjunction = 'or'): string {
  if (words.length < 2) return words[0] ?? '';
  return `${words.slice(0, -1).join(', ')} ${conjunction} ${words[words.length - 1]}`;
}

/** Names that are told at most; of more it is said how many. */
const MOST_NAMED = 3;

/** `a, b and c`, or `a, b, c and 4 more`. */
export function someOf(names: readonly string[], count = names.length): string {
  const shown = names.slice(0, MOST_NAMED);
  return count > MOST_NAMED ? `${shown.join(', ')} and ${thousands(count - MOST_NAMED)} more` : listed(shown, 'and');
}
