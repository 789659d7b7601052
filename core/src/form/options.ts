import type { Shape } from '../shape';
import { choice, own, type LookOption } from './declare';

// Parts of the look that several forms know.

/** Rows lie across or stand upright. */
export const orientation = own<'horizontal' | 'vertical'>()('orientation', {
  is: 'words',
  words: ['horizontal', 'vertical'],
});

/** Rows lie on the ruler by value, or with their benchmarks at 100 %; left out: by value where all rows have one unit. */
export const scale = choice(
  'scale',
  'Rows lie on the ruler',
  'as their units allow',
  { value: 'by their values', 'of benchmark': 'as parts of their benchmarks' },
  { needs: 'benchmark' },
);

const landingWords = { 'as so far': 'at the pace so far', 'as planned': 'with the rest as planned' } as const;
/** Where each row will land at the end of a running period: at its pace so far, or with the rest as planned. */
export const landing = choice('landing', 'Where they will land', 'not shown', landingWords, {
  needs: 'running period',
});
/** The same where a landing is always shown. */
export const landingAlways = choice(
  'landing',
  'Where they will land',
  landingWords['as so far'],
  { 'as planned': landingWords['as planned'] },
  { needs: 'benchmark', further: ['as so far'] },
);

const field: Shape = { is: 'text', most: 200, names: 'field' };
/** One of the brief's fields: each of its members has a panel of its own, all on one ruler. */
export const panels = own<string>()('panels', field, 'a field');
/** The same where one field is needed for the rows. */
export const panelsOfRows = own<string>()('panels', field, 'two fields');

/** Members that stand out from the others, by their names. */
export const emphasis = own<readonly string[]>()('emphasis', {
  is: 'list',
  of: { is: 'text', most: 500, defined: true },
  most: 1000,
});

/** Where among the members' values an edge lies; a number is a percentile, 0–100. */
export type MemberEdge = number | 'lowest' | 'mean' | 'median' | 'highest';

/** Edges of qualitative bands: shares of the benchmark, fixed numbers, what the members shown have, or expressions of each row. */
export type Bands =
  | { readonly of: 'benchmark' | 'fixed'; readonly edges: readonly number[]; readonly names?: readonly string[] }
  | { readonly of: 'expression'; readonly edges: readonly string[]; readonly names?: readonly string[] }
  | { readonly of: 'members'; readonly edges: readonly MemberEdge[]; readonly names?: readonly string[] };

const KINDS = ['benchmark', 'fixed', 'members', 'expression'];
const bandsWith = (edge: Shape): Shape => ({
  is: 'object',
  nullable: true,
  of: {
    of: { is: 'words', words: KINDS, required: true },
    edges: { is: 'list', of: edge, least: 1, most: 4, required: true, saying: '${path} needs one to four edges' },
    names: { is: 'list', of: { is: 'text', most: 80, defined: true }, most: 5 },
  },
});

/** Bands behind values; null for none where the form has some by itself. */
export const bands = own<Bands | null>()(
  'bands',
  {
    is: 'by',
    key: 'of',
    cases: {
      members: bandsWith({
        is: 'either',
        text: { is: 'words', words: ['lowest', 'mean', 'median', 'highest'] },
        other: { is: 'percentile' },
      }),
      expression: bandsWith({ is: 'text', most: 4000, required: true, names: 'expression' }),
    },
    other: bandsWith({ is: 'number', required: true }),
  },
  'benchmark',
);

/** Something an analyst has written on a figure, and what it hangs on: a row by its members, a step of time, both, or the whole. */
export interface LookNote {
  readonly text: string;
  readonly at?: {
    readonly key?: Readonly<Record<string, string | null>>;
    /** As files write steps: `2026-03-18`, `2026-03`, `2026-Q3`, `2026`. */
    readonly step?: string;
  };
}

/** A period on a figure over time: whole days, months, quarters or years from … to; a single day without `to`. */
export interface LookSpan {
  readonly text: string;
  readonly from: string;
  readonly to?: string;
}

const MOST_NOTES = 100;
const said: Shape = { is: 'text', most: 300, required: true };
const when: Shape = { is: 'text', most: 20 };
/** What every form has drawn on it. */
const notes = own<readonly LookNote[]>()('notes', {
  is: 'list',
  most: MOST_NOTES,
  of: {
    is: 'object',
    of: {
      text: said,
      // A note whose place has gone goes with it.
      at: { is: 'object', required: true, of: { key: { is: 'map', most: 500, names: 'field' }, step: when } },
    },
  },
});
const spans = own<readonly LookSpan[]>()('spans', {
  is: 'list',
  most: MOST_NOTES,
  of: { is: 'object', of: { text: said, from: { ...when, required: true }, to: when } },
});

/** Parts of the look that every form knows and that are checked and followed by their shape. */
export const commonOptions: readonly LookOption[] = [notes, spans];
