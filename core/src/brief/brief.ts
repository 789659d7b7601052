import type { Grain, PeriodWords } from '../calendar';
import type { Form } from '../form';

export type { Form };

/** How a measure is looked at. */
export type View =
  | { readonly kind: 'plain' | 'cumulative' | 'share' | 'rank' | 'change'; readonly measure: string }
  | { readonly kind: 'smoothed'; readonly steps: number; readonly measure: string };

export const SELECTIONS = [
  'highest',
  'lowest',
  'largest either sign',
  'widest gaps',
  'furthest ahead',
  'furthest behind',
] as const;
export type SelectionOrder = (typeof SELECTIONS)[number];

export interface Selection {
  readonly count: number;
  readonly order: SelectionOrder;
  readonly rest: boolean;
}

export const SORT_KEYS = ['value', 'benchmark', 'gap', 'gap percent', 'name', 'given order'] as const;
export type SortKey = (typeof SORT_KEYS)[number];

export interface Sorting {
  readonly key: SortKey;
  readonly direction: 'up' | 'down';
}

/** A condition on rows. A member is its text; null is blank. */
export type Condition =
  | { readonly kind: 'is' | 'is not'; readonly field: string; readonly members: readonly (string | null)[] }
  | { readonly kind: 'at least' | 'below'; readonly field: string; readonly value: number };

/** The sentence that defines a figure, taken apart. Names are exact. */
export interface Brief {
  readonly views: readonly View[];
  readonly by: readonly string[];
  readonly grain: Grain | null;
  readonly period: PeriodWords;
  readonly against: string | null;
  /** Null: the form that fits. */
  readonly form: Form | null;
  readonly keep: Selection | null;
  readonly sort: Sorting | null;
  readonly only: readonly Condition[];
  readonly lit: string | null;
  readonly ruler: string | null;
}

/** The names a brief may use. */
export interface Vocabulary {
  readonly measures: readonly string[];
  readonly fields: readonly string[];
  /** Other names of fields and numbers, such as `products.family`. */
  readonly aliases?: ReadonlyMap<string, string>;
  /** Columns of numbers, which conditions may name as well. */
  readonly numbers?: readonly string[];
  readonly benchmarks: readonly string[];
  readonly highlights: readonly string[];
  readonly rulers: readonly string[];
  /** The members of a field; null when they are not known (yet). */
  members(field: string): readonly string[] | null;
}

/** The form a brief is drawn in: the one it names, or the one that fits. */
export function formOf(brief: Brief): Form {
  if (brief.form) return brief.form;
  if (brief.views.length > 1) return 'table';
  const { kind } = brief.views[0]!;
  if (kind === 'cumulative' && brief.grain !== null && brief.against !== null) return 'pace';
  if (kind === 'rank' && brief.grain !== null && brief.by.length > 0) return 'bump';
  if (brief.against && brief.by.length > 0) return 'bullet';
  if (brief.grain) return 'trend';
  return brief.by.length > 0 ? 'bars' : 'headline';
}
