import type { Rates } from '../table';

/** A value expression as a tree. `at` is its place `[from, to)` in the text it was read from. */
export type Expression =
  | { readonly kind: 'number'; readonly value: number; readonly at: At }
  | { readonly kind: 'text'; readonly value: string; readonly at: At }
  | { readonly kind: 'yesno'; readonly value: boolean; readonly at: At }
  | { readonly kind: 'date'; readonly text: string; readonly at: At }
  | { readonly kind: 'null'; readonly at: At }
  | { readonly kind: 'column'; readonly name: string; readonly at: At }
  | { readonly kind: 'unary'; readonly op: '-' | 'not'; readonly of: Expression; readonly at: At }
  | {
      readonly kind: 'binary';
      readonly op: '+' | '-' | '*' | '/' | 'and' | 'or';
      readonly left: Expression;
      readonly right: Expression;
      readonly at: At;
    }
  | {
      readonly kind: 'compare';
      readonly op: Comparator;
      readonly of: Expression;
      readonly right: Expression;
      readonly at: At;
    }
  | {
      readonly kind: 'in';
      readonly of: Expression;
      readonly list: readonly Expression[];
      readonly negated: boolean;
      readonly at: At;
    }
  | {
      readonly kind: 'between';
      readonly of: Expression;
      readonly low: Expression;
      readonly high: Expression;
      readonly negated: boolean;
      readonly at: At;
    }
  | {
      readonly kind: 'like';
      readonly of: Expression;
      readonly pattern: string;
      readonly negated: boolean;
      readonly at: At;
    }
  | { readonly kind: 'isNull'; readonly of: Expression; readonly negated: boolean; readonly at: At }
  | {
      readonly kind: 'case';
      readonly branches: readonly { readonly when: Expression; readonly then: Expression }[];
      readonly otherwise: Expression | null;
      readonly at: At;
    }
  | { readonly kind: 'call'; readonly name: ScalarName; readonly args: readonly Expression[]; readonly at: At }
  | { readonly kind: 'extract'; readonly part: DatePart; readonly of: Expression; readonly at: At }
  | { readonly kind: 'cast'; readonly type: CastType; readonly of: Expression; readonly at: At }
  | Rate
  | Converted
  | Aggregate;

/** The rate of a row: of the currency that a column of text names, on a day; blank where there is none. It is not written by anybody. */
export interface Rate {
  readonly kind: 'rate';
  readonly of: Expression;
  /** The row's day; null where one rate holds for all days. */
  readonly day: Expression | null;
  readonly rates: Rates;
  readonly at: At;
}

/** An aggregate of converted amounts. It has no value where a row it counts has no rate. */
export interface Converted {
  readonly kind: 'converted';
  readonly of: Aggregate;
  /** How many rows have an amount, and how many of them a converted one. */
  readonly amounts: Aggregate;
  readonly found: Aggregate;
  readonly at: At;
}

/** An aggregate over rows. `of` is null for `count(*)`; `p` belongs to `percentile_cont`. */
export interface Aggregate {
  readonly kind: 'aggregate';
  readonly fn: AggregateName;
  readonly of: Expression | null;
  readonly distinct: boolean;
  readonly filter: Expression | null;
  readonly p?: number;
  readonly at: At;
}

export type At = readonly [number, number];
export type Comparator = '=' | '<>' | '<' | '<=' | '>' | '>=';

export const AGGREGATES = ['sum', 'avg', 'min', 'max', 'count', 'stddev_samp', 'percentile_cont'] as const;
export type AggregateName = (typeof AGGREGATES)[number];

export const SCALARS = ['coalesce', 'nullif', 'abs', 'round', 'sign', 'greatest', 'least'] as const;
export type ScalarName = (typeof SCALARS)[number];

export const DATE_PARTS = ['year', 'quarter', 'month', 'day', 'week', 'dow'] as const;
export type DatePart = (typeof DATE_PARTS)[number];

export const CAST_TYPES = ['number', 'numeric', 'integer', 'text', 'date'] as const;
export type CastType = (typeof CAST_TYPES)[number];

/** The parts an expression is made of, in order. */
function partsOf(e: Expression): readonly Expression[] {
  switch (e.kind) {
    case 'number':
    case 'text':
    case 'yesno':
    case 'date':
    case 'null':
    case 'column':
      return [];
    case 'unary':
    case 'like':
    case 'isNull':
    case 'extract':
    case 'cast':
      return [e.of];
    case 'binary':
      return [e.left, e.right];
    case 'compare':
      return [e.of, e.right];
    case 'in':
      return [e.of, ...e.list];
    case 'between':
      return [e.of, e.low, e.high];
    case 'case':
      return [...e.branches.flatMap(({ when, then }) => [when, then]), ...(e.otherwise ? [e.otherwise] : [])];
    case 'call':
      return e.args;
    case 'rate':
      return [e.of, ...(e.day ? [e.day] : [])];
    case 'converted':
      return [e.of, e.amounts, e.found];
    case 'aggregate':
      return [...(e.of ? [e.of] : []), ...(e.filter ? [e.filter] : [])];
  }
}

/** The same expression with other parts; an aggregate keeps its own. */
export function withParts(e: Expression, other: (part: Expression) => Expression): Expression {
  switch (e.kind) {
    case 'unary':
    case 'like':
    case 'isNull':
    case 'extract':
    case 'cast':
      return { ...e, of: other(e.of) };
    case 'binary':
      return { ...e, left: other(e.left), right: other(e.right) };
    case 'compare':
      return { ...e, of: other(e.of), right: other(e.right) };
    case 'in':
      return { ...e, of: other(e.of), list: e.list.map(other) };
    case 'between':
      return { ...e, of: other(e.of), low: other(e.low), high: other(e.high) };
    case 'case':
      return {
        ...e,
        branches: e.branches.map(({ when, then }) => ({ when: other(when), then: other(then) })),
        otherwise: e.otherwise && other(e.otherwise),
      };
    case 'call':
      return { ...e, args: e.args.map(other) };
    default:
      return e;
  }
}

/** All aggregates of an expression, outermost only. */
export function aggregatesOf(e: Expression): Aggregate[] {
  return e.kind === 'aggregate' ? [e] : partsOf(e).flatMap(aggregatesOf);
}

/** Names of all columns an expression reads. */
export function columnsOf(e: Expression): string[] {
  return e.kind === 'column' ? [e.name] : partsOf(e).flatMap(columnsOf);
}

/**
 * True when the value over a union of disjoint groups is the sum of the groups' values: sums and counts of rows,
 * their sums and differences, and multiples by a number.
 */
export function isAdditive(e: Expression): boolean {
  switch (e.kind) {
    case 'aggregate':
      return (e.fn === 'sum' || e.fn === 'count') && !e.distinct;
    case 'converted':
      return isAdditive(e.of);
    case 'unary':
      return e.op === '-' && isAdditive(e.of);
    case 'binary':
      if (e.op === '+' || e.op === '-') return isAdditive(e.left) && isAdditive(e.right);
      if (e.op === '*')
        return (isAdditive(e.left) && e.right.kind === 'number') || (e.left.kind === 'number' && isAdditive(e.right));
      return e.op === '/' && isAdditive(e.left) && e.right.kind === 'number';
    default:
      return false;
  }
}

const keys = new WeakMap<Expression, string>();

/** The same tree without places, for comparing and as a key. */
export function keyOf(e: Expression | null): string {
  if (e === null) return 'null';
  let key = keys.get(e);
  if (key === undefined)
    keys.set(e, (key = JSON.stringify(e, (name, value: unknown) => (name === 'at' ? undefined : value))));
  return key;
}

/** A text with what stands at some places put otherwise. A place that is found several times is one. */
function withPlaces(text: string, places: readonly { readonly at: At; readonly put: string }[]): string {
  const byPlace = new Map(places.map((place) => [place.at[0], place]));
  return [...byPlace.values()]
    .sort((a, b) => b.at[0] - a.at[0])
    .reduce((written, { at: [from, end], put }) => `${written.slice(0, from)}${put}${written.slice(end)}`, text);
}

/** All nodes of an expression. What `case x when` compares is found with each of its branches. */
const nodesOf = (e: Expression): Expression[] => [e, ...partsOf(e).flatMap(nodesOf)];

/** An expression's text with a column of another name, in quotes where it must be; everything else stays as it is written. */
export function withColumnNamed(
  text: string,
  e: Expression,
  isIt: (name: string) => boolean,
  to: (name: string) => string,
): string {
  return withPlaces(
    text,
    nodesOf(e).flatMap((node) =>
      node.kind === 'column' && isIt(node.name) ? [{ at: node.at, put: to(node.name) }] : [],
    ),
  );
}

/** An expression's text with members of a column called otherwise, wherever the column is compared with them. */
export function withMembersNamed(
  text: string,
  e: Expression,
  isIt: (column: string) => boolean,
  next: (member: string) => string,
): string {
  const isColumn = (node: Expression) => node.kind === 'column' && isIt(node.name);
  const compared = (node: Expression): readonly Expression[] => {
    if (node.kind === 'in' && isColumn(node.of)) return node.list;
    if (node.kind !== 'compare') return [];
    return isColumn(node.of) ? [node.right] : isColumn(node.right) ? [node.of] : [];
  };
  return withPlaces(
    text,
    nodesOf(e)
      .flatMap(compared)
      .flatMap((node) =>
        node.kind === 'text' && next(node.value) !== node.value
          ? [{ at: node.at, put: `'${next(node.value).replace(/'/g, "''")}'` }]
          : [],
      ),
  );
}
