import { refuseTaken } from '../taken';

/** What stands in a list of the report under a name or an id. */
interface Listed<T> {
  /** What one of them is called in a sentence. */
  readonly what: string;
  readonly nameOf: (one: T) => string;
}

/** Adds one to a list of the report. Throws a `Problem` where another has its name. */
export function addTo<T>(list: T[], one: unknown, { what, nameOf }: Listed<T>): void {
  refuseTaken(what, nameOf(one as T), list.map(nameOf));
  list.push(structuredClone(one) as T);
}

/** Puts another in the place of the one of its name, where there is one. */
export function replaceIn<T>(list: T[], one: unknown, { nameOf }: Listed<T>): void {
  const at = list.findIndex((known) => nameOf(known) === nameOf(one as T));
  if (at >= 0) list[at] = structuredClone(one) as T;
}

const named = (what: string) => ({ what, nameOf: ({ name }: { readonly name: string }) => name });
const called = (what: string) => ({ what, nameOf: ({ id }: { readonly id: string }) => id });

export const MEASURE = named('measure');
export const BENCHMARK = named('benchmark');
export const HIGHLIGHT = named('highlight');
export const RULER = called('ruler');
export const TABLE = called('table');
export const PAGE = called('page');
