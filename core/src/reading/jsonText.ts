import { isTooLong } from './readNumber';

// JSON as text: where its values stand, and what a parser of it would lose.

/** Strings, and numbers outside of them. */
const TOKENS = /"(?:[^"\\]|\\.)*"|-?\d+(?:\.\d+)?(?:[eE][-+]?\d+)?/g;

/** JSON in which numbers that a double does not hold are texts: whole ones of too many digits, and those beyond the largest. */
export function exactly(text: string): string {
  if (!/\d{16}|\d[eE]\+?\d{3}/.test(text)) return text;
  return text.replace(TOKENS, (token) =>
    token[0] !== '"' && (isTooLong(token) || !Number.isFinite(Number(token))) ? `"${token}"` : token,
  );
}

export interface Cuts {
  /** Where each whole value begins and ends. */
  readonly ends: readonly { readonly from: number; readonly to: number }[];
  /** Nothing has begun that has not ended. */
  readonly complete: boolean;
  /** Where the array itself ends; null where it does not yet. */
  readonly end: number | null;
  /** Keys that are written in all of it. */
  readonly keys: number;
}

/** Where the values of a sequence begin and end in a text: of an array, whose opening bracket the text has, or one after another. */
export function valuesIn(text: string, inArray: boolean): Cuts {
  const ends: { from: number; to: number }[] = [];
  const base = inArray ? 1 : 0;
  let depth = 0;
  let start = -1;
  let inText = false;
  let end: number | null = null;
  let keys = 0;
  const close = (to: number) => {
    if (start >= 0) ends.push({ from: start, to });
    start = -1;
  };
  for (let i = 0; i < text.length; i++) {
    if (inText) {
      i = text.indexOf('"', i);
      if (i < 0) break;
      let slashes = 0;
      while (text.charCodeAt(i - 1 - slashes) === 92) slashes++;
      if (slashes % 2 === 0) inText = false;
      continue;
    }
    const c = text.charCodeAt(i);
    if (c === 32 || c === 9) continue;
    if (c === 123 || c === 91) {
      if (depth === base && start < 0) start = i;
      depth++;
    } else if (c === 125 || c === 93) {
      depth--;
      if (depth < base) {
        close(i);
        end = i;
        break;
      }
      if (depth === base && base === 0) close(i + 1);
    } else if (c === 44) {
      if (depth === base) close(i);
    } else if (c === 58) keys++;
    else if (c === 10 || c === 13) {
      if (depth === 0 && base === 0) close(i);
    } else {
      if (depth === base && start < 0) start = i;
      inText = c === 34;
    }
  }
  return { ends, complete: depth <= 0 && !inText, end, keys };
}

/** How many keys all objects in a value have, however deep they lie. */
export function keysIn(value: unknown): number {
  const left: unknown[] = [value];
  let count = 0;
  while (left.length > 0) {
    const one = left.pop();
    if (Array.isArray(one)) {
      for (const inner of one) if (typeof inner === 'object' && inner !== null) left.push(inner);
      continue;
    }
    if (typeof one !== 'object' || one === null) continue;
    for (const key in one) {
      count++;
      const inner = (one as Record<string, unknown>)[key];
      if (typeof inner === 'object' && inner !== null) left.push(inner);
    }
  }
  return count;
}

/** JSON in which a key that an object has twice is numbered, as columns of one name are: of two values none is lost. */
export function withKeysApart(text: string): string {
  const known: (Set<string> | null)[] = [];
  return text.replace(/"(?:[^"\\]|\\.)*"(\s*:)?|[[\]{}]/g, (token, colon: string | undefined) => {
    if (token === '{') known.push(new Set());
    else if (token === '[') known.push(null);
    else if (token === '}' || token === ']') known.pop();
    const keys = known.at(-1);
    if (colon === undefined || !keys) return token;
    const key = JSON.parse(token.slice(0, token.length - colon.length)) as string;
    const free = nextFree(key, (name) => keys.has(name));
    keys.add(free);
    return `${JSON.stringify(free)}${colon}`;
  });
}

/** A name, or with a number behind it where it is taken. */
export function nextFree(name: string, isTaken: (name: string) => boolean): string {
  let free = name;
  for (let n = 2; isTaken(free); n++) free = `${name} (${n})`;
  return free;
}
