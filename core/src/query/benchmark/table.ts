import { tellCurrencies } from '../currencies';
import {
  hasOwnMonths,
  haveSameYears,
  isoDay,
  length,
  shiftBack,
  spanOf,
  startOf,
  endOf,
  stepsWithin,
  type Day,
  type Span,
} from '../../calendar';
import { decimalsForParts, partUpTo, power, total, type Decimals } from '../../number';
import { listed } from '../../problem';
import { aggregated, conditionsFor, note, type Context } from '../context';
import { Refusal } from '../refusal';
import { during, isFiner } from '../refused';
import { fromEntries, valuesOf, type Entry, type Values } from '../values';
import type { BenchmarkRequest, Held } from './asked';
import { shareUpTo, spreadNote, spreadSaid, type TableBenchmark } from './spread';
import {
  both,
  coverageOfTargets,
  daysOfStep,
  targetsIn,
  tellWithoutTarget,
  wholeTargets,
  type TargetRows,
} from './coverage';

/**
 * A target from another table, matched on the fields both tables have and on time. A target for a longer time than is
 * asked for is spread over its days as the benchmark says; a target for more than one member is split as it says. Parts are
 * whole numbers of a unit so small that it does not show, and add up to the target exactly, over its days and its members.
 */
export async function tableValues(context: Context, benchmark: TableBenchmark, asked: BenchmarkRequest): Promise<Held> {
  const who = `benchmark “${benchmark.name}”`;
  const { calendar } = context;
  const of = aggregated(context.source, benchmark.table, benchmark.expression, who, {
    calendar,
    currency: benchmark.currency,
  });
  const nameIn = (field: string) =>
    benchmark.match && Object.hasOwn(benchmark.match, field) ? benchmark.match[field]! : field;
  const lacking = asked.by.filter((field) => !of.table.columns.has(nameIn(field)));
  const shared = asked.by.filter((field) => !lacking.includes(field));
  const quoted = (fields: readonly string[]) =>
    listed(
      fields.map((field) => `“${field}”`),
      'and',
    );
  if (lacking.length > 0 && benchmark.split === 'none') {
    throw new Refusal(
      'target-lacks-field',
      `${who} has no target by ${quoted(lacking)}`,
      `leave out ${quoted(lacking)}, or say in the benchmark how to split it: "split": "even" or "last year"`,
      (one) => ({ ...one, by: one.by.filter((field) => !lacking.includes(field)) }),
    );
  }
  const { where, ignored } = conditionsFor(context.brief.only, of.table, nameIn);
  if (ignored.length > 0) {
    const fields = [...new Set(ignored)];
    note(
      context,
      'filter-not-followed',
      'warning',
      `“${benchmark.name}” is not set by ${quoted(fields)}, so there is none for the part that the filter keeps, and no gap`,
    );
    return { values: fromEntries([], null), span: null };
  }
  const { date, grain, periods } = of.table;
  await tellCurrencies(context, of, {
    who,
    by: shared.map(nameIn),
    span: date === null || context.allTime ? null : { from: asked.period.from, to: asked.period.to },
    where,
  });
  if (date === null || grain === null) {
    if (asked.grain)
      throw new Refusal(
        'target-without-date',
        `the targets of “${benchmark.name}” have no date, so there is none for each ${asked.grain}`,
        'leave out “each”, or name the date column of its table',
        (one) => ({ ...one, grain: null }),
      );
    const values = await valuesOf(context.source, of, { by: shared.map(nameIn), grain: null, span: null, where });
    const timeless = { whole: true, at: (_: Entry, step: Day | null) => (step === null ? 1 : 0) };
    return { values: await laidOut(context, benchmark, values, shared, asked, [null], () => timeless), span: null };
  }
  if (!of.additive) return { values: await rateValues(context, of, shared, asked, where, nameIn), span: null };
  // Targets are looked at as finely as they are set, so that each is spread in its own way and none is missed.
  const own = [
    ...new Set([
      ...shared,
      ...(grain === 'day' && benchmark.spread !== 'last year' ? [] : commonFields(context, of, nameIn)),
    ]),
  ];
  // Quarters and years of another calendar than the report's are told apart by the months they begin in.
  const isOwn = hasOwnMonths(periods) || hasOwnMonths(context.calendar);
  const isOther =
    !haveSameYears(periods, context.calendar) &&
    (grain === 'quarter' || grain === 'year' || (grain === 'month' && isOwn));
  const targetSpan = (day: Day) => spanOf(grain, day, periods);
  const within = (span: Span) => stepsWithin(grain, span, periods);
  const span = { from: startOf(grain, asked.period.from, periods), to: endOf(grain, asked.period.to, periods) };
  const values = await valuesOf(context.source, of, {
    by: own.map(nameIn),
    grain: !isOther ? grain : isOwn ? 'day' : 'month',
    span,
    where,
  });
  const targets: TargetRows = { values, grain, own, spanOf: targetSpan, within };
  const spread = await spreading(context, benchmark, targets, asked);
  const steps = asked.grain ? stepsWithin(asked.grain, asked.period, context.calendar) : [null];
  const laid = await laidOut(context, benchmark, values, own, asked, steps, spread.over);
  spread.tell();
  await tellWithoutTarget(context, benchmark.name, targets, asked);
  const covers = await coverageOfTargets(context, benchmark.name, targets, asked);
  // What is due of a target that is not spread is not known while it runs.
  const { asOf, period } = context;
  const isOpen = benchmark.spread === 'none' && period.partial && targetSpan(asOf).to > asOf;
  const isOver = (step: Day | null) => {
    const { from, to } = daysOfStep(asked, step, context);
    return from > asOf || to <= asOf;
  };
  const known = isOpen ? both(covers, (_, step) => isOver(step)) : covers;
  return { values: laid, span: null, speaksOf: targetsIn(targets, asked), ...(known ? { covers: known } : {}) };
}

/** Targets that do not add up, such as prices: each group's is computed from its own rows, and holds on every day of its period. */
async function rateValues(
  { source, calendar }: Context,
  of: Parameters<typeof valuesOf>[1],
  shared: readonly string[],
  asked: BenchmarkRequest,
  where: Parameters<typeof conditionsFor>[0],
  nameIn: (field: string) => string,
): Promise<Values> {
  const { grain, periods } = of.table;
  const by = shared.map(nameIn);
  const whole = (span: Span): Span => ({
    from: startOf(grain!, span.from, periods),
    to: endOf(grain!, span.to, periods),
  });
  if (!asked.grain) return valuesOf(source, of, { by, grain: null, span: whole(asked.period), where });
  const entries: Entry[] = [];
  let decimals: Decimals = null;
  for (const step of stepsWithin(asked.grain, asked.period, calendar)) {
    const span = whole(spanOf(asked.grain, step, calendar));
    const values = await valuesOf(source, of, { by, grain: null, span, where });
    ({ decimals } = values);
    for (const entry of values.at.values()) entries.push({ ...entry, step });
  }
  return fromEntries(entries, decimals);
}

/** Fields of the measure by which the targets are set, too. */
function commonFields(
  { of: { table } }: Context,
  targets: { readonly table: { readonly columns: ReadonlyMap<string, string> } },
  nameIn: (field: string) => string,
): string[] {
  const isField = (type: string | undefined) => type === 'text' || type === 'yesno';
  return [...table.columns].flatMap(([field, type]) =>
    isField(type) && isField(targets.table.columns.get(nameIn(field))) ? [field] : [],
  );
}

/** How a target lies over time: how much of it, 0–1, has fallen by the end of a step, counted from its own beginning. */
interface Lying {
  /** All of it falls into one step. */
  readonly whole: boolean;
  at(target: Entry, step: Day | null): number;
}

/** For each target the steps it falls into, and its share up to the end of each; those before add up to the share of the first. */
type Over = (target: Entry) => Lying & { readonly steps?: readonly (Day | null)[]; readonly before?: number };

async function spreading(
  context: Context,
  benchmark: TableBenchmark,
  { grain, own, spanOf: targetSpan, within }: TargetRows,
  asked: BenchmarkRequest,
): Promise<{ readonly over: Over; tell(): void }> {
  const { calendar } = context;
  const wanted = asked.grain
    ? stepsWithin(asked.grain, asked.period, calendar).map((start) => ({
        step: start as Day | null,
        span: spanOf(asked.grain!, start, calendar),
      }))
    : [{ step: null, span: asked.period as Span }];
  const upTo = await shareUpTo(context, benchmark, own, asked);
  const cut = new Map<Day, Span>();
  const over: Over = (entry) => {
    const target = targetSpan(entry.step!);
    const steps: (Day | null)[] = [];
    const ends: number[] = [];
    let isCut = false;
    let from = NaN;
    // Steps follow one another; those before and behind the target have no part in it.
    for (let i = firstEndingFrom(wanted, target.from); i < wanted.length && wanted[i]!.span.from <= target.to; i++) {
      const { step, span } = wanted[i]!;
      const days = {
        from: Math.max(span.from, asked.period.from, target.from),
        to: Math.min(span.to, asked.period.to, target.to),
      };
      if (days.to < days.from) continue;
      if (Number.isNaN(from)) from = days.from;
      if (length(days) !== length(target)) isCut = true;
      steps.push(step);
      ends.push(days.to);
    }
    if (isCut) {
      if (benchmark.spread === 'none')
        throw new Refusal(
          'target-too-coarse',
          `“${benchmark.name}” has a target for each ${grain}, and ${asked.grain ? `one for each ${asked.grain} is asked for` : `the period begins or ends inside a ${grain}`}`,
          `ask for whole ${grain}s, or say in the benchmark how to spread it: "spread": "even", "workdays" or "last year"`,
          asked.grain && isFiner(asked.grain, grain)
            ? (one) => ({ ...one, grain })
            : during(wholeTargets(within(context.period), targetSpan)),
        );
      cut.set(entry.step!, target);
    }
    return {
      whole: !isCut,
      steps,
      before: isCut && from > target.from ? upTo(entry, target, from - 1) : 0,
      at: (_, step) => (isCut ? upTo(entry, target, ends[steps.indexOf(step)]!) : 1),
    };
  };
  const tell = () => {
    if (!asked.grain || asked.grain === grain)
      for (const [start, target] of cut) spreadNote(context, benchmark, grain, start, target, asked);
    else if (cut.size > 0)
      note(
        context,
        'spread',
        'note',
        `“${benchmark.name}” is set for each ${grain} and spread over its ${asked.grain}s ${spreadSaid(benchmark.spread, context.calendar)}`,
      );
  };
  return { over, tell };
}

/** The first of consecutive spans that ends on or after a day. */
function firstEndingFrom(spans: readonly { readonly span: Span }[], day: number): number {
  let low = 0;
  let high = spans.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (spans[middle]!.span.to < day) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** One group's targets in a step: as they stand, and in units of the smallest part. */
interface Sum {
  readonly members: readonly string[];
  readonly step: Day | null;
  readonly whole: number[];
  units: number;
}

/** Targets laid over steps and, where the figure is broken down further than they are, over members. */
async function laidOut(
  context: Context,
  benchmark: TableBenchmark,
  values: Values,
  own: readonly string[],
  asked: BenchmarkRequest,
  steps: readonly (Day | null)[],
  over: Over,
): Promise<Values> {
  const shared = asked.by.filter((field) => own.includes(field));
  const places = shared.map((field) => own.indexOf(field));
  let magnitude = 0;
  for (const { value } of values.at.values()) if (!Number.isNaN(value)) magnitude += Math.abs(value);
  const decimals = decimalsForParts(magnitude, values.decimals);
  const sums = new Map<string, Sum>();
  let isCut = false;
  // Of each period of the targets and each group: what has fallen by the end of every step.
  const periods = new Map<string, PeriodUnits>();
  // What is spread alike is added up first, so that nothing is rounded that need not be.
  const targets =
    benchmark.spread === 'last year'
      ? [...values.at.values()].map((entry) => ({ entry, members: places.map((place) => entry.members[place]!) }))
      : addedUp(values, places);
  for (const { entry, members } of targets) {
    if (Number.isNaN(entry.value)) continue;
    const lying = over(entry);
    isCut ||= !lying.whole;
    const all = partUpTo(entry.value, 1, decimals);
    let before = lying.before ? partUpTo(entry.value, lying.before, decimals) : 0;
    const key = members.join('\u0000');
    const of = `${key}\u0001${entry.step}`;
    const period = periods.get(of) ?? { members, at: [], before: 0 };
    periods.set(of, period);
    period.before += before;
    for (const step of lying.steps ?? steps) {
      const upTo = lying.whole ? all : partUpTo(entry.value, lying.at(entry, step), decimals);
      add(sums, members, step, entry.value, upTo - before, lying.whole);
      period.at.push({ step, units: upTo - before });
      before = upTo;
    }
  }
  if (shared.length < asked.by.length) {
    const split = await splitOver(context, benchmark, shared, asked);
    return entriesOf(splitSums([...periods.values()], split), decimals, decimals);
  }
  return isCut ? entriesOf(sums, decimals, decimals) : entriesOf(sums, null, values.decimals);
}

/** Targets of one period added up over the members that are not told apart. */
function addedUp(
  { at, decimals }: Values,
  places: readonly number[],
): { readonly entry: Entry; readonly members: readonly string[] }[] {
  const groups = new Map<string, { entry: Entry; members: readonly string[]; values: number[] }>();
  for (const entry of at.values()) {
    const members = places.map((place) => entry.members[place]!);
    const key = `${members.join('\u0000')}\u0001${entry.step}`;
    const group = groups.get(key);
    if (group) group.values.push(entry.value);
    else groups.set(key, { entry, members, values: [entry.value] });
  }
  return [...groups.values()].map(({ entry, members, values }) => ({
    entry: { ...entry, value: total(values, decimals) },
    members,
  }));
}

function add(
  sums: Map<string, Sum>,
  members: readonly string[],
  step: Day | null,
  value: number,
  units: number,
  isWhole: boolean,
): void {
  const key = `${members.join('\u0000')}\u0001${step}`;
  let sum = sums.get(key);
  if (!sum) sums.set(key, (sum = { members, step, whole: [], units: 0 }));
  if (isWhole) sum.whole.push(value);
  sum.units += units;
}

/** @param units decimals of the units that are taken; null: the values as they stand. */
function entriesOf(sums: ReadonlyMap<string, Sum>, units: number | null, decimals: Decimals): Values {
  return fromEntries(
    [...sums.values()].map(({ members, step, whole, units: count }) => ({
      members,
      step,
      value: units === null ? total(whole, decimals) : count / power(units),
      rows: 0,
    })),
    decimals,
  );
}

/** Members a target is split over, each with the share, 0–1, of those up to and with it. */
type Split = (shared: readonly string[]) => readonly { readonly members: readonly string[]; readonly upTo: number }[];

/** The targets of a group for one of their periods, in units: what falls before the steps, and into each. */
interface PeriodUnits {
  readonly members: readonly string[];
  readonly at: { step: Day | null; units: number }[];
  before: number;
}

/** Each member's part of a period's target is laid over the steps as the target itself is. */
function splitSums(periods: readonly PeriodUnits[], split: Split): Map<string, Sum> {
  const sums = new Map<string, Sum>();
  for (const { members: shared, at, before } of periods) {
    // Several targets of one group fall into the same steps.
    const steps = new Map<Day | null, number>();
    for (const { step, units } of at) steps.set(step, (steps.get(step) ?? 0) + units);
    // What lies between two members and two steps adds up both ways.
    let share = 0;
    for (const { members, upTo } of split(shared)) {
      let fallen = before;
      for (const [step, units] of steps) {
        const [now, then] = [fallen + units, fallen];
        const mine =
          Math.round(now * upTo) - Math.round(now * share) - Math.round(then * upTo) + Math.round(then * share);
        add(sums, members, step, NaN, mine, false);
        fallen = now;
      }
      share = upTo;
    }
  }
  return sums;
}

/** Splits targets over the members of fields their table lacks: evenly over the members shown, or in last year's proportions. */
async function splitOver(
  context: Context,
  benchmark: TableBenchmark,
  shared: readonly string[],
  asked: BenchmarkRequest,
): Promise<Split> {
  const { source, of, brief, period } = context;
  const places = asked.by.flatMap((field, i) => (shared.includes(field) ? [i] : []));
  // What is split is a target for the whole period, so last year's is taken whole, too.
  const span = shiftBack({ ...period, partial: false }, { years: 1 }, 'date', period.to, context.calendar);
  const weights = new Map<string, number>();
  const isLastYear = benchmark.split === 'last year';
  const [actual, last] = await Promise.all([
    asked.actual,
    isLastYear ? valuesOf(source, of, { by: asked.by, grain: null, span, where: brief.only }) : null,
  ]);
  const groups = new Map([...actual.at.values()].map(({ members }) => [members.join('\u0000'), members]));
  if (last) {
    for (const { members, value } of last.at.values()) {
      weights.set(members.join('\u0000'), Number.isNaN(value) ? 0 : Math.max(0, value));
      groups.set(members.join('\u0000'), members);
    }
  }
  note(
    context,
    'split',
    'note',
    `“${benchmark.name}” is split over “${asked.by.filter((f) => !shared.includes(f)).join('”, “')}” ${benchmark.split === 'even' ? 'evenly' : `in the proportions of ${isoDay(span.from)} to ${isoDay(span.to)}`}`,
  );
  const known = new Map<string, ReturnType<Split>>();
  return (wanted) => {
    const of = wanted.join('\u0000');
    let parts = known.get(of);
    if (!parts) {
      const inside = [...groups].filter(([, members]) => places.map((place) => members[place]!).join('\u0000') === of);
      const all = inside.reduce((sum, [key]) => sum + (weights.get(key) ?? 0), 0);
      const weightOf = (key: string) => (all > 0 ? (weights.get(key) ?? 0) : 1);
      const last = inside.findLastIndex(([key]) => weightOf(key) > 0);
      let sum = 0;
      parts = inside.map(([key, members], i) => {
        sum += weightOf(key);
        // The last one's end is the end, whatever the sums of weights have lost.
        return { members, upTo: i >= last ? 1 : sum / (all > 0 ? all : inside.length) };
      });
      known.set(of, parts);
    }
    return parts;
  };
}
