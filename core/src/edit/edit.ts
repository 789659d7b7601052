import type { Draft } from 'mutative';
import type { Brief, Condition, Vocabulary } from '../brief';
import type {
  Accepted,
  Benchmark,
  CalendarSettings,
  Claim,
  Claimed,
  ColumnsChanged,
  CurrencyConversion,
  FigureEntry,
  Highlight,
  Look,
  Measure,
  Named,
  Page,
  PageBlock,
  PageFilter,
  Report,
  RulerEntry,
  TableEntry,
  TableUse,
} from '../report';
import type { FactsOf, Joining, RateColumns } from '../table';

/** A place of a block on a page: its row, and which of the row it is, both from 0. */
export type BlockPlace = readonly [row: number, block: number];

/** How the amounts of a measure, or of a benchmark’s targets, become one currency. */
export interface ConvertedAmounts {
  readonly kind: 'measure' | 'benchmark';
  readonly name: string;
  readonly currency: CurrencyConversion | null;
}

/** What each edit says, by its name. Plain data, so that it can be sent, kept and tested. */
export interface EditData {
  // The report as a whole
  'rename-report': { readonly name: string };
  /** Lets a finding stand for a reason, or with null opens it again. */
  'accept-finding': { readonly of: Omit<Accepted, 'reason'>; readonly reason: string | null };
  /** Several, one after the other, undone in one step. */
  several: { readonly edits: readonly SeveralEdit[] };
  /** Goes back to an earlier state; tables that have come since stay. */
  'restore-state': { readonly state: Report };
  'put-back': {
    readonly kind: 'figures' | 'pages' | 'tables';
    readonly content: FigureEntry | Page | TableEntry;
    /** What went with it. */
    readonly with?: Pick<Report, 'measures' | 'benchmarks'>;
  };

  // Time
  /** With `weeks` or `months` undefined, fiscal years are no longer made of these. */
  'set-calendar': {
    readonly part: Partial<Omit<CalendarSettings, 'weeks' | 'months'>> & {
      readonly [own in 'weeks' | 'months']?: CalendarSettings[own] | undefined;
    };
  };

  'set-hierarchies': { readonly hierarchies: readonly (readonly string[])[] };

  // Tables
  'add-tables': { readonly tables: readonly TableEntry[]; readonly benchmarks: readonly Benchmark[] };
  /** Takes another way of reading a table, or a newer file, with what that changes in its columns. */
  'read-table': { readonly entry: TableEntry; readonly columns: ColumnsChanged };
  /** Its rows have the new name by then, or get it with this step. */
  'rename-table': { readonly table: string; readonly name: string };
  'date-rows': { readonly table: string; readonly column: string };
  /** The members' order: by hand, by another column, or with neither the natural one. */
  'order-members': {
    readonly table: string;
    readonly column: string;
    readonly order?: readonly string[];
    readonly orderBy?: string;
  };
  /** A new column from others, or with `old` another expression for one. */
  'derive-column': {
    readonly table: string;
    readonly old: string | null;
    readonly column: { readonly name: string; readonly expression: string };
  };
  /** A column is called otherwise, everywhere. Where its file calls it something else, the report says so. */
  'rename-column': { readonly table: string; readonly column: string; readonly to: string };
  /** Columns of another table become columns of this one. */
  'add-lookup': { readonly table: string; readonly join: Joining };
  'remove-lookup': { readonly table: string; readonly join: Pick<Joining, 'columns' | 'to'> };
  /** What a table is for. What it was for before goes, where nothing uses it; as a lookup it is `join`ed. */
  'use-table': {
    readonly table: string;
    readonly use: TableUse;
    readonly join?: { readonly table: string; readonly join: Joining };
  };
  /** Members that are read as others, or with null as they are written; also where a condition names them. */
  'read-as': {
    readonly table: string;
    readonly column: string;
    readonly same: Readonly<Record<string, string | null>>;
  };
  /** A computed one is gone; one of the file is left out, and can be put back. */
  'remove-column': { readonly table: string; readonly column: string };
  'put-column-back': { readonly table: string; readonly column: string };
  /** With everything that rests on it. */
  'remove-table': { readonly table: string };
  /** A table that holds the rows of others besides its own; they go, with everything that rests on them. */
  'put-together': { readonly entry: TableEntry; readonly gone: readonly string[] };

  // Numbers
  'add-measure': { readonly measure: Measure };
  'change-measure': { readonly measure: string; readonly part: Partial<Omit<Measure, 'name'>> };
  'add-benchmark': { readonly benchmark: Benchmark };
  /** Another definition of the benchmark of that name. */
  'change-benchmark': { readonly benchmark: Benchmark };
  /** How amounts of measures and of targets become one currency; null leaves them as they are. The table of rates is said to be one. */
  'convert-amounts': {
    readonly amounts: readonly ConvertedAmounts[];
    readonly rates?: RateColumns;
  };
  /** Which column of targets a field is found in; the field's own name when it is the same, null for none. */
  'match-field': { readonly targets: string; readonly field: string; readonly column: string | null };

  // Names
  rename: { readonly kind: Named; readonly from: string; readonly to: string };
  /** With everything that rests on it. */
  remove: { readonly kind: Named; readonly name: string };

  // Highlights and rulers
  'add-highlight': { readonly highlight: Highlight };
  'change-highlight': { readonly highlight: Highlight };
  'add-ruler': { readonly ruler: RulerEntry };
  'change-ruler': { readonly ruler: RulerEntry };

  // Figures
  /** Behind another one, or last. */
  'add-figure': { readonly figure: FigureEntry; readonly behind?: string };
  'remove-figure': { readonly figure: string };
  'set-brief': { readonly figure: string; readonly brief: string };
  'set-look': LookPart;
  /** A name of its own; null for none: it is called by its title. */
  'name-figure': { readonly figure: string; readonly name: string | null };
  /** To a place among all figures, from 0. */
  'move-figure': { readonly figure: string; readonly to: number };
  /** Other clauses of a brief; those that are not named stay as they are by then. */
  'set-clauses': { readonly figure: string; readonly clauses: Partial<Brief> };
  /** Puts all figures under the same conditions. */
  'narrow-figures': { readonly only: readonly Condition[] };

  // Pages
  'add-page': { readonly page: Page };
  'remove-page': { readonly page: string };
  'set-title': { readonly page: string; readonly title: string };
  'set-filters': { readonly page: string; readonly filters: readonly PageFilter[]; readonly period: boolean };
  'add-head': { readonly page: string; readonly head: string };
  'set-head': { readonly page: string; readonly row: number; readonly head: string };
  'move-row': { readonly page: string; readonly from: number; readonly to: number };
  'remove-row': { readonly page: string; readonly row: number };
  /** Pixels; with null as high as the figures need. */
  'set-height': { readonly page: string; readonly row: number; readonly height: number | null };
  /** Into the last row where it has room, else, or with `own`, into a row of its own. */
  'add-block': {
    readonly page: string;
    readonly block: PageBlock;
    readonly own?: true;
    /** Where it is put, instead: before the block there, or where that row is full, in a row above it. */
    readonly at?: BlockPlace;
  };
  /** Two blocks change places; the widths stay where they are. */
  'swap-blocks': { readonly page: string; readonly from: BlockPlace; readonly to: BlockPlace };
  'remove-block': { readonly page: string; readonly at: BlockPlace };
  /** By so many twelfths; a neighbour gives or takes where the row is full. */
  'widen-block': { readonly page: string; readonly at: BlockPlace; readonly by: number };
  /** One place in reading order: within its row, or into the row before or after, where there is room. */
  'step-block': { readonly page: string; readonly at: BlockPlace; readonly by: -1 | 1 };
  /** To where another one stands, which makes way. */
  'move-block': { readonly page: string; readonly from: BlockPlace; readonly to: BlockPlace };
  'set-text': {
    readonly page: string;
    readonly at: BlockPlace;
    readonly text: string;
    /** The figure whose values it tells. */
    readonly about: string | null;
  };
  'take-finding': { readonly page: string; readonly figure: string; readonly claim: Claim; readonly template: string };
  'dismiss-finding': { readonly page: string; readonly figure: string; readonly kind: Claim['kind'] };
  /** Takes a claim off a page, with its sentence where that stands as it was taken. */
  'drop-claim': { readonly page: string; readonly claim: Claimed };
}

/** A part of a figure's look; with undefined it is taken away. */
export type LookPart = {
  [K in keyof Look]-?: { readonly figure: string; readonly part: K; readonly value: Look[K] | undefined };
}[keyof Look];

export type EditName = keyof EditData;

/** Edits that only somebody can apply who knows the report's tables and so the names that briefs may use. */
export const NAMED_EDITS = [
  'rename',
  'remove',
  'remove-column',
  'put-column-back',
  'remove-table',
  'put-together',
  'rename-table',
  'rename-column',
  'remove-lookup',
  'use-table',
  'read-as',
  'set-clauses',
  'narrow-figures',
] as const;
export type NamedEdit = (typeof NAMED_EDITS)[number];

/** A change of a report. */
export type Edit<N extends EditName = EditName> = {
  [K in N]: {
    readonly edit: K;
    /** What undoing it is called, where that is more telling than what the edit says of itself. */
    readonly saying?: string;
  } & EditData[K];
}[N];

/** What may be one of several. */
export type SeveralEdit = Edit<
  | 'accept-finding'
  | 'change-benchmark'
  | 'change-highlight'
  | 'change-measure'
  | 'change-ruler'
  | 'convert-amounts'
  | 'drop-claim'
  | 'order-members'
  | 'set-brief'
  | 'set-look'
>;

/** What a change of names has to know beyond the report. */
export interface Names {
  /** The names that briefs may use, and the members of fields. */
  readonly vocabulary: Vocabulary;
  /** What is known of each table that is there. */
  readonly facts: FactsOf;
}

export type ReportDraft = Draft<Report>;

/** How an edit of one kind is applied. */
export interface EditKind<N extends EditName> {
  /** What is done, as in “Undo: remove the figure”. */
  say(edit: Edit<N>, report: Report): string;
  /** Changes the draft. Throws a `Problem` where that cannot be done; then nothing is changed. */
  apply(draft: ReportDraft, edit: Edit<N>, names: N extends NamedEdit ? Names : null): void;
}

export type EditKinds<N extends EditName> = { readonly [K in N]: EditKind<K> };
