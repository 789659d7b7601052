import { isoDay } from '../calendar';
import { tidy } from '../number';
import { writeCsv } from '../table';
import { writeView } from '../brief';
import { landingsOf } from './landing';
import { stepOfRow } from './pack';
import { STANDINGS, standingAt, type Cells, type Note, type Comparison, type Standing } from './cells';

type Maybe = number | null;

/** One row of the numbers; what does not apply is absent, blank is null. */
export interface NumbersRow {
  readonly key: Readonly<Record<string, string | null>>;
  readonly step: string | null;
  readonly rest?: true;
  readonly actual: Maybe;
  readonly benchmark?: Maybe;
  readonly due?: Maybe;
  /** What holds a forecast in 95 of 100 cases. */
  readonly low?: Maybe;
  readonly high?: Maybe;
  readonly gap?: Maybe;
  readonly gapPercent?: Maybe;
  readonly standing?: Standing | null;
  /** Against what is due by now, while the period runs. */
  readonly dueGap?: Maybe;
  readonly dueGapPercent?: Maybe;
  readonly dueStanding?: Standing | null;
  readonly rank?: Maybe;
  readonly share?: Maybe;
  /** Places won since the step before, or since the benchmark's period. */
  readonly rankChange?: Maybe;
  /** Where the row will land at the end of the running period. */
  readonly landing?: Maybe;
  /** Where a waterfall's step begins and ends. */
  readonly start?: Maybe;
  readonly end?: Maybe;
  readonly mark?: 'new' | 'gone';
  readonly state: string;
  readonly values?: Readonly<Record<string, Maybe>>;
  readonly rows: number;
}

/** The numbers behind a figure: see “Numbers JSON” in docs/formats.md. */
export interface Numbers {
  readonly brief: string;
  /** Null, like the period's days, for rows without dates. */
  readonly asOf: string | null;
  readonly period: { readonly from: string | null; readonly to: string | null; readonly partial: boolean };
  readonly benchmarkPeriod: { readonly from: string; readonly to: string } | null;
  readonly rows: readonly NumbersRow[];
  readonly total: Omit<NumbersRow, 'key' | 'step' | 'state'>;
  /** The whole of a selection that leaves members away. */
  readonly shown?: Omit<NumbersRow, 'key' | 'step' | 'state'>;
  /** Of running sums held against a benchmark. */
  readonly landings?: readonly Readonly<Record<string, unknown>>[];
  /** Of a waterfall: every step with its totals and subtotals, each starting where the one before ends. */
  readonly waterfall?: readonly Readonly<Record<string, unknown>>[];
  /** Of a trend: the straight line through each member's steps. */
  readonly trends?: readonly Readonly<Record<string, unknown>>[];
  readonly leftOut: readonly { readonly reason: string; readonly rows: number }[];
  readonly checks: readonly Note[];
}

/** A number as it is written: blank is null. */
export const maybe = (value: number): Maybe => (Number.isNaN(value) ? null : tidy(value));

/** What a form's numbers tell beside those of every form: for each row, and of the whole figure. */
export interface NumbersExtras {
  ofRow?(row: number): Pick<NumbersRow, 'start' | 'end' | 'mark'>;
  readonly lists?: Readonly<Partial<Record<'waterfall' | 'trends', readonly object[]>>>;
}

/** The numbers of an answer, with what its form adds. */
export function numbersWith(cells: Cells, { ofRow, lists = {} }: NumbersExtras = {}): Numbers {
  const { benchmarks, due, low, high, gap, gapPercent, rank, share, total } = cells;
  const several = cells.values.length > 0;
  const landings = landingsOf(cells);
  const rows = Array.from({ length: cells.count }, (_, i): NumbersRow => ({
    key: Object.fromEntries(cells.fields.map((field, f) => [field, cells.members[f]![i] || null])),
    step: stepOfRow(cells, i),
    ...(cells.isRest[i] ? { rest: true as const } : {}),
    actual: maybe(cells.actual[i]!),
    ...(benchmarks ? { benchmark: maybe(benchmarks[i]!) } : {}),
    ...(due ? { due: maybe(due[i]!) } : {}),
    ...(low && high ? { low: maybe(low[i]!), high: maybe(high[i]!) } : {}),
    ...(gap ? { gap: maybe(gap[i]!), gapPercent: maybe(gapPercent![i]!), standing: standingAt(cells, i) } : {}),
    ...(due
      ? {
          dueGap: maybe(cells.dueGap![i]!),
          dueGapPercent: maybe(cells.dueGapPercent![i]!),
          dueStanding: STANDINGS[cells.dueStanding![i]! - 1] ?? null,
        }
      : {}),
    ...(rank ? { rank: maybe(rank[i]!) } : {}),
    ...(share ? { share: maybe(share[i]!) } : {}),
    ...(cells.rankChange ? { rankChange: maybe(cells.rankChange[i]!) } : {}),
    ...(cells.landing ? { landing: maybe(cells.landing[i]!) } : {}),
    ...ofRow?.(i),
    state: cells.state[i]!,
    ...(several
      ? {
          values: Object.fromEntries([
            [writeView(cells.view), maybe(cells.view.kind === 'rank' ? rank![i]! : cells.actual[i]!)],
            ...cells.values.map(({ view, of }) => [writeView(view), maybe(of[i]!)]),
          ]) as Record<string, Maybe>,
        }
      : {}),
    rows: cells.rows[i]!,
  }));
  const wholeOf = (one: Comparison) => ({
    actual: maybe(one.actual),
    ...(benchmarks ? { benchmark: maybe(one.benchmark) } : {}),
    ...(due ? { due: maybe(one.due) } : {}),
    ...(gap ? { gap: maybe(one.gap), gapPercent: maybe(one.gapPercent), standing: one.standing } : {}),
    ...(due
      ? { dueGap: maybe(one.dueGap), dueGapPercent: maybe(one.dueGapPercent), dueStanding: one.dueStanding }
      : {}),
  });
  return {
    brief: cells.text,
    asOf: cells.dated ? isoDay(cells.asOf) : null,
    period: {
      from: cells.dated ? isoDay(cells.period.from) : null,
      to: cells.dated ? isoDay(cells.period.to) : null,
      partial: cells.dated && cells.period.partial,
    },
    benchmarkPeriod: cells.benchmarkPeriod && {
      from: isoDay(cells.benchmarkPeriod.from),
      to: isoDay(cells.benchmarkPeriod.to),
    },
    rows,
    total: {
      ...wholeOf(total),
      ...(several
        ? {
            values: Object.fromEntries([
              [writeView(cells.view), cells.view.kind === 'rank' ? null : maybe(total.actual)],
              ...cells.values.map(({ view, total: whole }) => [writeView(view), maybe(whole)]),
            ]) as Record<string, Maybe>,
          }
        : {}),
      rows: total.rows,
    },
    ...(cells.isSelection ? { shown: { ...wholeOf(cells.shown), rows: cells.shown.rows } } : {}),
    ...(landings.length > 0 ? { landings: landings.map(withNulls) } : {}),
    ...Object.fromEntries(Object.entries(lists).map(([name, list]) => [name, list.map(withNulls)])),
    leftOut: cells.leftOut,
    checks: cells.checks,
  };
}

/** The same with blanks as null. */
function withNulls(one: object): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(one).map(([name, value]: [string, unknown]) => [
      name,
      typeof value === 'number' ? maybe(value) : value,
    ]),
  );
}

/** The same rows under a heading, one column a number; null where there is none. */
function numbersGrid(numbers: Numbers): {
  readonly header: readonly string[];
  readonly lines: readonly (readonly (string | number | null)[])[];
} {
  const first = numbers.rows[0];
  if (!first) return { header: [], lines: [] };
  const fields = Object.keys(first.key);
  const plain = (
    [
      'actual',
      'benchmark',
      'due',
      'low',
      'high',
      'gap',
      'gapPercent',
      'standing',
      'dueGap',
      'dueGapPercent',
      'dueStanding',
      'rank',
      'share',
      'rankChange',
      'landing',
      'start',
      'end',
      'state',
      'rows',
    ] as const
  ).filter((name) => name in first);
  const views = Object.keys(first.values ?? {});
  const stepped = numbers.rows.some(({ step }) => step !== null);
  const header = distinct([...fields, ...(stepped ? ['step'] : []), ...plain, ...views]);
  const lines = numbers.rows.map((row) => [
    ...fields.map((field) => row.key[field] ?? null),
    ...(stepped ? [row.step] : []),
    ...plain.map((name) => row[name] ?? null),
    ...views.map((view) => row.values?.[view] ?? null),
  ]);
  return { header, lines };
}

/** Names of columns, each once: a field may be called as a number is. */
function distinct(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    let own = name;
    for (let n = 2; taken.has(own); n++) own = `${name} ${n}`;
    taken.add(own);
    return own;
  });
}

/** The same as comma-separated values (RFC 4180). Text that begins like a formula is made harmless. */
export function numbersCsv(numbers: Numbers): string {
  const { header, lines } = numbersGrid(numbers);
  return header.length === 0 ? '' : writeCsv([header, ...lines.map((line) => line.map((cell) => cell ?? ''))]);
}
