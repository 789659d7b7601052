import { writeBrief, type Brief, type Condition, type Vocabulary } from '../brief';
import { endOf, resolvePeriod, type Day, type FiscalCalendar, type Grain, type Period, type Span } from '../calendar';
import {
  aggregatesOf,
  checkExpression,
  columnsOf,
  isAdditive,
  readExpression,
  type Conversion,
  type Expression,
} from '../measure';
import { didYouMean, isProblem, Problem } from '../problem';
import {
  benchmarksOf,
  type Benchmark,
  type CurrencyConversion,
  type Look,
  type Measure,
  type RankKind,
  type Report,
} from '../report';
import type { Window } from '../series';
import { asOfDay, type KnownSpan } from '../table';
import type { Note } from './cells';
import { conversionOf, convertedOnce } from './conversion';
import type { OpenSource, TableFacts } from './query';

/** An expression with aggregates, checked against its table. */
export interface Aggregated {
  readonly table: TableFacts;
  readonly expression: Expression;
  readonly additive: boolean;
  /**
   * Members add up to the whole whatever is blank. Of several terms, as in `sum(net) - 2 * sum(pieces)`, a member that lacks one is blank,
   * and the whole counts the others of its terms.
   */
  readonly addsUp: boolean;
  /** The expression before its amounts are converted, and how they are; null where they are as they stand in the table. */
  readonly conversion: (Conversion & { readonly of: Expression; readonly said: CurrencyConversion }) | null;
}

/** What a figure's look says of its calculation, beside the brief. */
export interface Choices {
  readonly rank?: RankKind;
  readonly window?: Window;
  /** Numbers or benchmarks at which a dial stops. */
  readonly stops?: Look['stops'];
  /** Where rows of a running period will land. */
  readonly landing?: Look['landing'];
  readonly bands?: Look['bands'];
  readonly order?: Look['order'];
  /** An expression a highlight looks at. */
  readonly lit?: string;
  /** Members a figure can show; of more the largest are shown, and the rest together. */
  readonly most?: number;
  /** A measure of pieces: a waterfall then tells apart what quantity, price and mix did. */
  readonly quantity?: string;
  /** A waterfall then tells apart what exchange rates did. */
  readonly exchange?: true;
}

/** Whether several members together are the sum of their values; else they are computed again from their rows, which takes one field. */
export const areSummed = ({ additive, addsUp }: Aggregated, by: readonly string[]): boolean =>
  addsUp || (additive && by.length > 1);

/** Everything the parts of an answer share. */
export interface Context {
  readonly source: OpenSource;
  readonly report: Report;
  readonly brief: Brief;
  readonly text: string;
  readonly calendar: FiscalCalendar;
  readonly asOf: Day;
  readonly period: Period;
  /** First and last day with data of the measure's table. */
  readonly known: KnownSpan;
  /** The measure's rows have dates. */
  readonly dated: boolean;
  /** The period names no days: undated rows count too. */
  readonly allTime: boolean;
  readonly measure: Measure;
  readonly of: Aggregated;
  readonly choices: Choices;
  readonly checks: Note[];
}

export async function contextFor(
  source: OpenSource,
  report: Report,
  brief: Brief,
  vocabulary: Vocabulary,
  choices: Choices = {},
): Promise<Context> {
  const measure = measureNamed(report, brief.views[0]!.measure);
  const of = measured(source, report.calendar, measure);
  const span = await dataSpan(source, of);
  const known = span ?? { from: 0, to: 0, begins: 0 };
  const asOf = asOfDay(report.calendar.asOf, span);
  const calendar: FiscalCalendar = report.calendar;
  const allTime = brief.period.kind === 'all time';
  const period = resolvePeriod(brief.period, calendar, asOf, { from: known.from, to: Math.min(known.to, asOf) });
  return {
    source,
    report,
    brief,
    text: writeBrief(brief, vocabulary),
    calendar,
    asOf,
    period,
    known,
    dated: span !== null,
    allTime,
    measure,
    of,
    choices,
    checks: [],
  };
}

/** First and last day with data of an expression: days on which a column it reads has a value. */
export function dataSpan(
  source: OpenSource,
  { table, expression, conversion }: Pick<Aggregated, 'table' | 'expression' | 'conversion'>,
): Promise<KnownSpan | null> {
  return source.span(table.id, [...new Set(columnsOf(conversion?.of ?? expression))].sort());
}

export function measureNamed(report: Report, name: string): Measure {
  const measure = report.measures.find((m) => m.name === name);
  if (!measure)
    throw new Problem(
      'unknown-measure',
      `there is no measure “${name}”`,
      { in: 'report' },
      didYouMean(
        name,
        report.measures.map((m) => m.name),
        'measure',
      ),
    );
  return measure;
}

export function benchmarkNamed(report: Report, name: string): Benchmark {
  const all = benchmarksOf(report);
  const benchmark = all.find((b) => b.name === name);
  if (!benchmark)
    throw new Problem(
      'unknown-benchmark',
      `there is no benchmark “${name}”`,
      { in: 'report' },
      didYouMean(
        name,
        all.map((b) => b.name),
        'benchmark',
      ),
    );
  return benchmark;
}

function factsOf(source: OpenSource, table: string, who: string): TableFacts {
  const facts = source.facts(table);
  if (!facts)
    throw new Problem(
      'unknown-table',
      `there is no table “${table}”`,
      { in: who },
      'add it to “tables” in the report, or correct the name',
    );
  return facts;
}

/** A measure's expression. Throws a `Problem` that names the measure. */
export const measured = (source: OpenSource, calendar: FiscalCalendar, measure: Measure): Aggregated =>
  aggregated(source, measure.table, measure.expression, `measure “${measure.name}”`, {
    calendar,
    currency: measure.currency,
  });

/**
 * Reads and checks an expression of aggregates. A problem says whose expression it is.
 * @param converting how its amounts become one currency, if they do, and by whose months and years
 */
export function aggregated(
  source: OpenSource,
  table: string,
  expression: string,
  who: string,
  converting?: { readonly calendar: FiscalCalendar; readonly currency: CurrencyConversion | undefined },
): Aggregated {
  const facts = factsOf(source, table, who);
  try {
    const checked = checkExpression(readExpression(expression), expression, facts.columns, 'groups', facts.aliases);
    if (checked.type !== null && checked.type !== 'number') {
      throw new Problem(
        'wrong-type',
        `its value is not a number`,
        { in: `expression “${expression}”` },
        'a measure is a number; put the column into count(…), sum(…), …',
      );
    }
    const additive = isAdditive(checked.expression);
    const terms = aggregatesOf(checked.expression);
    const addsUp = additive && (terms.length === 1 || terms.every(({ fn }) => fn === 'count'));
    const shared = { table: facts, additive, addsUp };
    if (!converting?.currency) return { ...shared, expression: checked.expression, conversion: null };
    const { currency, calendar } = converting;
    const conversion = conversionOf(source, facts, currency, calendar);
    return {
      ...shared,
      expression: convertedOnce(table, checked.expression, expression, conversion),
      conversion: { ...conversion, of: checked.expression, said: currency },
    };
  } catch (error) {
    if (isProblem(error)) throw error.at({ in: `${who}, ${error.place?.in ?? 'expression'}` });
    throw error;
  }
}

export function note(context: Context, code: string, severity: Note['severity'], text: string): void {
  if (!context.checks.some((check) => check.code === code && check.text === text))
    context.checks.push({ code, severity, text });
}

/**
 * Does several things at once, so that what they ask of the source is asked together. What each of them notes is noted in their order,
 * whichever is answered first; of several problems the first is thrown.
 */
export async function atOnce<T extends readonly unknown[]>(
  context: Context,
  ...works: { readonly [K in keyof T]: (own: Context) => Promise<T[K]> | T[K] }
): Promise<T> {
  const owns = works.map((): Context => ({ ...context, checks: [] }));
  const done = await Promise.allSettled(works.map(async (work, i) => work(owns[i]!)));
  const failed = done.find((one) => one.status === 'rejected');
  if (failed) throw failed.reason;
  for (const { checks } of owns) for (const { code, severity, text } of checks) note(context, code, severity, text);
  return done.map((one) => (one as PromiseFulfilledResult<unknown>).value) as unknown as T;
}

/**
 * The days actuals are taken from: the period, but nothing after the as-of date. Null is every row, also those without a date; over time
 * these are in no step, and so not in the whole.
 */
export function actualSpan({
  allTime,
  period,
  known,
  asOf,
  brief,
  of,
}: Pick<Context, 'allTime' | 'period' | 'known' | 'asOf' | 'brief' | 'of'>): Span | null {
  if (!allTime || asOf < known.to) return { from: period.from, to: Math.min(period.to, asOf) };
  if (!brief.grain) return null;
  const far = of.table.far ?? known;
  return { from: Math.min(known.from, far.from), to: Math.max(known.to, far.to) };
}

/** The days of a step that a figure can know in full: it has begun after the data begin, lies in the period and is over. */
export function isWholeStep(
  { known, period, asOf, calendar, allTime }: Pick<Context, 'known' | 'period' | 'asOf' | 'calendar' | 'allTime'>,
  grain: Grain,
  start: Day,
): boolean {
  const end = endOf(grain, start, calendar);
  const { from, to } = allTime ? { from: start, to: end } : period;
  return start >= known.begins && start >= from && end <= Math.min(to, asOf);
}

/** Conditions as a table can follow them; those on fields it lacks are left away and reported to the caller. */
export function conditionsFor(
  conditions: readonly Condition[],
  facts: TableFacts,
  nameIn: (field: string) => string,
): { where: Condition[]; ignored: string[] } {
  const where: Condition[] = [];
  const ignored: string[] = [];
  for (const condition of conditions) {
    const field = nameIn(condition.field);
    if (facts.columns.has(field)) where.push({ ...condition, field });
    else ignored.push(condition.field);
  }
  return { where, ignored };
}
