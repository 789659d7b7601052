import {
  addMonths,
  isoDay,
  length,
  overlap,
  shiftBack,
  spanOf,
  startOf,
  endOf,
  stepName,
  stepsWithin,
  weekday,
  type Grain,
  type Span,
} from '../../calendar';
import { combine, tidy, total, type Decimals } from '../../number';
import { listed, Problem } from '../../problem';
import type { Benchmark } from '../../report';
import { aggregated, conditionsFor, note, type Context } from '../context';
import { fromEntries, valuesOf, type Entry, type Values } from '../values';
import type { Asked } from './asked';

type TableBenchmark = Benchmark & { kind: 'table' };

/**
 * A target from another table, matched on the fields both tables have and on time. A target for a longer time than is
 * asked for is spread over its days as the benchmark says; a target for more than one member is split as it says.
 */
export async function tableValues(context: Context, benchmark: TableBenchmark, asked: Asked): Promise<Values> {
  const who = `benchmark “${benchmark.name}”`;
  const of = aggregated(context.source, benchmark.table, benchmark.expression, who);
  const nameIn = (field: string) => benchmark.match?.[field] ?? field;
  const lacking = asked.by.filter((field) => !of.table.columns.has(nameIn(field)));
  const shared = asked.by.filter((field) => !lacking.includes(field));
  if (lacking.length > 0 && benchmark.split === 'none') {
    throw new Problem(
      'target-lacks-field',
      `${who} has no target by ${listed(
        lacking.map((f) => `“${f}”`),
        'and',
      )}`,
      { in: 'brief' },
      `leave out ${listed(
        lacking.map((f) => `“${f}”`),
        'and',
      )}, or say in the benchmark how to split it: "split": "even" or "last year"`,
    );
  }
  const { where, ignored } = conditionsFor(context.brief.only, of.table, nameIn);
  for (const field of ignored) {
    note(
      context,
      'filter-not-followed',
      'warning',
      `“${benchmark.name}” does not know “${field}”, so it is not narrowed by it: the whole target is compared with a part of the sales`,
    );
  }
  const targets = await targetPeriods(context, benchmark, of, shared.map(nameIn), where, asked);
  const timed = await spreadOver(context, benchmark, targets, shared, asked);
  return lacking.length === 0 ? timed : splitOver(context, benchmark, timed, shared, asked);
}

interface Targets {
  readonly values: Values;
  /** The time one target stands for; null for targets that have no date. */
  readonly grain: Grain | null;
}

/** Targets as they stand in their table: one a group and a period of the table's grain. */
async function targetPeriods(
  context: Context,
  benchmark: TableBenchmark,
  of: Parameters<typeof valuesOf>[1],
  by: readonly string[],
  where: Parameters<typeof conditionsFor>[0],
  asked: Asked,
): Promise<Targets> {
  const { source, calendar } = context;
  const { date, grain } = of.table;
  if (date === null || grain === null) {
    if (asked.grain)
      throw new Problem(
        'target-without-date',
        `the targets of “${benchmark.name}” have no date, so there is none for each ${asked.grain}`,
        { in: 'brief' },
        'leave out “each”, or name the date column of its table',
      );
    return { values: await valuesOf(source, of, { by, grain: null, span: null, where }), grain: null };
  }
  const { from, to } = asked.period;
  const span = { from: startOf(grain, from, calendar), to: endOf(grain, to, calendar) };
  return { values: await valuesOf(source, of, { by, grain, span, where }), grain };
}

/** What part of a target falls to some of its days, as a number from 0 to 1. */
type PartOf = (entry: Entry, target: Span, days: Span) => number;

async function spreadOver(
  context: Context,
  benchmark: TableBenchmark,
  { values, grain }: Targets,
  shared: readonly string[],
  asked: Asked,
): Promise<Values> {
  if (grain === null) return values;
  const { calendar } = context;
  const wanted = asked.grain
    ? stepsWithin(asked.grain, asked.period, calendar).map((start) => ({
        step: start as number | null,
        span: spanOf(asked.grain!, start, calendar),
      }))
    : [{ step: null, span: asked.period as Span }];
  const partOf = await parts(context, benchmark, shared, asked);
  const sums = new Map<string, { entry: Entry; whole: number[]; parts: number[] }>();
  const cut = new Set<number>();
  for (const entry of values.at.values()) {
    const target = spanOf(grain, entry.step!, calendar);
    // Steps follow one another; those before and behind the target have no part in it.
    for (let i = firstEndingFrom(wanted, target.from); i < wanted.length && wanted[i]!.span.from <= target.to; i++) {
      const { step, span } = wanted[i]!;
      const days = {
        from: Math.max(span.from, asked.period.from, target.from),
        to: Math.min(span.to, asked.period.to, target.to),
      };
      if (days.to < days.from) continue;
      const key = `${entry.members.join('\u0000')}\u0001${step}`;
      let sum = sums.get(key);
      if (!sum) sums.set(key, (sum = { entry: { ...entry, step }, whole: [], parts: [] }));
      if (length(days) === length(target)) sum.whole.push(entry.value);
      else {
        if (benchmark.spread === 'none') {
          throw new Problem(
            'target-too-coarse',
            `“${benchmark.name}” has a target for each ${grain}, and ${asked.grain ? `each ${asked.grain}` : `the period ends inside the ${grain}`} is asked for`,
            { in: 'brief' },
            `ask for whole ${grain}s, or say in the benchmark how to spread it: "spread": "even", "workdays" or "last year"`,
          );
        }
        cut.add(entry.step!);
        sum.parts.push(entry.value * partOf(entry, target, days));
      }
    }
  }
  if (!asked.grain || asked.grain === grain)
    for (const start of cut) note(context, 'spread', 'note', spreadNote(context, benchmark, grain, start, asked));
  else if (cut.size > 0)
    note(
      context,
      'spread',
      'note',
      `“${benchmark.name}” is set for each ${grain} and spread over its ${asked.grain}s ${SPREADS[benchmark.spread]}`,
    );
  const decimals: Decimals = cut.size > 0 ? null : values.decimals;
  const entries = [...sums.values()].map(({ entry, whole, parts: some }): Entry => {
    const sum = whole.length > 0 ? total(whole, values.decimals) : NaN;
    if (some.length === 0) return { ...entry, value: sum };
    const rest = total(some, null);
    return { ...entry, value: Number.isNaN(sum) ? rest : combine(sum, rest, null) };
  });
  return fromEntries(entries, decimals);
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

const SPREADS = {
  even: 'evenly by days',
  workdays: 'by working days, Monday to Friday',
  'last year': 'in last year’s daily proportions',
  none: '',
};

function spreadNote(
  { calendar }: Context,
  benchmark: TableBenchmark,
  grain: Grain,
  start: number,
  { period }: Asked,
): string {
  const target = spanOf(grain, start, calendar);
  const days = overlap(target, period);
  return `of the ${stepName(grain, start, calendar)} target of “${benchmark.name}”, ${days} of ${length(target)} days are counted, spread ${SPREADS[benchmark.spread]}`;
}

/** The share of a target that falls to some days: running shares, so that the parts of a target add up to the whole. */
async function parts(
  context: Context,
  benchmark: TableBenchmark,
  shared: readonly string[],
  asked: Asked,
): Promise<PartOf> {
  const running = (weight: (from: number, to: number) => number): ((target: Span, days: Span) => number) => {
    return (target, days) => {
      const whole = weight(target.from, target.to);
      if (whole === 0) return length(days) / length(target);
      return (weight(target.from, days.to) - weight(target.from, days.from - 1)) / whole;
    };
  };
  if (benchmark.spread === 'workdays') {
    const part = running((from, to) => {
      let count = 0;
      for (let day = from; day <= to; day++) if (weekday(day) < 5) count++;
      return count;
    });
    return (_, target, days) => part(target, days);
  }
  if (benchmark.spread !== 'last year') return (_, target, days) => length(days) / length(target);
  const { source, of, brief, calendar } = context;
  const grain = of.table.grain ?? 'day';
  const from = addMonths(startOf('year', asked.period.from, calendar), -12);
  const span = { from, to: addMonths(endOf('year', asked.period.to, calendar), -12) };
  const { where } = conditionsFor(brief.only, of.table, (field) => field);
  const daily = await valuesOf(source, of, { by: shared, grain: grain === 'day' ? 'day' : grain, span, where });
  const byGroup = new Map<string, Map<number, number>>();
  for (const { members, step, value } of daily.at.values()) {
    const key = members.join('\u0000');
    let days = byGroup.get(key);
    if (!days) byGroup.set(key, (days = new Map()));
    days.set(step!, Number.isNaN(value) ? 0 : Math.max(0, value));
  }
  return (entry, target, days) => {
    const lastYear = byGroup.get(entry.members.join('\u0000'));
    return running((a, b) => {
      let sum = 0;
      for (let day = a; day <= b; day++) sum += lastYear?.get(addMonths(day, -12)) ?? 0;
      return sum;
    })(target, days);
  };
}

/** Splits targets over the members of fields their table lacks: evenly over the members shown, or in last year's proportions. */
async function splitOver(
  context: Context,
  benchmark: TableBenchmark,
  targets: Values,
  shared: readonly string[],
  asked: Asked,
): Promise<Values> {
  const { source, of, brief, period } = context;
  const places = asked.by.map((field) => shared.indexOf(field));
  const sharedOf = (members: readonly string[]) => members.filter((_, i) => places[i]! >= 0);
  // What is split is a target for the whole period, so last year's is taken whole, too.
  const span = shiftBack({ ...period, partial: false }, { years: 1 }, 'date', period.to);
  let weights: Map<string, number> | null = null;
  let groups = new Map([...asked.actual.at.values()].map(({ members }) => [members.join('\u0000'), members]));
  if (benchmark.split === 'last year') {
    const last = await valuesOf(source, of, { by: asked.by, grain: null, span, where: brief.only });
    weights = new Map(
      [...last.at.values()].map(({ members, value }) => [
        members.join('\u0000'),
        Number.isNaN(value) ? 0 : Math.max(0, value),
      ]),
    );
    groups = new Map([
      ...groups,
      ...[...last.at.values()].map(({ members }) => [members.join('\u0000'), members] as const),
    ]);
  }
  const entries: Entry[] = [];
  for (const target of targets.at.values()) {
    const inside = [...groups].filter(
      ([, members]) => sharedOf(members).join('\u0000') === target.members.join('\u0000'),
    );
    const all = inside.reduce((sum, [key]) => sum + (weights?.get(key) ?? 0), 0);
    const share = (key: string) => (weights && all > 0 ? (weights.get(key) ?? 0) / all : 1 / inside.length);
    // The last member takes what is left, so that the parts add up to the target.
    let left = target.value;
    inside.forEach(([key, members], i) => {
      const value = i === inside.length - 1 ? tidy(left) : tidy(target.value * share(key));
      left -= value;
      entries.push({ members, step: target.step, value, rows: 0 });
    });
  }
  note(
    context,
    'split',
    'note',
    `“${benchmark.name}” is split over “${asked.by.filter((f) => !shared.includes(f)).join('”, “')}” ${benchmark.split === 'even' ? 'evenly' : `in the proportions of ${isoDay(span.from)} to ${isoDay(span.to)}`}`,
  );
  return fromEntries(entries, null);
}
