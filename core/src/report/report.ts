import type { Alignment, FiscalMonths, FiscalWeeks, Grain, Weekday } from '../calendar';
import type { FormLook, LookNote, LookSpan } from '../form';
import type { Window } from '../series';
import type { ColumnKind, Joining, RateColumns, Repeats, Same } from '../table';

/** The version of the report file this program writes. */
export const REPORT_VERSION = 1;

export interface CalendarSettings {
  /** 1–12 */
  readonly fiscalYearStart: number;
  readonly fiscalYearNamed: 'end' | 'start';
  readonly weekStart: 'monday' | 'sunday';
  /** Days of the week on which somebody works; Monday to Friday when left out. */
  readonly workweek?: readonly Weekday[];
  /** Days on which nobody works, YYYY-MM-DD. */
  readonly holidays?: readonly string[];
  /** Fiscal years of whole weeks, in place of `fiscalYearStart` and `weekStart`. */
  readonly weeks?: FiscalWeeks;
  /** Fiscal months that are listed, in place of `fiscalYearStart` and `weeks`. */
  readonly months?: FiscalMonths;
  /** `auto`: the last day with data; or `YYYY-MM-DD`. */
  readonly asOf: string;
}

export interface ColumnEntry {
  readonly name: string;
  /** What the file calls it, where that is not its name. */
  readonly header?: string;
  readonly type?: ColumnKind;
  /** A date pattern, or for numbers `1,234.5` or `1.234,5`. */
  readonly read?: string;
  readonly order?: readonly string[];
  /** A column whose lowest value beside each member orders the members. */
  readonly orderBy?: string;
  /** It is left out: nothing knows it. */
  readonly out?: true;
}

export interface TableEntry {
  readonly id: string;
  readonly source: {
    /**
     * The file's path, relative to the report file; with a `*` it is a pattern: all files that fit it are one table. Of rows in a
     * database, what they are called where sources are told.
     */
    readonly file: string;
    /** Files of one layout whose rows stand below one another, in this order; `file` is what they are called together then. */
    readonly files?: readonly string[];
    /** The database its rows are in, by the name it has where the program runs; with a `table` (`schema.name`) or a `query` there. */
    readonly database?: string;
    readonly table?: string;
    /** One SELECT. */
    readonly query?: string;
    /** A sheet of a workbook, or the key of an array in a JSON object. */
    readonly sheet?: string;
    /** The line of the header; 0 when there is none. */
    readonly header?: number;
    readonly delimiter?: string;
  };
  readonly date?: string | null;
  readonly grain?: Grain;
  readonly columns?: readonly ColumnEntry[];
  /** Rows that look like totals or notes are left out. */
  readonly leaveOut?: readonly ('totals' | 'notes')[];
  readonly repeats?: Repeats;
  /** Members read as another one, by column. */
  readonly same?: Same;
  /** Lookups: columns of other tables that become columns of this one. */
  readonly joins?: readonly Joining[];
  /** Columns named after periods become rows, the period under `name`, the number under `value`. */
  readonly long?: { readonly name: string; readonly value?: string };
  readonly derived?: readonly { readonly name: string; readonly expression: string }[];
  /** It holds rates: whose, in a column of currencies, and what one unit is worth. They hold for the day, month or year of its date. */
  readonly rates?: RateColumns;
}

/** How amounts of several currencies become one before they are added up. */
export interface CurrencyConversion {
  /** The column with each row's currency, as a code of ISO 4217 or its sign. */
  readonly column: string;
  /** The table of rates. */
  readonly rates: string;
  /** The code of the currency they become. */
  readonly to: string;
  /** `own`: each row by the rate of its own period; else a day, a month or a fiscal year whose last rate holds for all rows. */
  readonly at: string;
  /** The columns that hold amounts, where the expression multiplies or divides columns. */
  readonly amounts?: readonly string[];
}

export type Aim = 'raise' | 'cut' | 'hold';

/** How numbers are written. `scale` divides by a thousand (K), million (M) or billion (B); `auto` chooses for a whole figure. */
export interface NumberFormat {
  /** `points`: a share written as percentage points, 0.05 as `5.0 pp`. */
  readonly style: 'number' | 'currency' | 'percent' | 'points';
  /** ISO 4217 code, for currencies. */
  readonly currency?: string;
  readonly scale?: 'auto' | 'none' | 'K' | 'M' | 'B';
  readonly decimals?: number;
  /** A unit beside the number, such as `days`. */
  readonly unit?: string;
  readonly unitBefore?: true;
  /** Positive numbers have a plus. */
  readonly plus?: true;
  /** How less than zero is shown; a minus when left out. */
  readonly negative?: 'minus' | 'parentheses';
  /** What stands where there is no value; a dash when left out. */
  readonly blank?: string;
  /** `point` as in 1,234.5 (when left out), `comma` as in 1.234,5, `space` as in 1 234,5. */
  readonly separators?: 'point' | 'comma' | 'space';
}

export interface Measure {
  readonly name: string;
  readonly table: string;
  readonly expression: string;
  readonly aim: Aim;
  /** Share of the benchmark within which a measure is level with it. */
  readonly tolerance: number;
  readonly format: NumberFormat;
  readonly currency?: CurrencyConversion;
}

export type Spread = 'even' | 'workdays' | 'last year' | 'none';
export type Split = 'none' | 'even' | 'last year';
/** How equal values are ranked: 1, 2, 2, 4 — 1, 2, 2, 3 — 1, 2, 3, 4 by name. */
export type RankKind = 'competition' | 'dense' | 'ordinal';
/** `member`, a grain of time, or the name of a field whose members a number belongs to. */
export type Per = string;
export type Statistic = 'mean' | 'median' | 'lowest' | 'highest' | 'percentile';
export type ForecastMethod =
  | 'same period last year'
  | 'seasonal naive'
  | 'linear'
  | 'average of last k'
  | 'run rate'
  | 'smoothing';

/** What a measure is held against; one shape a kind. */
export type Benchmark =
  | { readonly name: string; readonly kind: 'expression'; readonly expression: string; readonly table?: string }
  | {
      readonly name: string;
      readonly kind: 'table';
      readonly table: string;
      readonly expression: string;
      readonly spread: Spread;
      readonly split: Split;
      readonly match?: Readonly<Record<string, string>>;
      readonly currency?: CurrencyConversion;
    }
  | { readonly name: string; readonly kind: 'fixed'; readonly value: number; readonly per: readonly Per[] }
  | { readonly name: string; readonly kind: 'scaled'; readonly of: string; readonly by: number }
  | {
      readonly name: string;
      readonly kind: 'period';
      readonly back?: { readonly years: number } | { readonly periods: number };
      readonly range?: { readonly from: string; readonly to: string };
      readonly align?: Alignment;
      readonly activeDays?: true;
    }
  | { readonly name: string; readonly kind: 'peers'; readonly statistic: Statistic; readonly percentile?: number }
  | {
      readonly name: string;
      readonly kind: 'forecast';
      readonly method: ForecastMethod;
      readonly growth?: number;
      readonly k?: number;
      readonly season?: 'additive' | 'multiplicative';
    };

export interface RulerEntry {
  readonly id: string;
  /** `of benchmark`: each row's benchmark stands at 100 %, so that rows of different units can lie on it. */
  readonly kind: 'linear' | 'of benchmark';
  readonly fit: 'zero' | 'symmetric' | 'fixed' | 'tight';
  readonly domain?: readonly [number, number];
}

/** What a highlight looks at. Shares and gap % are 1 for 100 %. */
export const LIT_ON = [
  'standing',
  'gap',
  'gap percent',
  'value',
  'rank',
  'rank change',
  'share',
  'expression',
  'member',
] as const;
export type LitOn = (typeof LIT_ON)[number];

/** When a rule paints: a standing, a stretch [from, to), the best or last k — of all rows, or of each member's own steps — or members. */
export type When =
  | { readonly standing: 'ahead' | 'level' | 'behind' }
  | { readonly from?: number; readonly to?: number }
  | { readonly highest: number; readonly within?: 'row' }
  | { readonly lowest: number; readonly within?: 'row' }
  | { readonly members: readonly string[] };

export interface Encode {
  readonly ink?: string;
  /** A line around the bar. */
  readonly edge?: string;
  /** What the ink is laid in; solid when left out. */
  readonly pattern?: 'hatch' | 'dots';
  /** The row's name is set bold. */
  readonly weight?: 'bold';
  readonly badge?: 'up' | 'level' | 'down';
  /** Rows that no rule of the highlight paints step back. */
  readonly fadeOthers?: true;
}

export interface HighlightRule {
  readonly id: string;
  readonly when: When;
  readonly encode: Encode;
  readonly on: boolean;
  /** The reader of a page may switch it. */
  readonly reader?: true;
}

/** Inks between two ends, or on both sides of a middle, mixed in OKLab. */
export interface Ramp {
  readonly low: string;
  readonly high: string;
  /** A ramp with a middle diverges from it: its ink, and where it lies (0, a number, or each row's benchmark). */
  readonly middle?: { readonly ink: string; readonly at: number | 'benchmark' };
  /** Where the inks end; left out: at the least and the greatest there is. */
  readonly ends?: readonly [number, number];
}

/** Rules in order; the first that is on and fits paints. What none paints takes its ink from the ramp, if there is one. */
export interface Highlight {
  readonly name: string;
  readonly on: LitOn;
  /** What is looked at, for `expression`: aggregates over the measure's table. */
  readonly expression?: string;
  readonly rules: readonly HighlightRule[];
  readonly ramp?: Ramp;
}

/** How a figure looks: what every form takes, and what each form adds. */
export interface Look extends FormLook {
  /** A template with live values; left out: a sentence that fits. */
  readonly title?: string;
  readonly caption?: string;
  /** CSS pixels. A height left out grows with the rows. */
  readonly width?: number;
  readonly height?: number;
  /** Ends of the figure's own ruler; left out: what fits. */
  readonly domain?: readonly [number, number];
  readonly rank?: RankKind;
  /** Which steps `smoothed k` takes. */
  readonly window?: Window;
  /** What an analyst has written on it, and the periods they marked. */
  readonly notes?: readonly LookNote[];
  readonly spans?: readonly LookSpan[];
  /** How its numbers are written, where that is not as their measure says. */
  readonly format?: FigureFormat;
}

/** The parts of a measure's format that a figure may have otherwise. */
export type FigureFormat = Partial<
  Pick<NumberFormat, 'scale' | 'decimals' | 'plus' | 'negative' | 'separators' | 'blank'>
>;

export interface FigureEntry {
  readonly id: string;
  /** What it is called where figures are listed; its title when left out. */
  readonly name?: string;
  readonly brief: string;
  readonly look: Look;
}

/** What a text says of a figure, so that it can be told when new data make it untrue. */
export type Claim =
  | { readonly kind: 'largest gap'; readonly member: string; readonly standing: 'ahead' | 'behind' }
  | { readonly kind: 'hidden offset'; readonly member: string; readonly by: string }
  | { readonly kind: 'took the lead'; readonly member: string; readonly from: string }
  | { readonly kind: 'lands'; readonly standing: 'ahead' | 'level' | 'behind' }
  | { readonly kind: 'extreme member'; readonly member: string };

/** A claim with the sentence that makes it. */
export type Claimed = Claim & { readonly text: string };

/** What stands in a row of a page; `share` is its part of the row's width, in twelfths. */
export type PageBlock =
  | { readonly figure: string; readonly share: number }
  | {
      /** Paragraphs with live values in braces. */
      readonly text: string;
      /** The figure whose values the text tells. */
      readonly about?: string;
      /** What its sentences claim. */
      readonly claims?: readonly Claimed[];
      readonly share: number;
    };

/** A section's heading, or one to four blocks beside one another. */
export type PageRow =
  | { readonly head: string }
  | {
      readonly blocks: readonly PageBlock[];
      /** Pixels; without it the row is as high as its figures need. */
      readonly height?: number;
    };

/** What a reader of a page may choose: members of a field, one at a time or several. */
export interface PageFilter {
  readonly field: string;
  readonly choice: 'one' | 'several';
}

/** Figures arranged for reading, with text and filters. */
export interface Page {
  readonly id: string;
  readonly title: string;
  readonly filters: readonly PageFilter[];
  /** The reader may choose the period. */
  readonly period?: true;
  readonly rows: readonly PageRow[];
  /** Suggestions nobody wants to see again: a figure's id and what its numbers claim. */
  readonly dismissed?: readonly { readonly figure: string; readonly kind: Claim['kind'] }[];
}

/** A finding that is let stand, and why. */
export interface Accepted {
  readonly code: string;
  /** `report` for every place in which the same is found. */
  readonly about: 'figure' | 'highlight' | 'table' | 'measure' | 'benchmark' | 'page' | 'report';
  /** The figure's, table's or page's id, the highlight's, measure's or benchmark's name; of a report, what is found. */
  readonly id: string;
  /** Which of several facts of that kind about the same thing; left out, all of them. */
  readonly fact?: string;
  readonly reason: string;
}

/** Everything: tables, calendar, measures, benchmarks, rulers, highlights, figures, pages. */
export interface Report {
  readonly boldRuler: typeof REPORT_VERSION;
  readonly name: string;
  readonly calendar: CalendarSettings;
  readonly tables: readonly TableEntry[];
  readonly measures: readonly Measure[];
  readonly benchmarks: readonly Benchmark[];
  readonly rulers: readonly RulerEntry[];
  readonly highlights: readonly Highlight[];
  readonly figures: readonly FigureEntry[];
  readonly pages: readonly Page[];
  /** Fields in order, each finer than the one before, along which figures are gone into. */
  readonly hierarchies?: readonly (readonly string[])[];
  /** Findings of the level checks that somebody has looked at and lets stand. */
  readonly accepted?: readonly Accepted[];
}

/** What a name stands for. */
export type Named = 'measure' | 'benchmark' | 'highlight' | 'ruler';

/** The figure of that id. */
export function figureOf(report: Report, id: string): FigureEntry | undefined {
  return report.figures.find((figure) => figure.id === id);
}

/** The figures that a page shows or tells of. */
export const figuresOn = ({ rows }: Pick<Page, 'rows'>): ReadonlySet<string> =>
  new Set(
    rows.flatMap((row) =>
      'blocks' in row ? row.blocks.flatMap((block) => ('figure' in block ? block.figure : (block.about ?? []))) : [],
    ),
  );
