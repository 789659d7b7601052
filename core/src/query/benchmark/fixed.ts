import {
  GRAINS,
  length,
  overlap,
  spanOf,
  stepsWithin,
  type Day,
  type FiscalCalendar,
  type Grain,
  type Span,
} from '../../calendar';
import { decimalsForParts, decimalsOf, partUpTo, power } from '../../number';
import { didYouMean, Problem } from '../../problem';
import type { Benchmark } from '../../report';
import { actualSpan, note, type Context } from '../context';
import { fromEntries, valuesOf, type Entry, type Values } from '../values';
import type { BenchmarkRequest } from './asked';
import { daysOfStep } from './coverage';

type FixedBenchmark = Benchmark & { kind: 'fixed' };

const isGrain = (word: string): word is Grain => (GRAINS as readonly string[]).includes(word);

/** The field whose members a number belongs to, where it names one. */
export function fieldOfPer({ per }: Pick<FixedBenchmark, 'per'>): string | null {
  return per.find((word) => word !== 'member' && !isGrain(word)) ?? null;
}

/**
 * A number with what it belongs to. 5000 per member and month is 15 000 for one member and a quarter, and for all of them as
 * often that as there are members in scope: those with rows in the figure's period, under its conditions. Per a field it belongs
 * to that field's members, whatever the figure shows. Per nothing it belongs to the whole, and each member has an even part; over
 * time it is spread by days. A measure that does not add up (an average, a ratio) is held against the number itself.
 */
export async function fixedValues(
  context: Context,
  benchmark: FixedBenchmark,
  asked: BenchmarkRequest,
): Promise<Values> {
  const { of, calendar, period } = context;
  const entries = [...(await asked.actual).at.values()];
  // Steps to come have a target, too.
  if (asked.grain) for (const entry of missingSteps(asked, calendar, entries)) entries.push(entry);
  if (asked.by.length === 0 && !asked.grain && entries.length === 0)
    entries.push({ members: [], step: null, value: NaN, rows: 0 });
  if (!of.additive) {
    const { value } = benchmark;
    return fromEntries(
      entries.map((entry) => ({ ...entry, rows: 0, value })),
      decimalsOf(value),
    );
  }
  const shares = await sharesOf(context, benchmark, asked);
  if (!shares) return fromEntries([], null);
  const per = benchmark.per.find(isGrain);
  const times = new Map<Day, number>();
  const timesUpTo = (day: Day) => {
    const span = { from: asked.period.from, to: day };
    if (span.to < span.from) return 0;
    let count = times.get(day);
    if (count === undefined)
      times.set(day, (count = per ? periodsIn(per, span, calendar) : length(span) / length(period)));
    return count;
  };
  const most = Math.abs(benchmark.value) * Math.max(1, shares.all) * Math.max(1, timesUpTo(asked.period.to));
  const decimals = decimalsForParts(most, decimalsOf(benchmark.value));
  // What has come by a day for all members up to one: what lies between two days and two members adds up both ways.
  const come = (share: number, day: Day) => Math.round(partUpTo(benchmark.value, timesUpTo(day), decimals) * share);
  const values = entries.map(({ members, step }) => {
    const { from, to } = daysOfStep(asked, step, context);
    const [before, upTo] = shares.of(members);
    // A number for each of nobody is none.
    if (upTo === before) return { members, step, rows: 0, value: NaN };
    const units = come(upTo, to) - come(before, to) - come(upTo, from - 1) + come(before, from - 1);
    return { members, step, rows: 0, value: units / power(decimals) };
  });
  return fromEntries(values, decimals);
}

/** How often a number belongs to each group: for those up to it, and with it. */
interface Shares {
  readonly all: number;
  of(members: readonly string[]): readonly [before: number, upTo: number];
}

/** Null where it cannot be told how many members the number is for. */
async function sharesOf(context: Context, benchmark: FixedBenchmark, asked: BenchmarkRequest): Promise<Shares | null> {
  const { brief, of, source } = context;
  const field = fieldOfPer(benchmark);
  const groups = new Map([...(await asked.actual).at.values()].map(({ members }) => [members.join('\u0000'), 0]));
  if (field !== null) {
    if (!of.table.columns.has(field))
      throw new Problem(
        'unknown-field',
        `“${benchmark.name}” belongs to the members of “${field}”, which is no field of table “${of.table.id}”`,
        { in: `benchmark “${benchmark.name}”` },
        didYouMean(field, [...of.table.columns.keys()], 'field'),
      );
    const by = [...new Set([...asked.by, field])];
    const { at } = await valuesOf(source, of, { by, grain: null, span: actualSpan(context), where: brief.only });
    const place = by.indexOf(field);
    const pairs = [...at.values()].map(({ members }) => ({
      group: asked.by.map((_, i) => members[i]!).join('\u0000'),
      member: members[place]!,
    }));
    // A member with rows in several groups has an even part of its number in each.
    const groupsOf = new Map<string, number>();
    for (const { member } of pairs) groupsOf.set(member, (groupsOf.get(member) ?? 0) + 1);
    for (const { group, member } of pairs) groups.set(group, (groups.get(group) ?? 0) + 1 / groupsOf.get(member)!);
  } else if (benchmark.per.includes('member')) {
    const count = asked.by.length > 0 ? 1 : await membersInScope(context);
    if (count === null) {
      note(
        context,
        'per-which-member',
        'warning',
        `“${benchmark.name}” belongs to each member, and the figure has no field whose members could be counted: name one in the benchmark, as in “per rep”, or add “by …”`,
      );
      return null;
    }
    if (asked.by.length === 0) groups.set('', 0);
    for (const group of groups.keys()) groups.set(group, count);
  } else {
    if (asked.by.length === 0) groups.set('', 0);
    for (const group of groups.keys()) groups.set(group, 1 / groups.size);
  }
  let sum = 0;
  const upTo = new Map<string, readonly [number, number]>();
  const last = groups.size - 1;
  [...groups].forEach(([group, share], i) => {
    const before = sum;
    sum += share;
    // What thirds and the like lose in adding up is put right where they are whole again.
    if (Math.abs(sum - Math.round(sum)) < 1e-9 && (i === last || share < 1)) sum = Math.round(sum);
    upTo.set(group, [before, sum]);
  });
  return { all: sum, of: (members) => upTo.get(members.join('\u0000')) ?? [0, 0] };
}

/** How many members the figure has; without a field one, where a condition keeps one. Null where that cannot be told. */
async function membersInScope(context: Context): Promise<number | null> {
  const { brief, source, of } = context;
  if (brief.by.length === 0) {
    const isOne = brief.only.some((condition) => condition.kind === 'is' && condition.members.length === 1);
    return isOne ? 1 : null;
  }
  const shape = { by: brief.by, grain: null, span: actualSpan(context), where: brief.only };
  return (await valuesOf(source, of, shape)).at.size;
}

/** How many periods of a grain a span holds; one that is cut counts by its days. */
function periodsIn(grain: Grain, span: Span, calendar: FiscalCalendar): number {
  return stepsWithin(grain, span, calendar).reduce((count, start) => {
    const period = spanOf(grain, start, calendar);
    return count + overlap(period, span) / length(period);
  }, 0);
}

function missingSteps(
  { by, grain, period }: BenchmarkRequest,
  calendar: FiscalCalendar,
  entries: readonly Entry[],
): Entry[] {
  const groups = new Map(entries.map(({ members }) => [members.join('\u0000'), members]));
  if (groups.size === 0 && by.length === 0) groups.set('', []);
  const there = new Set(entries.map(({ members, step }) => `${members.join('\u0000')}\u0001${step}`));
  return stepsWithin(grain!, period, calendar).flatMap((step) =>
    [...groups]
      .filter(([key]) => !there.has(`${key}\u0001${step}`))
      .map(([, members]) => ({ members, step, value: NaN, rows: 0 })),
  );
}
