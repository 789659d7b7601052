import { Problem, didYouMean, listed, nearest } from '../problem';
import { typedName } from './quoting';
import { OPENINGS } from './openings';
import { tokensOf, type Token } from './tokens';

/** Something that can stand at a place in a brief. */
export interface Offer {
  readonly text: string;
  readonly kind:
    | 'clause'
    | 'word'
    | 'measure'
    | 'field'
    | 'benchmark'
    | 'highlight'
    | 'ruler'
    | 'form'
    | 'member'
    | 'period'
    | 'number';
  /** Character position at which it can begin. */
  readonly from: number;
}

/** Walks through the words of a brief and keeps a record of everything that could have come at each place. */
export class BriefParser {
  readonly tokens: readonly Token[];
  readonly offers: Offer[] = [];
  place = 0;
  /** The name that was read last, for the mistake of writing only its beginning right. */
  private last: { readonly from: number; readonly known: readonly string[]; readonly kind: string } | null = null;

  constructor(readonly text: string) {
    this.tokens = tokensOf(text);
    const open = this.tokens.find((token) => !token.closed);
    if (open)
      throw this.problem(
        'open-quote',
        'this quote is never closed',
        open.from,
        open.to,
        'add a double quote behind the name',
      );
  }

  get next(): Token | undefined {
    return this.tokens[this.place];
  }

  get ended(): boolean {
    return this.place >= this.tokens.length;
  }

  /** Where the next word begins, or where one could be written. */
  get position(): number {
    return this.next?.from ?? this.text.length;
  }

  offer(kind: Offer['kind'], ...texts: readonly string[]): void {
    for (const text of texts) this.offers.push({ text, kind, from: this.position });
  }

  /** Takes a fixed phrase if it is next. */
  phrase(words: string, kind: Offer['kind'] = 'word'): boolean {
    this.offer(kind, words);
    return this.quietly(words);
  }

  /** The same without offering it. */
  quietly(words: string): boolean {
    const wanted = words.split(' ');
    for (let i = 0; i < wanted.length; i++) {
      const token = this.tokens[this.place + i];
      if (token?.kind !== 'word' || token.text.toLowerCase() !== wanted[i]) return false;
    }
    this.place += wanted.length;
    return true;
  }

  /** Takes one of several fixed phrases, the longest that matches. */
  oneOf<T extends string>(phrases: readonly T[], kind: Offer['kind'] = 'word'): T | null {
    this.offer(kind, ...phrases);
    return [...phrases].sort((a, b) => b.length - a.length).find((phrase) => this.quietly(phrase)) ?? null;
  }

  comma(): boolean {
    if (this.next?.kind !== 'comma') return false;
    this.place++;
    return true;
  }

  /** Takes a whole number from 1. */
  count(): number | null {
    const token = this.next;
    this.offer('number', '5');
    if (token?.kind !== 'word' || !/^[1-9]\d{0,5}$/.test(token.text)) return null;
    this.place++;
    return Number(token.text);
  }

  number(): number | null {
    const token = this.next;
    if (token?.kind !== 'word' || !/^[-+]?(?:\d+(?:\.\d+)?|\.\d+)(?:e[-+]?\d+)?$/i.test(token.text)) return null;
    this.place++;
    return Number(token.text);
  }

  /** Takes a word of a certain form. */
  word(pattern: RegExp): RegExpExecArray | null {
    const token = this.next;
    const match = token?.kind === 'word' ? pattern.exec(token.text) : null;
    if (match) this.place++;
    return match;
  }

  /** The longest known name that stands next, and how many words it takes; names match without regard to case. */
  longest(known: readonly string[]): { readonly name: string; readonly words: number } | null {
    const token = this.next;
    if (!token) return null;
    if (token.kind === 'quoted') {
      const name = match(known, token.text);
      return name === null ? null : { name, words: 1 };
    }
    let found: { name: string; words: number } | null = null;
    let phrase = '';
    for (let words = 1; ; words++) {
      const word = this.tokens[this.place + words - 1];
      if (word?.kind !== 'word') break;
      phrase = words === 1 ? word.text : `${phrase} ${word.text}`;
      const name = match(known, phrase);
      if (name !== null) found = { name, words };
      const begun = `${phrase.toLowerCase()} `;
      if (!known.some((candidate) => candidate.toLowerCase().startsWith(begun))) break;
    }
    return found;
  }

  /** The one known name that begins with the words that stand next, and how many they are; null where none or several do. */
  begun(known: readonly string[]): { readonly name: string; readonly words: number } | null {
    let found: { name: string; words: number } | null = null;
    let phrase = '';
    for (let words = 1; ; words++) {
      const word = this.tokens[this.place + words - 1];
      if (word?.kind !== 'word' || (OPENINGS as readonly string[]).includes(word.text.toLowerCase())) break;
      phrase = words === 1 ? word.text.toLowerCase() : `${phrase} ${word.text.toLowerCase()}`;
      const names = known.filter((name) => name.toLowerCase().startsWith(phrase));
      if (names.length === 0) break;
      found = names.length === 1 && phrase.length > 1 ? { name: names[0]!, words } : null;
    }
    return found;
  }

  /** Takes a known name, or its unmistakable beginning, or throws. */
  name(known: readonly string[], kind: Offer['kind'], stops: readonly string[]): string {
    this.offer(kind, ...known);
    const found = this.longest(known) ?? this.begun(known);
    if (found) {
      this.last = { from: this.position, known, kind };
      this.place += found.words;
      return found.name;
    }
    throw this.unknownName(known, kind, stops);
  }

  /** The problem of a name nobody knows: the words up to the next clause, and the closest known names. */
  unknownName(known: readonly string[], kind: string, stops: readonly string[]): Problem {
    const first = this.next;
    if (!first)
      return this.problem(
        'missing-name',
        `a ${kind} is missing at the end`,
        this.text.length,
        this.text.length,
        didYouMean('', known, kind),
      );
    if (first.kind === 'comma')
      return this.problem(
        'missing-name',
        `a ${kind} is missing here`,
        first.from,
        first.to,
        didYouMean('', known, kind),
      );
    let last = this.place;
    if (first.kind === 'word') {
      while (last + 1 < this.tokens.length) {
        const token = this.tokens[last + 1]!;
        if (token.kind !== 'word' || stops.includes(token.text.toLowerCase())) break;
        last++;
      }
    }
    const to = this.tokens[last]!.to;
    const written = first.kind === 'quoted' ? first.text : this.text.slice(first.from, to);
    return this.problem(
      `unknown-${kind}`,
      `there is no ${kind} “${written}”`,
      first.from,
      to,
      didYouMean(written, known, kind),
      nearest(written, known).map(typedName),
    );
  }

  /** The problem of words that cannot stand where they stand. */
  misplaced(expected: readonly string[], kind: string): Problem {
    const token = this.next;
    if (!token)
      return this.problem(
        'brief-ends',
        `the brief ends where ${kind} should come`,
        this.text.length,
        this.text.length,
        `write ${listed(expected.slice(0, 6))}`,
      );
    const close = nearest(token.text, expected);
    if (this.last && close.length === 0) {
      const { from, known, kind: named } = this.last;
      const written = this.text.slice(from, token.to);
      const names = nearest(written, known).filter((name) => name.length > token.from - from);
      if (names.length > 0)
        return this.problem(
          `unknown-${named}`,
          `there is no ${named} “${written}”`,
          from,
          token.to,
          didYouMean(written, names, named),
          nearest(written, names).map(typedName),
        );
    }
    const remedy =
      close.length > 0
        ? `did you mean ${listed(close.map((word) => `“${word}”`))}?`
        : `expected here: ${listed(expected.slice(0, 12))}`;
    return this.problem('brief-syntax', `“${token.text}” is not ${kind}`, token.from, token.to, remedy, close);
  }

  /** @param texts what could stand there instead. */
  problem(
    code: string,
    sentence: string,
    from: number,
    to: number,
    remedy: string,
    texts: readonly string[] = [],
  ): Problem {
    const place = { in: `brief, at character ${from + 1}`, span: [from, to] as const };
    return new Problem(
      code,
      sentence,
      place,
      remedy,
      texts.map((text) => ({ text, from, to })),
    );
  }
}

function match(known: readonly string[], written: string): string | null {
  if (known.includes(written)) return written;
  const lower = written.toLowerCase();
  return known.find((name) => name.toLowerCase() === lower) ?? null;
}
