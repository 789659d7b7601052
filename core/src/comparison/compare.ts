import { briefOrNull, readBrief, typedName } from '../brief';
import { isoDay, readIsoDay } from '../calendar';
import { answerFigure, numbersOf } from '../figure';
import { isProblem } from '../problem';
import { answerBrief, type Numbers, type Workspace } from '../query';
import type { FigureEntry, Measure } from '../report';

type Maybe = number | null;

/** A number three times: as it was, as the newer rows tell it up to the day of the older ones, and as it is. */
export interface Thrice {
  readonly before: Maybe;
  /** What changed of the past is the way from `before` to here; what is new, the way from here to `after`. */
  readonly restated: Maybe;
  readonly after: Maybe;
}

/** A row of a figure in which something has changed. */
export interface RowChange extends Thrice {
  readonly key: Readonly<Record<string, string | null>>;
  readonly step: string | null;
  /** The benchmark, where there is one. */
  readonly benchmark: Thrice | null;
}

/** A figure before and after. */
export interface FigureChange {
  readonly id: string;
  readonly brief: string;
  readonly measure: string;
  readonly total: Thrice;
  readonly benchmark: Thrice | null;
  /** Where the whole is the same, a row may have changed. */
  readonly rows: readonly RowChange[];
  /** Why it cannot be answered, before or after. */
  readonly problem: { readonly before: string | null; readonly after: string | null } | null;
}

/** A month of the past that is told otherwise now. */
export interface RestatedMonth {
  readonly measure: string;
  readonly month: string;
  readonly before: Maybe;
  readonly after: Maybe;
}

/** Everything that differs between two reports, or one report over other rows. */
export interface ReportComparison {
  /** The day up to which the first measure's rows are complete, before and after; null without dates. */
  readonly asOf: readonly [before: string | null, after: string | null];
  /** Figures of both, the most changed first; those in which nothing changes are last. */
  readonly figures: readonly FigureChange[];
  readonly restated: readonly RestatedMonth[];
  /** Briefs of figures that only one of them has. */
  readonly gone: readonly string[];
  readonly come: readonly string[];
}

/** The same workspace as if it were an earlier day. */
function asOf(workspace: Workspace, day: string): Workspace {
  const { report } = workspace;
  return { ...workspace, report: { ...report, calendar: { ...report.calendar, asOf: day } } };
}

async function attempted(work: () => Promise<Numbers>): Promise<Numbers | string> {
  try {
    return await work();
  } catch (error) {
    if (!isProblem(error)) throw error;
    return error.message;
  }
}

const keyOf = ({ key, step }: { readonly key: object; readonly step: string | null }) => JSON.stringify([key, step]);

/** Numbers that differ in more than the last digits of a division. */
const isChanged = ({ before, restated, after }: Thrice) => !isSame(before, restated) || !isSame(restated, after);
const isSame = (a: Maybe, b: Maybe) =>
  a === b || (a !== null && b !== null && Math.abs(a - b) <= 1e-9 * Math.max(Math.abs(a), Math.abs(b)));

async function figureChange(was: Workspace, is: Workspace, old: FigureEntry, now: FigureEntry): Promise<FigureChange> {
  const before = await attempted(async () => numbersOf(await answerFigure(was, old)));
  const after = await attempted(async () => numbersOf(await answerFigure(is, now)));
  const day = typeof before === 'string' ? null : before.asOf;
  const then = day === null ? is : asOf(is, day);
  const restated = day === null ? after : await attempted(async () => numbersOf(await answerFigure(then, now)));
  const measure = briefOrNull(now.brief, is.vocabulary)?.views[0]!.measure ?? '';
  const base = { id: now.id, brief: now.brief, measure };
  if (typeof before === 'string' || typeof after === 'string' || typeof restated === 'string') {
    const none: Thrice = { before: null, restated: null, after: null };
    const say = (one: Numbers | string) => (typeof one === 'string' ? one : null);
    return {
      ...base,
      total: none,
      benchmark: null,
      rows: [],
      problem: { before: say(before), after: say(after) ?? say(restated) },
    };
  }
  const each = [before, restated, after];
  const thrice = (of: (numbers: Numbers, i: number) => Maybe | undefined): Thrice => {
    const [a, b, c] = each.map((numbers, i) => of(numbers, i) ?? null);
    return { before: a!, restated: b!, after: c! };
  };
  const rows = each.map((numbers) => new Map(numbers.rows.map((row) => [keyOf(row), row])));
  const keys = new Map(each.flatMap((numbers) => numbers.rows.map((row) => [keyOf(row), row] as const)));
  const held = (numbers: Numbers) => numbers.total.benchmark !== undefined;
  const changes = [...keys].flatMap(([id, { key, step }]): RowChange[] => {
    const actual = thrice((_, i) => rows[i]!.get(id)?.actual);
    const benchmark = each.some(held) ? thrice((_, i) => rows[i]!.get(id)?.benchmark) : null;
    return isChanged(actual) || (benchmark && isChanged(benchmark)) ? [{ key, step, ...actual, benchmark }] : [];
  });
  return {
    ...base,
    total: thrice(({ total }) => total.actual),
    benchmark: each.some(held) ? thrice(({ total }) => total.benchmark) : null,
    rows: changes.sort((a, b) => changeOf(b) - changeOf(a)),
    problem: null,
  };
}

/** How much a number has changed, as a share of what it was. */
function changeOf({ before, after, restated }: Thrice): number {
  const share = (from: Maybe, to: Maybe) => {
    if (isSame(from, to)) return 0;
    if (from === null || to === null || from === 0) return 1;
    return Math.abs(to - from) / Math.abs(from);
  };
  return Math.max(share(before, after), share(before, restated));
}

const figureWeight = ({ problem, total, benchmark, rows }: FigureChange) =>
  problem
    ? // What could be answered neither way is no change.
      problem.before === problem.after
      ? 0
      : Infinity
    : Math.max(
        changeOf(total),
        benchmark ? changeOf(benchmark) : 0,
        // A row counts for less than the whole that it is a part of.
        ...rows.map((row) => Math.max(changeOf(row), row.benchmark ? changeOf(row.benchmark) : 0) / 1000),
      );

/** Whether anything in a figure is told otherwise. */
export const isFigureChanged = (change: FigureChange): boolean => figureWeight(change) > 0;

/** Months up to the older day in which a measure is told otherwise. */
async function restatedMonths(was: Workspace, is: Workspace, { name }: Measure): Promise<RestatedMonth[]> {
  const brief = `${typedName(name)} each month during all time`;
  const monthly = (workspace: Workspace) =>
    attempted(async () => numbersOf(await answerBrief(workspace, readBrief(brief, workspace.vocabulary))));
  const before = await monthly(was);
  if (typeof before === 'string' || before.asOf === null) return [];
  const after = await monthly(asOf(is, before.asOf));
  if (typeof after === 'string') return [];
  const actual = ({ rows }: Numbers) => new Map(rows.map((row) => [row.step!, row.actual]));
  const [old, now] = [actual(before), actual(after)];
  return [...new Set([...old.keys(), ...now.keys()])].sort().flatMap((month) => {
    const [a, b] = [old.get(month) ?? null, now.get(month) ?? null];
    return isSame(a, b) ? [] : [{ measure: name, month, before: a, after: b }];
  });
}

/**
 * Compares every figure of two reports, or of one report over two sets of rows, by the figures' ids. What the newer rows tell of days
 * that the older ones knew is told apart from what has come since.
 */
export async function compareReports(was: Workspace, is: Workspace): Promise<ReportComparison> {
  const then = new Map(was.report.figures.map((figure) => [figure.id, figure]));
  const now = new Set(is.report.figures.map(({ id }) => id));
  const figures = await Promise.all(
    is.report.figures.flatMap((figure) => {
      const old = then.get(figure.id);
      return old ? [figureChange(was, is, old, figure)] : [];
    }),
  );
  const measures = is.report.measures.filter(({ name }) => was.report.measures.some((one) => one.name === name));
  const restated = await Promise.all(measures.map((measure) => restatedMonths(was, is, measure)));
  const days = await Promise.all(
    [was, is].map(async ({ report, source }) => {
      if (readIsoDay(report.calendar.asOf) !== null) return report.calendar.asOf;
      const table = report.measures[0]?.table;
      const span = table === undefined || !source.facts(table) ? null : await source.span(table, []);
      return span && isoDay(span.to);
    }),
  );
  return {
    asOf: [days[0] ?? null, days[1] ?? null],
    figures: figures
      .map((one, i) => ({ one, i }))
      .sort((a, b) => figureWeight(b.one) - figureWeight(a.one) || a.i - b.i)
      .map(({ one }) => one),
    restated: restated.flat(),
    gone: was.report.figures.filter(({ id }) => !now.has(id)).map(({ brief }) => brief),
    come: is.report.figures.filter(({ id }) => !then.has(id)).map(({ brief }) => brief),
  };
}
