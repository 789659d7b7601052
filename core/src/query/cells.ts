import type { Brief, View } from '../brief';
import type { Day, FiscalCalendar, Grain, Period, Span } from '../calendar';
import type { Decimals } from '../number';
import type { Benchmark, Measure } from '../report';
import { BLANK_MEMBER } from '../table';
import type { PriceVolumeMix } from './priceVolumeMix';

/** 0 stands for none. */
export const STANDINGS = ['ahead', 'level', 'behind'] as const;
export type Standing = (typeof STANDINGS)[number];

export type CellState = 'actual' | 'forecast' | 'blank';

export interface Note {
  readonly code: string;
  readonly severity: 'error' | 'warning' | 'note';
  readonly text: string;
}

/** One comparison: the numbers of a row or of the whole. Blank is NaN. */
export interface Comparison {
  readonly actual: number;
  readonly benchmark: number;
  readonly due: number;
  readonly gap: number;
  readonly gapPercent: number;
  readonly standing: Standing | null;
  readonly dueGap: number;
  readonly dueGapPercent: number;
  readonly dueStanding: Standing | null;
}

/** The comparison of a whole. */
export interface WholeComparison extends Comparison {
  readonly rows: number;
  /** The step it speaks of, for changes and means: the last that has one. */
  readonly step: Day | null;
}

/** What some forms ask for beside what every form needs; null where it was not asked for. */
export interface Extras {
  /** Where each row's dial stops, as far as a look says so. */
  readonly stops: { readonly low: Float64Array | null; readonly high: Float64Array | null };
  /** What of the gap comes from quantity, price and mix, where a look names a quantity. */
  readonly mix: PriceVolumeMix | null;
  /** Each row’s amount at the exchange rates of the period it is compared with, where a look tells them apart. */
  readonly atRatesBefore: Float64Array | null;
  /** Band edges that are expressions: one array an edge. */
  readonly edges: readonly Float64Array[] | null;
}

/** Nothing was asked for. */
export const NO_EXTRAS: Extras = { stops: { low: null, high: null }, mix: null, atRatesBefore: null, edges: null };

/** The result of a figure's query, in typed arrays of one length: all a form sees. Blank numbers are NaN. */
export interface Cells {
  readonly brief: Brief;
  /** The canonical brief. */
  readonly text: string;
  readonly view: View;
  readonly measure: Measure;
  readonly benchmark: Benchmark | null;
  /** What the benchmark rests on: the kind of what is scaled, where it is. */
  readonly benchmarkKind: Benchmark['kind'] | 'measure' | null;
  readonly calendar: FiscalCalendar;
  readonly asOf: Day;
  /** The measure's rows have dates; else `asOf` and `period` say nothing. */
  readonly dated: boolean;
  readonly period: Period;
  /** The span compared with, for benchmarks that are another period. */
  readonly benchmarkPeriod: Span | null;
  readonly fields: readonly string[];
  readonly grain: Grain | null;
  readonly count: number;
  /** For each field the member of each row; blank is ''. */
  readonly members: readonly (readonly string[])[];
  /** First day of each row's step. */
  readonly steps: Int32Array | null;
  /** 1 for “the rest”. */
  readonly isRest: Uint8Array;
  /** 1 where a row's step is only in part among the data: it still runs, or the data or the period begin or end inside it. */
  readonly isPart: Uint8Array | null;
  /** Days that the change of the step that still runs is compared with, for the view that needs it. */
  readonly cutBefore: Span | null;
  readonly actual: Float64Array;
  readonly benchmarks: Float64Array | null;
  readonly due: Float64Array | null;
  /** Of a forecast held against: what holds each step's value in 95 of 100 cases. */
  readonly low: Float64Array | null;
  readonly high: Float64Array | null;
  readonly gap: Float64Array | null;
  readonly gapPercent: Float64Array | null;
  /** 1 + place in `STANDINGS`. */
  readonly standing: Uint8Array | null;
  /** The same three, held against what is due by now: there is a due value while the period runs. */
  readonly dueGap: Float64Array | null;
  readonly dueGapPercent: Float64Array | null;
  readonly dueStanding: Uint8Array | null;
  readonly rank: Float64Array | null;
  readonly share: Float64Array | null;
  /** Rank by the benchmark's values, for a view of ranks that is held against something. */
  readonly benchmarkRank: Float64Array | null;
  /** Places won since the step before, or since the benchmark's period where there are no steps; lost ones are below 0. */
  readonly rankChange: Float64Array | null;
  /** Where each row will land at the end of the running period, where a look asks for it. */
  readonly landing: Float64Array | null;
  /** What the highlight's expression is in each row. */
  readonly lit: Float64Array | null;
  /** 1 where what a row comes to, or is held against, is not known: an exchange rate is missing. */
  readonly isUnknown: Uint8Array;
  readonly state: readonly CellState[];
  /** Rows of the table behind each cell. */
  readonly rows: Float64Array;
  /** Further views, where a brief has several: one array each, the first view's among them. */
  readonly values: readonly {
    readonly view: View;
    readonly measure: Measure;
    readonly of: Float64Array;
    readonly total: number;
  }[];
  /** The whole: all members, also those that are not kept. */
  readonly total: WholeComparison;
  /** The whole of what is shown: of a selection without its rest the members that are kept, else the same as the total. */
  readonly shown: WholeComparison;
  /** A selection has left members away. */
  readonly isSelection: boolean;
  /** How many members there are, also those that are not kept. */
  readonly everyone: number;
  readonly decimals: Decimals;
  /** The measure adds up over rows. */
  readonly additive: boolean;
  /** Members add up to the whole whatever is blank: the measure has one term, or counts alone. */
  readonly addsUp: boolean;
  /** What a look asks for beside it. */
  readonly extras: Extras;
  readonly leftOut: readonly { readonly reason: string; readonly rows: number }[];
  readonly checks: readonly Note[];
  /** Where each row is a measure of its own: the answers the rows were taken from. */
  readonly stacked: readonly Cells[] | null;
}

export function standingAt(cells: Cells, row: number): Standing | null {
  const code = cells.standing?.[row] ?? 0;
  return code === 0 ? null : STANDINGS[code - 1]!;
}

/** A gap as a reader should judge it. */
export interface Judgement {
  readonly gap: number;
  readonly gapPercent: number;
  readonly standing: Standing | null;
  /** What it is held against: what is due by now while the period runs, else the benchmark. */
  readonly against: 'benchmark' | 'due';
}

/** The judgement of a row: a part of a period is never held against the whole. */
export function judgementAt(cells: Cells, row: number): Judgement {
  if (cells.due && !Number.isNaN(cells.due[row]!)) {
    const code = cells.dueStanding![row]!;
    return {
      gap: cells.dueGap![row]!,
      gapPercent: cells.dueGapPercent![row]!,
      standing: code === 0 ? null : STANDINGS[code - 1]!,
      against: 'due',
    };
  }
  return {
    gap: cells.gap?.[row] ?? NaN,
    gapPercent: cells.gapPercent?.[row] ?? NaN,
    standing: standingAt(cells, row),
    against: 'benchmark',
  };
}

/** What a row is judged by: while the period runs what is due of its benchmark by now; NaN where it has none. */
export function judgedBy({ due, benchmarks }: Pick<Cells, 'due' | 'benchmarks'>, row: number): number {
  return due && !Number.isNaN(due[row]!) ? due[row]! : (benchmarks?.[row] ?? NaN);
}

/** The judgement of all that is shown. */
export function judgementOfShown({ shown }: Pick<Cells, 'shown'>): Judgement {
  return judgementOf(shown);
}

/** The judgement of a whole: while a period runs, against what is due by now. */
export function judgementOf(total: Comparison): Judgement {
  if (!Number.isNaN(total.due))
    return { gap: total.dueGap, gapPercent: total.dueGapPercent, standing: total.dueStanding, against: 'due' };
  return { gap: total.gap, gapPercent: total.gapPercent, standing: total.standing, against: 'benchmark' };
}

/** The name of the member that stands for all that are not kept. */
export const THE_REST = 'the rest';

/** What the members of a row are called, one for each field but that named elsewhere; the rest has one name for all its fields. */
export function namesOfRow(
  { fields, members, isRest }: Pick<Cells, 'fields' | 'members' | 'isRest'>,
  row: number,
  without: string | null = null,
): string[] {
  if (isRest[row]) return [members[0]![row]!];
  return members.flatMap((list, f) => (fields[f] === without ? [] : [list[row] || BLANK_MEMBER]));
}
